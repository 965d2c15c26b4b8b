package adapt

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// leastFit is the fit below which a way is no way here, such as one that leaves all the
// sugar where a limit asks for less. Source: the scale of the schools.
const leastFit = -10.0

// Of the sugar alcohols that are allowed, how much is aimed at, since spoons round; and the
// sweetness that is enough, rather than going over to an experiment. Source: practice.
const (
	aimedPolyols = 0.97
	sweetEnough  = 0.75
)

// load is what a way to sweeten brings: sugar alcohols, allulose with them, and inulin, g.
type load struct{ polyols, all, inulin float64 }

func (a load) plus(b load) load {
	return load{a.polyols + b.polyols, a.all + b.all, a.inulin + b.inulin}
}

// within reports whether a load is no more than another in all.
func (a load) within(most load) bool {
	return a.polyols <= most.polyols && a.all <= most.all && a.inulin <= most.inulin
}

// mostInulin is the inulin of a serving above which many get wind, g. Source: practice, the upper end of 10 to 15 g.
const mostInulin = 15.0

// withinPolyols sees that the sugar alcohols of a whole serving, and allulose with them, toppings included, stay
// below what most can eat at once: by other ways to sweeten where some fit, else by less
// sweetness in all parts alike.
func (c chosen) withinPolyols() chosen {
	if c.refused != nil {
		return c
	}
	servings := float64(max(1, c.written.Servings))
	most := load{formula.MostPolyols * servings, c.demand.LoadMax() * servings, mostInulin * servings}
	stays := load{}
	for _, l := range c.written.Lines {
		if i := c.Larder.Get(l.Ingredient); i != nil && c.pickOf(l.ID) == nil {
			stays = stays.plus(loadOf(i, l.Grams))
		}
	}
	var sweets []*pick
	would := load{}
	for _, p := range c.picks {
		if x := c.load(p, p.School); x.all+x.inulin > 0 {
			sweets = append(sweets, p)
			would = would.plus(x)
		}
	}
	if len(sweets) == 0 || stays.plus(would).within(most) {
		return c
	}
	left := load{most.polyols - stays.polyols, most.all - stays.all, most.inulin - stays.inulin}
	less := 1.0
	if would.polyols > 0 {
		less = min(less, aimedPolyols*left.polyols/would.polyols)
	}
	if would.all > 0 {
		less = min(less, aimedPolyols*left.all/would.all)
	}
	if would.inulin > 0 {
		less = min(less, aimedPolyols*left.inulin/would.inulin)
	}
	best := c.otherSweets(sweets, left)
	if less >= sweetEnough && slices.ContainsFunc(best, func(ch swap.Choice) bool { return ch.Confidence == swap.Experiment }) {
		best = nil
	}
	if best != nil {
		var said []string
		for n, p := range sweets {
			if best[n].School.ID != p.School.ID {
				c = c.with(p.key, best[n])
				said = append(said, fmt.Sprintf(
					"%s for %s rather than %s", strings.TrimSuffix(best[n].School.Title, swap.Beside), p.title(c.Kitchen),
					strings.TrimSuffix(p.School.Title, swap.Beside),
				))
			}
		}
		c.doubts = append(c.doubts, c.keptTo(would, most)+": "+strings.Join(said, "; ")+".")
		return c
	}
	c.sweeten = max(0, less)
	c.doubts = append(c.doubts, c.keptTo(would, most)+fmt.Sprintf(
		", so that it is sweetened %.0f %% as much throughout. Smaller servings could be sweeter; a thinner icing leaves more for the cake.", 100*c.sweeten,
	))
	c.confidence = c.confidence.Worse(swap.Workable)
	return c
}

