package bake

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// SlipKind is a kind of slip at the bowl.
type SlipKind string

// The slips.
const (
	Twice   SlipKind = "twice"   // a line went in twice, or a spoon for a half
	Forgot  SlipKind = "forgot"  // a line was forgotten, and found out later
	Instead SlipKind = "instead" // something else went in for a line
	GotIn   SlipKind = "got-in"  // something got in that belongs to no line
)

// SlipKinds lists them with their words.
var SlipKinds = []struct {
	ID    SlipKind
	Words string
}{
	{Twice, "went in twice"}, {Forgot, "was forgotten"}, {Instead, "was taken for something else"}, {GotIn, "something else got in"},
}

// Rescue is one way on after a slip.
type Rescue struct {
	Title string
	How   string
}

// Remedy is what can be done about a slip.
type Remedy struct {
	Lead  string   // what is the matter, in one sentence
	Never string   // for whom nothing rescues it, "" for nobody
	Ways  []Rescue // the best first
}

// Where a sum ends a bake. Source: practice: bread is salted with 2 % of the flour, and past 4 % it is not
// eaten; more lemon juice than a twenty-fifth of a batter is all that is tasted.
const (
	saltedTooMuch = 4.0  // % of the flour
	sourTooMuch   = 0.04 // lemon juice, of the batter
)

// Judge says what can be saved after a slip, from what lies in the bowl now. InOven is true where it bakes
// already.
func (p *Strip) Judge(sheet Sheet, s Slipped, kit Kit) Remedy {
	line := sheet.Recipe.Line(s.Line)
	var own, came *larder.Ingredient
	if line != nil {
		own = kit.Larder.Get(line.Ingredient)
	}
	came = kit.Larder.Get(s.Food)
	r := Remedy{Never: banned(kit.Demand, came)}
	switch {
	case s.Kind == GotIn && came != nil:
		r.Lead = fmt.Sprintf("%s got in.", phrase.Capital(came.Name))
	case line == nil:
		r.Lead = "Say which line it was."
		return r
	case s.Kind == Twice:
		r.Lead = fmt.Sprintf("Twice the %s is in: %s instead of %s.", line.Name, grams(2*line.Grams), grams(line.Grams))
	case s.Kind == Forgot:
		r.Lead = fmt.Sprintf("The %s was forgotten (%s).", line.Name, grams(line.Grams))
	case s.Kind == Instead && came != nil:
		r.Lead = fmt.Sprintf("%s for %s (%s).", phrase.Capital(came.Name), line.Name, grams(line.Grams))
	default:
		r.Lead = "Say what went in instead."
		return r
	}
	if r.Never != "" {
		r.Ways = append(r.Ways, Rescue{
			"For the others, or not at all",
			"Bake it on for those who may have it, labelled, and begin anew for the rest: clean bowl, clean spoon, clean tin. Lifting it out, straining or baking takes nothing of it away.",
		})
		return r
	}
	baking := !p.WentIn.IsZero()
	bowl := p.withSlip(sheet, s, kit)
	if !baking && (s.Kind == Twice || s.Kind == Instead || s.Kind == GotIn) {
		r.Ways = append(r.Ways, Rescue{"Lift it out", "While it still lies dry on top and nothing is stirred: spoon it off with what touches it, weigh what is taken, and put back what else went with it."})
	}
	sum := balance.Add(itemsOf(bowl, kit.Larder))
	if bin := spoiled(sheet, sum, kit); bin != "" {
		if s.Kind == Twice && !baking {
			r.Ways = append(r.Ways, double(sheet, s.Line))
		}
		r.Ways = append(r.Ways, Rescue{"Begin anew", bin})
		return r
	}
	switch {
	case baking && s.Kind == Forgot:
		r.Ways = append(r.Ways, lateRescue(own, line.Name))
	case s.Kind == Forgot:
		r.Ways = append(r.Ways, addNow(own, line))
	case baking:
	case s.Kind == Twice:
		r.Ways = append(r.Ways, double(sheet, s.Line))
		if acid := meets(sum, sheet, kit); acid != "" {
			r.Ways = append(r.Ways, Rescue{"Let acid meet it", acid})
		}
	case s.Kind == Instead:
		r.Ways = append(r.Ways, Rescue{"Add what is missing", fmt.Sprintf("Weigh %s of %s in as well, if there is room in the tin; then it is a larger batch.", grams(line.Grams), line.Name)})
	}
	if !baking {
		if a, err := bowl.Solve(); err == nil {
			t := Tell(bowl, a)
			how := ""
			for _, m := range append(append(t.Moves, t.Why), t.Stays...) {
				if m != "" {
					how += m + " "
				}
			}
			if how != "" && s.Kind != Forgot {
				r.Ways = append(r.Ways, Rescue{"Go on with it", how})
			}
		}
	} else if s.Kind != Forgot {
		r.Ways = append(r.Ways, Rescue{"Let it bake", "Nothing can be taken out now. Look early, taste when it is cold, and note what came of it."})
	}
	return r
}

