package adapt

import (
	"maps"
	"slices"

	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/structure"
	"kollaris/core/swap"
)

// asked is what every stage works with: the kit and the request.
type asked struct {
	Kit
	req    Request
	holds  map[larder.ID]float64 // g in the batter, held by the person or kept as written
	demand diet.Demand
	nextID recipe.LineID // of a new line; each stage goes on from the last
}

func newAsked(written *recipe.Recipe, req Request, kit Kit) asked {
	return asked{Kit: kit, req: req, holds: req.Holds, demand: req.Demand(), nextID: written.NextID()}
}

// scaled is the batch that is to be made, before anything is replaced.
type scaled struct {
	asked
	before   *recipe.Recipe // as written, of this batch
	written  *recipe.Recipe // eggs brought to whole ones, lines left out removed
	fills    bool           // a custard or cheesecake in a case: its filling is what has to set
	dropped  []recipe.Line
	moved    []Change     // eggs and liquid; later what else moves for the sum's sake
	exceeded []diet.Limit // that it passes
}

// group is the lines of one use that have to go, in the batter or in a topping.
type group struct {
	formula.Replaced
	key    string // of Request.Swaps
	class  string // of those that are replaced apart
	breaks cause
	shuts  bool // it breaks the demand by itself, rather than passing a limit
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
	doubts     []string
	confidence swap.Confidence
	sweeten    float64 // share of the sweetness that sugar alcohols allow; 0 where they are no matter
}

// formula is the batch as its amounts are searched for, with what has been chosen.
func (c *chosen) formula() *formula.Formula {
	f := &formula.Formula{
		Recipe: c.written, Larder: c.Larder, Kitchen: c.Kitchen,
		Demand: c.demand, Exceeded: c.exceeded, Holds: c.holds,
	}
	for _, p := range c.picks {
		f.Replaced = append(f.Replaced, &p.Replaced)
	}
	return f
}

// pickOf finds the pick of a line; nil for a line that stays.
func (c *chosen) pickOf(id recipe.LineID) *pick {
	for _, g := range c.picks {
		for _, l := range g.Lines {
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
		if g.Use.ID == use && !g.Topping {
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
	chosen   // with lines that are held, and lines of toppings, at their new amounts
	brings   []*brought
	becoming *formula.Becoming // nil while the flour stays of a kind
	lift     float64           // mmol CO2 that the schools need
	slots    []*formula.Slot
	why      map[larder.ID]formula.Why
}

// own makes a stage's own copy of what the picks bring.
func (a *amounts) own() {
	brings := a.brings
	a.brings = nil
	for _, b := range brings {
		a.brings = append(a.brings, &brought{b.pick, slices.Clone(b.to), maps.Clone(b.raw)})
	}
}

// broughtBy finds what stands for what is replaced.
func (a *amounts) broughtBy(of *formula.Replaced) *brought {
	for _, b := range a.brings {
		if &b.Replaced == of {
			return b
		}
	}
	return nil
}

// broughtOf finds what stands for a line; nil for a line that stays.
func (a *amounts) broughtOf(id recipe.LineID) *brought {
	if p := a.pickOf(id); p != nil {
		return a.broughtBy(&p.Replaced)
	}
	return nil
}

// assembled is the recipe as it comes out, with the ledger of changes.
type assembled struct {
	amounts
	recipe  *recipe.Recipe
	extra   []recipe.Line // added outside any group: powder, salt
	changes []Change
	held    structure.Hold // how it is held up
}
