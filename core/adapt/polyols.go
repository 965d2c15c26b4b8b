package adapt

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/formula"
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

// withinPolyols sees that the sugar alcohols of a whole serving, toppings included, stay
// below what many guts bear: by other ways to sweeten where some fit, else by less
// sweetness in all parts alike.
func (c chosen) withinPolyols() chosen {
	if c.refused != nil {
		return c
	}
	most := formula.MostPolyols * float64(max(1, c.written.Servings))
	stays := 0.0
	for _, l := range c.written.Lines {
		if i := c.Larder.Get(l.Ingredient); i != nil && c.pickOf(l.ID) == nil {
			stays += l.Grams / 100 * i.Facts.Polyols()
		}
	}
	var sweets []*pick
	would := 0.0
	for _, p := range c.picks {
		if x := c.polyols(p, p.School); x > 0 {
			sweets = append(sweets, p)
			would += x
		}
	}
	if len(sweets) == 0 || stays+would <= most {
		return c
	}
	best, less := c.otherSweets(sweets, most-stays), aimedPolyols*(most-stays)/would
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
		c.doubts = append(c.doubts, fmt.Sprintf(
			"Sugar alcohols are kept to %.0f g a serving, icings and fillings included: %s.", formula.MostPolyols, strings.Join(said, "; "),
		))
		return c
	}
	c.sweeten = max(0, less)
	c.doubts = append(c.doubts, fmt.Sprintf(
		"Sugar alcohols are kept to %.0f g a serving, icings and fillings included, so that it is sweetened %.0f %% as much throughout. Smaller servings could be sweeter.",
		formula.MostPolyols, 100*c.sweeten,
	))
	c.confidence = c.confidence.Worse(swap.Workable)
	return c
}

// otherSweets are the best choices for some picks that keep their polyols within a sum; nil
// where there are none. What the baker chose stays.
func (c *chosen) otherSweets(picks []*pick, most float64) []swap.Choice {
	var ways [][]sweetWay
	for _, p := range picks {
		ways = append(ways, c.sweetWays(p))
	}
	var best []swap.Choice
	score := 0.0
	taken := make([]swap.Choice, len(picks))
	var try func(n int, sum, points float64)
	try = func(n int, sum, points float64) {
		if sum > most {
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
			try(n+1, sum+ch.polyols, points+ch.Score)
		}
	}
	try(0, 0, 0)
	return best
}

// sweetWay is a choice with the sugar alcohols that it brings, g.
type sweetWay struct {
	swap.Choice
	polyols float64
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
		all = append(all, sweetWay{ch, c.polyols(p, ch.School)})
		if n := len(all) - 1; least < 0 || all[n].polyols < all[least].polyols {
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

// polyols are the sugar alcohols that a school brings for a pick at its usual amounts, grams.
func (c *chosen) polyols(p *pick, s *swap.School) float64 {
	kind := string(c.written.Kind.Like())
	if p.Topping {
		kind = "topping"
	}
	sum := 0.0
	for _, l := range p.Lines {
		for _, part := range s.Parts {
			if i := formula.Part(part, l, c.Larder); i != nil && l.Grams > 0 {
				sum += l.Grams / p.Use.Per * part.In(kind) / 100 * i.Facts.Polyols()
			}
		}
	}
	return sum
}

// sweetened is what comes of an amount of a topping where all parts are less sweet.
func (c *chosen) sweetened(sh formula.ToppingShare, l *recipe.Line) float64 {
	if c.sweeten > 0 && sh.Of != nil && sh.Ingredient.Facts.Polyols() > 20 && l != nil {
		return c.sweeten * sh.Grams
	}
	return sh.Grams
}