// banned says for whom something is not, "" where nobody who asked minds.
func banned(d diet.Demand, i *larder.Ingredient) string {
	if i == nil {
		return ""
	}
	if v, why := d.Judge(i); v == diet.Breaks {
		return fmt.Sprintf("Not for those you bake this for: %s. That is not rescued by anything.", why.Words())
	} else if v == diet.CheckLabel {
		return fmt.Sprintf("Read its label before anything else: %s. Till then it is not for those you bake this for.", why.Words())
	}
	return ""
}

// Words say what happened, with its weight: "fine salt went in twice: 9 g more".
func (s Slipped) Words(sheet Sheet, lib *larder.Larder) string {
	name, came := "something", string(s.Food)
	if l := sheet.Recipe.Line(s.Line); l != nil {
		name = l.Name
	}
	if i := lib.Get(s.Food); i != nil {
		came = i.Name
	}
	weight := ""
	if s.Grams > 0 {
		weight = ": " + grams(s.Grams)
	}
	switch s.Kind {
	case Twice:
		if weight != "" {
			weight += " more"
		}
		return name + " went in twice" + weight
	case Forgot:
		return name + " was forgotten"
	case Instead:
		return came + " went in for " + name + weight
	}
	return came + " got in" + weight
}

// Slipped is a recipe as it lies in the bowl after all that went wrong: for its figures.
func (p *Strip) Slipped(r *recipe.Recipe, lib *larder.Larder) *recipe.Recipe {
	if len(p.Slips) == 0 {
		return r
	}
	out := r.Clone()
	for n := range out.Lines {
		l := &out.Lines[n]
		l.Grams += p.twice(l.ID)
		if p.Left[l.ID] {
			l.Grams = 0
		}
	}
	for _, s := range p.Slips {
		if i := lib.Get(s.Food); i != nil && s.Grams > 0 && s.Kind != Twice {
			out.Lines = append(out.Lines, recipe.Line{ID: out.NextID(), Ingredient: i.ID, Name: i.Name, Text: i.Name, Grams: s.Grams, Known: true})
		}
	}
	return out
}

// withSlip is the bowl with what the slip put in or left out, and with all other lines as they were to be.
func (p *Strip) withSlip(sheet Sheet, s Slipped, kit Kit) formula.Bowl {
	q := *p
	q.Slips = slices.DeleteFunc(slices.Clone(p.Slips), func(x Slipped) bool { return x.ID == s.ID })
	q.Left = maps.Clone(p.Left)
	delete(q.Left, s.Line)
	b := q.Bowl(sheet, kit)
	l := b.Aim.Line(s.Line)
	switch {
	case s.Kind == Twice && l != nil:
		b.In[s.Line] = 2 * l.Grams
	case s.Kind == Forgot && l != nil:
		b.In[s.Line] = 0
	case s.Kind == Instead && l != nil:
		b.In[s.Line] = 0
		if i := kit.Larder.Get(s.Food); i != nil {
			b.Extra = append(b.Extra, balance.Item{Ingredient: i, Grams: l.Grams})
		}
	case s.Kind == GotIn:
		if i := kit.Larder.Get(s.Food); i != nil && s.Grams > 0 {
			b.Extra = append(b.Extra, balance.Item{Ingredient: i, Grams: s.Grams})
		}
	}
	return b
}

// itemsOf are all of a bowl, what is to come as worked out.
func itemsOf(b formula.Bowl, l *larder.Larder) []balance.Item {
	out := slices.Clone(b.Extra)
	for _, line := range b.Aim.Batter() {
		g := line.Grams
		if in, ok := b.In[line.ID]; ok {
			g = in
		}
		if i := l.Get(line.Ingredient); i != nil {
			out = append(out, balance.Item{Ingredient: i, Grams: g})
		}
	}
	return out
}

