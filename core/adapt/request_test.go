package adapt_test

import (
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/adapt"
	"kollaris/core/larder"
)

// Whatever an address says is read into a request that writes itself as an address
// which reads as the same request. What was faulty is left out once, but for what was
// asked of the eating: that stays at fault until somebody mends it.
func FuzzRequest(f *testing.F) {
	for _, s := range []string{
		"diet=egg-free&diet=Vegan&ban=soy,nuts&limit=sugars:9&swap.egg=flax-gel&hold.water=12,5&drop=3&servings=9&scale=1.5&tin=2 × round 18 cm",
		"at=350&fan=1&then=160C&after=15&batter=-3.5C&metal=glass&in=2&watts=700", "at=gas 4&cold=yes&flame=1", "less.sugar=30&job=egg:bind&eater=1&stock=1", "limit=net-carb:1e309&scale=NaN&servings=-1&hold=chia:1e9",
		"swap.sugar=mix:erythritol=50+allulose=60", "tin=&at=&batter=", "diet=%00&ban=,,,&swap=::::",
	} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		v, err := url.ParseQuery(s)
		if err != nil {
			return
		}
		req, _ := adapt.ParseRequest(v, larder.Builtin())
		again, faults := adapt.ParseRequest(req.Values(), larder.Builtin())
		if !assert.ElementsMatch(t, req.Unread, faults) {
			t.Fatalf("%q writes itself as %q, at fault: %+v", s, req.Values().Encode(), faults)
		}
		if got, want := again.Values().Encode(), req.Values().Encode(); got != want {
			t.Fatalf("%q is %q and then %q", s, want, got)
		}
	})
}

// Equal requests have equal addresses, however they were typed.
func TestAnAddressIsTheSameHoweverItWasTyped(t *testing.T) {
	want := ""
	for _, s := range []string{
		"diet=egg-free&diet=dairy-free&ban=soya&at=176.66666666666666C&batter=5C&hold=water:1000", "diet=dairy-free&diet=egg-free&ban=Soy&at=350&batter=5&hold.water=1,000+g", "ban=soy,&diet=dairy-free&diet=EGG-FREE&diet=egg-free&at=350+F&batter=41+F&scale=1&hold=water:1000G",
	} {
		v, err := url.ParseQuery(s)
		assert.NoError(t, err)
		req, faults := adapt.ParseRequest(v, larder.Builtin())
		assert.Empty(t, faults, s)
		got := req.Values().Encode()
		if want == "" {
			want = got
		}
		assert.Equal(t, want, got, s)
	}
}
