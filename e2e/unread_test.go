package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// A line that nobody read and that names what the table must not have: the verdict says so first on the page, the line and the step bear
// it, and so do the card, its print, and the card for the table, which is not made.
func TestAnUnreadBannedLineIsSeenEverywhere(t *testing.T) {
	v := start(t)
	v.size(1280, 800)
	v.open("/new")
	v.run(chromedp.SetValue(chromedp.CSS("#text"), "Riverside spice slab\nServes 12\n\n250 g plain flour\n150 g sunflower oil\n150 g brown sugar\n200 ml water\n2 tsp baking powder\n2 tbsp slivered pistachios\n\nMix all. Bake at 175C in a 20 cm square tin for 30 minutes. Serve with salted peanuts."))
	v.click("form.newform button")
	v.wait(".read-bar .btn-act")
	v.click(".read-bar .btn-act")
	v.wait("#bench")
	recipe := strings.TrimSuffix(eval[string](v, `location.pathname`), "/adapt")
	v.open(recipe + "/adapt?ban=nuts&tab=recipe")
	v.wait(".verdict.stop")
	assert.Contains(t, v.text(".verdict-words"), "Not for this table as it stands: leave out slivered pistachios and salted peanuts")
	assert.Contains(t, v.text(".verdict-more"), "In the list “2 tbsp slivered pistachios”: slivered pistachios holds tree nuts")
	assert.Contains(t, v.text(".lines"), "leave it out: not for this table")
	assert.NotContains(t, v.text(".allergens"), "New: none")
	assert.Empty(t, v.faults(everyRule))
	v.click(".verdict-acts .btn-act")
	v.waitFor(`location.pathname.startsWith("/versions/")`)
	v.open(eval[string](v, `location.pathname`) + "/card")
	printed := strings.Join(strings.Fields(v.printed()), " ")
	for _, where := range []string{v.text(".card-sheet"), printed} {
		for _, says := range []string{"Not for this table as it stands", "slivered pistachios", "leave it out: not for this table", "salted peanuts (leave it out: not for this table)"} {
			assert.Contains(t, strings.Join(strings.Fields(where), " "), says)
		}
	}
	v.open(recipe + "/tablecard?ban=nuts")
	assert.Contains(t, v.text("main"), "No card yet")
}