// spoiled says what makes a bowl uneatable, "" for nothing.
func spoiled(sheet Sheet, b balance.Balance, kit Kit) string {
	switch {
	case b.Per(b.Salt) > saltedTooMuch:
		return fmt.Sprintf("Salt is now %.1f %% of the flour; bread has 2, and past 4 nobody eats it. Nothing takes salt out.", b.Per(b.Salt))
	case lemonFor(sheet, b, kit) > sourTooMuch*b.Mass:
		return fmt.Sprintf("%.1f g of soda meet no acid: it tastes of soap, and more acid than a batter bears would be wanted.", balance.SodaGrams(b.Surplus()))
	}
	return ""
}

// lemonFor is the lemon juice that meets the soda of a bowl that would be tasted, g; 0 where none is.
func lemonFor(sheet Sheet, b balance.Balance, kit Kit) float64 {
	left := b.Surplus() - b.SodaTasted(sheet.Recipe.Kind.Like())/100*b.Base*milliequivalents
	return math.Max(0, math.Ceil(100*left/kit.Larder.Get("lemon-juice").Facts[larder.Acid]))
}

// milliequivalents of a gram of soda. Source: calculated, 1000 / 84.007 g a mol.
const milliequivalents = 1000 / 84.007

// meets says how much lemon juice meets soda that is left over, "" where none is or nobody may have it.
func meets(b balance.Balance, sheet Sheet, kit Kit) string {
	g := lemonFor(sheet, b, kit)
	if v, _ := kit.Demand.Judge(kit.Larder.Get("lemon-juice")); g <= 0 || v == diet.Breaks {
		return ""
	}
	return fmt.Sprintf("%s of lemon juice meet the soda that is too much; take as much from the liquid. It rises fast: straight into the oven.", grams(g))
}

// double makes it a double batch: what is in twice is right, of the rest as much again.
func double(sheet Sheet, line recipe.LineID) Rescue {
	return Rescue{
		"Make it a double batch",
		fmt.Sprintf("Of every other line as much again, and two tins (or one after the other). The %s is right then.", sheet.Recipe.Line(line).Name),
	}
}

// addNow says how what was forgotten still comes in before it is baked. Source: practice.
func addNow(i *larder.Ingredient, l *recipe.Line) Rescue {
	how := "Stir it in now, no longer than till it is even."
	switch {
	case i == nil:
	case i.Shelf.Texture == "lift":
		how = "Sift it over the whole bowl and fold it in with as few strokes as it takes, then straight into the oven."
		if i.Family == larder.FamilyYeast {
			how = "Stir it into a tablespoon of lukewarm water and knead that in; the rise begins only now."
		}
	case i.Family == larder.FamilySalt:
		how = "Dissolve it in a tablespoon of the liquid, or of water, and fold that in."
	case i.Shelf.Sweetens:
		how = "Dissolve it in a little warm liquid and fold it in; in a creamed cake it comes out closer."
	case i.Shelf.Moves == "fat":
		how = "Melt it, let it cool to lukewarm, and fold it in as oil."
	case i.Family == larder.FamilyEgg:
		how = "Beat it apart, then fold it in by thirds."
	case i.IsBase():
		how = "Sift it over and fold it in, not beaten: beaten now it toughens."
	}
	return Rescue{fmt.Sprintf("Add the %s now: %s", l.Name, grams(l.Grams)), how}
}

// lateRescue says what becomes of a bake that is in the oven without something. Source: practice.
func lateRescue(i *larder.Ingredient, name string) Rescue {
	how := "Bake it on, look early, and taste it when it is cold."
	switch {
	case i == nil:
	case i.Family == larder.FamilyYeast || i.Shelf.Texture == "lift":
		how = "In the first five minutes a batter can come out, have it folded in and go back into a fresh tin. Later: let it bake through as a flat, close slab; cut it thin."
	case i.Shelf.Sweetens:
		how = "Bake it on: paler and closer. A syrup brushed on while warm, or an icing, brings the sweetness."
	case i.Family == larder.FamilySalt:
		how = "Bake it on; it tastes flat. Salted butter, or a salted topping, helps."
	case i.Shelf.Moves == "fat":
		how = "Bake it on and look ten minutes early: drier, eaten fresh and buttered."
	case i.Family == larder.FamilyEgg:
		how = "Bake it on: it may not hold. Cool it fully, slice thick."
	}
	return Rescue{"It bakes without " + name, how}
}
