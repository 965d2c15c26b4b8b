package adapt

import (
	"maps"
	"slices"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// asked is what every stage works with: the kit and the request.
type asked struct {
	Kit
	req    Request
	demand diet.Demand
	nextID recipe.LineID // of a new line; each stage goes on from the last
}

func newAsked(written *recipe.Recipe, req Request, kit Kit) asked {
	return asked{kit, req, req.Demand(), written.NextID()}
}

// scaled is the batch that is to be made, before anything is replaced.
type scaled struct {
	asked
	before   *recipe.Recipe // as written, of this batch
	written  *recipe.Recipe // eggs brought to whole ones, lines left out removed
	dropped  []recipe.Line
	moved    []Change     // eggs and liquid; later what else moves for the sum's sake
	exceeded []diet.Limit // that it passes
}

// group is the lines of one use that have to go, in the batter or in a topping.
type group struct {
	key     string // of Request.Swaps
	use     *swap.Use
	topping bool
	lines   []recipe.Line
	breaks  cause
	shuts   bool // it breaks the demand by itself, rather than passing a limit
}

// per is how many of the use's measure the group's lines make.
func (g *group) per() float64 {
	sum := 0.0
	for _, l := range g.lines {
		sum += l.Grams
	}
	return sum / g.use.Per
}

// screened is the batch with what has to go in groups, the flour first: what it becomes
// decides what binds and what lifts.
type screened struct {
	scaled
	groups  []*group
	refused *Refusal
}

// pick is a group with its schools, the chosen one among them.
type pick struct {
	group
	choices []swap.Choice
	chosen  swap.Choice
}

// chosen is the batch with a school for each group. Groups of nothing but optional lines
// that no school serves are dropped.
type chosen struct {
	screened
	picks      []*pick
	base       *becoming // nil while the flour stays of a kind
	doubts     []string
	confidence swap.Confidence
}

// pickOf finds the pick of a line; nil for a line that stays.
func (c *chosen) pickOf(id recipe.LineID) *pick {
	for _, g := range c.picks {
		for _, l := range g.lines {
			if l.ID == id {
				return g
			}
		}
	}
	return nil
}

// pickFor is the batter's pick of a use, nil where there is none.
func (c *chosen) pickFor(use string) *pick {
	for _, g := range c.picks {
		if g.use.ID == use && !g.topping {
			return g
		}
	}
	return nil
}

// brought is a pick with the lines that it brings.
type brought struct {
	*pick
	to  []recipe.Line
	raw map[recipe.LineID]float64 // their grams before rounding
}

// amounts is the batch with what each amount comes to.
type amounts struct {
	chosen // with lines that are held, and lines of toppings, at their new amounts
	brings []*brought
	slots  []*slot
	why    map[larder.ID]AmountWhy
}

// own makes a stage's own copy of what the picks bring.
func (a *amounts) own() {
	brings := a.brings
	a.brings = nil
	for _, b := range brings {
		a.brings = append(a.brings, &brought{b.pick, slices.Clone(b.to), maps.Clone(b.raw)})
	}
}

// broughtBy finds what a pick brings.
func (a *amounts) broughtBy(p *pick) *brought {
	for _, b := range a.brings {
		if b.pick == p {
			return b
		}
	}
	return nil
}

// broughtOf finds what stands for a line; nil for a line that stays.
func (a *amounts) broughtOf(id recipe.LineID) *brought {
	if p := a.pickOf(id); p != nil {
		return a.broughtBy(p)
	}
	return nil
}

// assembled is the recipe as it comes out, with the ledger of changes.
type assembled struct {
	amounts
	recipe  *recipe.Recipe
	extra   []recipe.Line // added outside any group: powder, salt
	changes []Change
}
