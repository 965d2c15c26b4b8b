package sweet

import (
	"errors"
	"fmt"
	"math"

	"kollaris/core/goal"
	"kollaris/core/larder"
	"kollaris/core/nutrition"
)

// Ask is what a blend has to be.
type Ask struct {
	Was   Mix
	Match Match
	With  []*larder.Ingredient // what it may be made of
	Case
	Polyols float64 // most a serving, g; 0 for MostPolyols
	NetCarb float64 // most a serving that it may bring, g; negative for no limit
	Sugars  float64 // the same of sugars
}

// Blend is what was found.
type Blend struct {
	Mix      Mix // in the order of Ask.With, none without weight
	Was, Sum Sum
	Missed   []string // what could not be had, in words
}

// The errors of Solve.
var (
	ErrNothing = errors.New("nothing sweet to stand for: write for instance 200 g sugar")
	ErrNoParts = errors.New("choose at least one sweetener that it may be made of")
)

// Windows and prices of a blend: a twentieth of sweetness is not tasted, bulk is
// wanted to four fifths. Source: practice.
const (
	sweetWithin  = 0.03
	bulkAtLeast  = 0.80
	bulkAtMost   = 1.05
	sweetWeight  = 10.0
	bulkWeight   = 6.0
	tasteWeight  = 0.5
	amountWeight = 0.05 // between two blends alike, the lighter one
)

// Solve finds the blend that stands for a mix: limits a serving first, then
// sweetness, then bulk, then the taste nearest to sugar.
func Solve(a Ask) (Blend, error) {
	was := a.Was.Sum()
	if was.Sweet <= 0 {
		return Blend{}, ErrNothing
	}
	if len(a.With) == 0 {
		return Blend{}, ErrNoParts
	}
	p := a.programme(was)
	sol, err := p.Solve()
	if err != nil {
		return Blend{}, fmt.Errorf("blend: %w", err)
	}
	b := Blend{Was: was}
	for n, x := range sol.X {
		if g := Round(x); g > 0 {
			b.Mix = append(b.Mix, Part{a.With[n], g})
		}
	}
	b.Sum = b.Mix.Sum()
	for n, l := range p.Limits {
		if sol.Excess[n] > 0.5 {
			b.Missed = append(b.Missed, fmt.Sprintf("%s: %.0f g over in the whole", l.Name, sol.Excess[n]))
		}
	}
	if a.Match != ByBulk {
		if share := b.Sum.Sweet / was.Sweet; share < 1-2*sweetWithin {
			b.Missed = append(b.Missed, fmt.Sprintf("only %.0f %% as sweet within these limits", 100*share))
		}
	}
	if share := b.Sum.Bulk / was.Bulk; a.Match != BySweetness && was.Bulk > 0 && share < bulkAtLeast-0.01 {
		b.Missed = append(b.Missed, fmt.Sprintf("only %.0f %% of the bulk", 100*share))
	}
	return b, nil
}

