package adapt

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
)

// Buy is an ingredient that bakes need, together.
type Buy struct {
	Ingredient larder.ID
	Name       string
	Grams      float64
	Have       float64  // g in the house
	Packs      int      // to buy, where the household's pack is known
	Cost       float64  // of them, in the household's currency; 0 not known
	Buy        string   // eggs as whole ones, the rest by weight; "" where enough is in the house
	Labels     []string // to read, and for what
	Unweighed  bool     // some of it is needed beside, such as for greasing
	Spare      string   // how a pack would be saved, "" where it would not
}

// How little of a pack, and of what is needed, is worth a word. Source: practice, what a batch does not
// notice.
const (
	littleOver = 0.15
	littleNeed = 0.08
)

// Used is what bakes take from what is in the house, g of each ingredient.
func Used(results []*Result, kit Kit) map[larder.ID]float64 {
	out := map[larder.ID]float64{}
	for _, b := range Shopping(results, kit) {
		if b.Have > 0 {
			out[b.Ingredient] = b.Have
		}
	}
	return out
}

// Brings is how much of it is in the house more once it is bought, g.
func (b Buy) Brings(i *larder.Ingredient) float64 {
	if b.Packs > 0 && i.Pack != nil {
		return float64(b.Packs) * i.Pack.Grams
	}
	return math.Max(0, b.Grams-b.Have)
}

// shelfOrder is how one walks a shop, by the texture of a food. Source: practice.
var shelfOrder = []string{"fruit", "egg", "liquid", "fat", "flour", "sugar", "lift", "salt"}

// fill says what of it has to be bought: what the house lacks, in packs where one is known.
func (b *Buy) fill(i *larder.Ingredient) {
	need := b.Grams
	if i.Pack != nil {
		b.Have = math.Min(i.Pack.Stock, b.Grams)
		need -= b.Have
	}
	one, _ := i.WeightHow("large")
	switch {
	case b.Grams == 0:
		b.Buy = "a little"
	case need < 0.5:
		b.Buy = ""
	case i.Pack != nil && i.Pack.Grams > 0:
		b.Packs = int(math.Ceil(need/i.Pack.Grams - 1e-6))
		b.Cost = float64(b.Packs) * i.Pack.Price
		b.Buy = fmt.Sprintf("%d × %s", b.Packs, measure.Grams(i.Pack.Grams))
		if over := need - float64(b.Packs-1)*i.Pack.Grams; over <= littleOver*i.Pack.Grams && over <= littleNeed*b.Grams {
			b.Spare = fmt.Sprintf("The last pack is opened for %s: without it, bake a little less or stretch it with something like it.", measure.Grams(over))
		}
	case i.ID == "egg" && one.Grams > 0:
		b.Buy = fmt.Sprintf("%.0f", math.Ceil(need/float64(one.Grams)-0.01))
	default:
		b.Buy = measure.Grams(need).String()
	}
}

// partsOfEggs is the weight of the whole eggs that yolks and whites are parted from: of one egg
// comes one of each.
func partsOfEggs(by map[larder.ID]*Buy, kit Kit) float64 {
	eggs := 0.0
	for _, id := range []larder.ID{"egg-yolk", "egg-white"} {
		if b := by[id]; b != nil {
			one, _ := kit.Larder.Get(id).WeightHow("large")
			eggs = math.Max(eggs, math.Ceil(b.Grams/math.Max(float64(one.Grams), 1)-0.05))
		}
	}
	one, _ := kit.Larder.Get("egg").WeightHow("large")
	return eggs * float64(one.Grams)
}

// Shopping lists what the recipes of some results need, as one walks a shop. Water is free.
func Shopping(results []*Result, kit Kit) []Buy {
	by := map[larder.ID]*Buy{}
	var order []larder.ID
	for _, res := range results {
		demand, label := res.Request.Demand(), ""
		if len(results) > 1 {
			label = " (" + res.Recipe.Title + ")"
		}
		for _, l := range res.Recipe.Lines {
			i := kit.Larder.Get(l.Ingredient)
			if i == nil || i.Family == larder.FamilyWater {
				continue
			}
			b := by[i.ID]
			if b == nil {
				b = &Buy{Ingredient: i.ID, Name: i.Name}
				by[i.ID] = b
				order = append(order, i.ID)
			}
			b.Grams += l.Grams
			b.Unweighed = b.Unweighed || l.Grams == 0
			if v, why := demand.Judge(i); v == diet.CheckLabel && !slices.Contains(b.Labels, why.Words()+label) {
				b.Labels = append(b.Labels, why.Words()+label)
			}
		}
	}
	if parts := partsOfEggs(by, kit); parts > 0 {
		if by["egg"] == nil {
			by["egg"] = &Buy{Ingredient: "egg", Name: kit.Larder.Get("egg").Name}
			order = append(order, "egg")
		}
		by["egg"].Grams += parts
		order = slices.DeleteFunc(order, func(id larder.ID) bool { return id == "egg-yolk" || id == "egg-white" })
	}
	var out []Buy
	for _, id := range order {
		b, i := by[id], kit.Larder.Get(id)
		b.fill(i)
		out = append(out, *b)
	}
	rank := func(b Buy) int { return slices.Index(shelfOrder, kit.Larder.Get(b.Ingredient).Shelf.Texture) }
	slices.SortStableFunc(out, func(a, b Buy) int {
		if x, y := rank(a), rank(b); x != y {
			return x - y
		}
		return strings.Compare(a.Name, b.Name)
	})
	return out
}

// Instead are the ways to buy less: where what replaces something has to be bought, and another way that
// brings no new allergen needs only what is in the house.
func Instead(results []*Result, kit Kit) []string {
	var out []string
	for _, res := range results {
		for _, ch := range res.Changes {
			if ch.Kind != Swapped || kit.inHouse(ch.To) {
				continue
			}
			for _, o := range ch.Options {
				if o.School != ch.School && o.Shut == "" && len(o.New) == 0 && len(o.Labels) == 0 && len(o.About) > 0 && kit.inHouse(o.About) {
					out = append(out, fmt.Sprintf("%s: for %s, %s would do, and is in the house.", res.Recipe.Title, ch.Title, o.Title))
					break
				}
			}
		}
	}
	return out
}

// inHouse reports whether the house has enough of some amounts. Water is free.
func (k Kit) inHouse(of []Amount) bool {
	return !slices.ContainsFunc(of, func(a Amount) bool {
		i := k.Larder.Get(a.Ingredient)
		return i == nil || i.Family != larder.FamilyWater && (i.Pack == nil || i.Pack.Stock < a.Grams)
	})
}