// otherSweets are the best choices for some picks that keep their polyols within a sum; nil
// where there are none. What the baker chose stays.
func (c *chosen) otherSweets(picks []*pick, most load) []swap.Choice {
	var ways [][]sweetWay
	for _, p := range picks {
		ways = append(ways, c.sweetWays(p))
	}
	var best []swap.Choice
	score := 0.0
	taken := make([]swap.Choice, len(picks))
	var try func(n int, sum load, points float64)
	try = func(n int, sum load, points float64) {
		if !sum.within(most) {
			return
		}
		if n == len(picks) {
			if best == nil || points > score {
				best, score = append([]swap.Choice(nil), taken...), points
			}
			return
		}
		for _, ch := range ways[n] {
			taken[n] = ch.Choice
			try(n+1, sum.plus(ch.brings), points+ch.Score)
		}
	}
	try(0, load{}, 0)
	return best
}

// keptTo says which cap is kept, and whose.
func (c *chosen) keptTo(would, most load) string {
	if would.all > most.all {
		whom := fmt.Sprintf(", %g g for each kg of an adult of 70 kg; a child has half", diet.LoadPerKg)
		if c.demand.LoadMax() != diet.LoadMost {
			whom = ", as you asked"
		}
		return fmt.Sprintf("Allulose and sugar alcohols together are kept to %.0f g a serving, icings and fillings included%s", c.demand.LoadMax(), whom)
	}
	if would.inulin > most.inulin && would.polyols <= most.polyols {
		return fmt.Sprintf("Inulin is kept to %.0f g a serving, icings and fillings included", mostInulin)
	}
	return fmt.Sprintf("Sugar alcohols are kept to %.0f g a serving, icings and fillings included", formula.MostPolyols)
}

// sweetWay is a choice with what it brings.
type sweetWay struct {
	swap.Choice
	brings load
}

// fewWays is how many of the best ways to sweeten are tried for each pick, and with them the one
// that brings the least sugar alcohol.
const fewWays = 5

// sweetWays are the ways to sweeten that are tried for a pick: its own and the best others.
func (c *chosen) sweetWays(p *pick) (out []sweetWay) {
	keep := c.mayStay(p)
	least := -1
	var all []sweetWay
	for _, ch := range p.choices {
		same := ch.School.ID == p.School.ID
		if !ch.Shut.Open() || !same && (ch.Score < leastFit || c.wants(p.key) != "") {
			continue
		}
		if same {
			ch.School = p.School
		} else if keep > 0 {
			ch.School = p.Use.Keeping(ch.School, keep, c.Larder)
		}
		all = append(all, sweetWay{ch, c.load(p, ch.School)})
		if n := len(all) - 1; least < 0 || all[n].brings.all < all[least].brings.all {
			least = n
		}
	}
	for n, w := range all {
		if n < fewWays || n == least || w.School.ID == p.School.ID {
			out = append(out, w)
		}
	}
	return out
}

// sweetBulk tells what stands for sugar by the hundred grams.
func sweetBulk(i *larder.Ingredient) bool { x := loadOf(i, 100); return x.all+x.inulin > 20 }

// loadOf is what so many grams of a food bring.
func loadOf(i *larder.Ingredient, grams float64) load {
	x, inulin := grams/100*i.Facts.Polyols(), 0.0
	if i.ID == "inulin" || i.Like == "inulin" {
		inulin = grams
	}
	return load{x, x + grams/100*i.Facts[larder.Allulose], inulin}
}

// load is what a school brings for a pick at its usual amounts.
func (c *chosen) load(p *pick, s *swap.School) load {
	kind := string(c.written.Kind.Like())
	if p.Topping {
		kind = "topping"
	}
	sum := load{}
	for _, l := range p.Lines {
		for _, part := range s.Parts {
			if i := formula.Part(part, l, c.Larder); i != nil && l.Grams > 0 {
				sum = sum.plus(loadOf(i, l.Grams/p.Use.Per*part.In(kind)))
			}
		}
	}
	return sum
}

// sweetened is what comes of an amount of a topping where all parts are less sweet.
func (c *chosen) sweetened(sh formula.ToppingShare, l *recipe.Line) float64 {
	if c.sweeten > 0 && sh.Of != nil && sweetBulk(sh.Ingredient) && l != nil {
		return c.sweeten * sh.Grams
	}
	return sh.Grams
}