// programme writes the ask as goals and limits over the grams of each part.
func (a Ask) programme(was Sum) goal.Programme {
	var p goal.Programme
	row := func(of func(*larder.Ingredient) float64) []float64 {
		var out []float64
		for _, i := range a.With {
			out = append(out, of(i))
		}
		return out
	}
	for _, i := range a.With {
		most := 3 * math.Max(was.Grams, was.Sweet)
		p.Vars = append(p.Vars, goal.Var{Name: string(i.ID), Min: 0, Max: most})
	}
	sweet := row(func(i *larder.Ingredient) float64 { return i.Facts[larder.Sweetness] })
	bulk := row(func(i *larder.Ingredient) float64 { return BulkOf(i) / 100 })
	if a.Match != ByBulk {
		p.Goals = append(
			p.Goals,
			goal.Goal{
				Name: "sweetness", Coef: sweet, Lo: (1 - sweetWithin) * was.Sweet, Hi: (1 + sweetWithin) * was.Sweet,
				Scale: was.Sweet, Weight: sweetWeight,
			},
		)
	} else {
		p.Goals = append(p.Goals, goal.Goal{Name: "sweetness", Coef: sweet, Lo: 0, Hi: (1 + sweetWithin) * was.Sweet, Scale: was.Sweet, Weight: sweetWeight})
	}
	if a.Match != BySweetness && was.Bulk > 0 {
		lo := bulkAtLeast
		if a.Match == ByBulk {
			lo = 1 - sweetWithin
		}
		p.Goals = append(
			p.Goals,
			goal.Goal{
				Name: "bulk", Coef: bulk, Lo: lo * was.Bulk, Hi: bulkAtMost * was.Bulk, Scale: was.Bulk,
				Weight: bulkWeight,
			},
		)
	}
	p.Goals = append(
		p.Goals,
		goal.Goal{
			Name:  "taste",
			Coef:  row(func(i *larder.Ingredient) float64 { return TasteOf(i.ID).Off * i.Facts[larder.Sweetness] }),
			Scale: was.Sweet, Weight: tasteWeight,
		},
		goal.Goal{
			Name: "amount", Coef: row(func(*larder.Ingredient) float64 { return 1 }), Scale: math.Max(was.Grams, 1),
			Weight: amountWeight,
		},
	)
	each := float64(max(1, a.Servings))
	limit := func(name string, max float64, coef []float64) {
		p.Limits = append(p.Limits, goal.Limit{Name: name, Coef: coef, Max: max, Wish: true})
	}
	if a.Servings > 0 {
		most := a.Polyols
		if most <= 0 {
			most = MostPolyols
		}
		limit("sugar alcohols", most*each, row(func(i *larder.Ingredient) float64 { return i.Facts.Polyols() / 100 }))
		if a.NetCarb >= 0 {
			limit(
				"net carbohydrate", a.NetCarb*each,
				row(func(i *larder.Ingredient) float64 { return nutrition.Of(i).NetCarb / 100 }),
			)
		}
		if a.Sugars >= 0 {
			limit("sugars", a.Sugars*each, row(func(i *larder.Ingredient) float64 { return i.Facts.Sugars() / 100 }))
		}
	}
	a.shares(limit, row)
	return p
}

// shares keeps each part that does badly alone to its share of the mix, where there is
// something to mix it with, and erythritol to what the water holds.
func (a Ask) shares(limit func(string, float64, []float64), row func(func(*larder.Ingredient) float64) []float64) {
	bodies, together := 0, 0.0
	for _, i := range a.With {
		if !IsIntense(i) {
			bodies++
			together += TasteOf(i.ID).Most
		}
	}
	if bodies < 2 {
		return
	}
	for _, one := range a.With {
		most := TasteOf(one.ID).Most / math.Min(1, together) // those chosen have to make a whole
		if IsIntense(one) || most >= 1 {
			continue
		}
		limit(one.Name+" as a share of the mix", 0, row(func(i *larder.Ingredient) float64 {
			switch {
			case i == one:
				return 1 - most
			case IsIntense(i):
				return 0
			}
			return -most
		}))
	}
	if a.Water > 0 {
		limit("erythritol in the water", a.Water*grittyShare, row(func(i *larder.Ingredient) float64 {
			return (i.Facts[larder.Erythritol] - grittyShare*i.Facts[larder.Water]) / 100
		}))
	}
}

// UsualParts are what a blend is made of where nobody chose, US or EU by which packets
// the household reads. Source: common practice.
func UsualParts(use Use, us bool) []larder.ID {
	switch {
	case use == Caramel:
		return []larder.ID{"isomalt"}
	case use == Icing:
		return []larder.ID{"icing-sweetener"}
	case us && use == Syrup:
		return []larder.ID{"allulose"}
	case use == Syrup:
		return []larder.ID{"xylitol", "fibre-syrup"}
	case us:
		return []larder.ID{"erythritol", "allulose", "stevia-extract"}
	}
	return []larder.ID{"erythritol", "xylitol", "inulin", "stevia-extract"}
}
