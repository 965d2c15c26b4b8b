package adapt_test

import (
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/larder"
)

// claim is a sentence that says how much of something what came in brings, by its words.
var (
	asMuch = map[larder.Column]*regexp.Regexp{
		larder.Sweetness: regexp.MustCompile(`(?i)as sweet as|makes up the sweetness`),
		larder.Fat:       regexp.MustCompile(`(?i)as much fat|carries as much|as fat as|carries the fat|has the fat`),
		larder.Binding:   regexp.MustCompile(`(?i)binds as .* would`),
	}
	shareOf = regexp.MustCompile(`(?:brings|carries|has|brings it to) (\d+) %`)
)

// What a change's reason says of amounts is so, by the amounts of the change itself.
func TestReasonsAreTrue(t *testing.T) {
	lib := larder.Builtin()
	asked := 0
	for k, r := range corpus(t) {
		for q, req := range requests() {
			if (k+q)%11 != 0 {
				continue
			}
			res, err := adapt.Adapt(r, req, adapt.DefaultKit())
			require.NoError(t, err)
			for _, c := range res.Changes {
				if c.Kind != adapt.Swapped || res.Refused != nil {
					continue
				}
				of := func(list []adapt.Amount, col larder.Column) float64 {
					sum := 0.0
					for _, a := range list {
						sum += a.Grams * lib.Get(a.Ingredient).Facts.Or(col, 0)
					}
					return sum
				}
				for col, like := range asMuch {
					was, now := of(c.From, col), of(c.To, col)
					if was <= 0 || !like.MatchString(c.Reason) || strings.Contains(c.Reason, "does as well") {
						continue
					}
					asked++
					assert.InDelta(t, 1, now/was, 0.15, "%s, %v: %s", r.Title, req.Demand().Words(), c.Reason)
				}
				assert.NotContains(t, c.Reason, "{", r.Title)
				if strings.HasPrefix(c.Reason, "Nothing is put") {
					assert.Empty(t, c.To, "%s: %s", r.Title, c.Reason)
				}
				if m := shareOf.FindStringSubmatch(c.Reason); m != nil {
					asked++
					said, _ := strconv.ParseFloat(m[1], 64)
					near := false
					for col := range asMuch {
						was, now := of(c.From, col), of(c.To, col)
						near = near || was > 0 && said-1.5 < 100*now/was && 100*now/was < said+1.5
					}
					assert.True(t, near, "%s: %s", r.Title, c.Reason)
				}
				if strings.Contains(c.Reason, "a mole") {
					continue // of the chemistry
				}
				for _, g := range regexp.MustCompile(`(\d+(?:\.\d+)?) g of`).FindAllStringSubmatch(c.Reason, -1) {
					x, _ := strconv.ParseFloat(g[1], 64)
					assert.True(t, holds(c.From, x) || holds(c.To, x), "%s: %s", r.Title, c.Reason)
				}
			}
		}
	}
	t.Logf("%d sentences", asked)
	assert.Greater(t, asked, 200)
}

// holds reports whether grams are those of an amount, of all of one ingredient, or of all.
func holds(list []adapt.Amount, x float64) bool {
	by, all := map[larder.ID]float64{}, 0.0
	near := func(y float64) bool { return y > x*0.97-0.6 && y < x*1.03+0.6 }
	for _, a := range list {
		by[a.Ingredient] += a.Grams
		all += a.Grams
		if near(a.Grams) {
			return true
		}
	}
	for _, y := range by {
		if near(y) {
			return true
		}
	}
	return near(all)
}
