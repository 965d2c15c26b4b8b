package larder

import (
	"fmt"
	"strings"

	"kollaris/core/phrase"
)

// Does says in one sentence what an ingredient does in a batter: "Binds, and
// drinks six times its weight." It is made from the figures alone.
func (i *Ingredient) Does() string {
	f := &i.Facts
	var does []string
	say := func(ok bool, format string, args ...any) {
		if ok {
			does = append(does, fmt.Sprintf(format, args...))
		}
	}
	say(f[Gluten] >= 5, "builds the crumb with gluten")
	say(f[Gluten] > 0 && f[Gluten] < 5, "brings a little gluten")
	say(f[Starch] >= 35 && f[Gluten] == 0 && i.IsBase(), "sets with its starch")
	say(f[Binding] >= 5, "binds")
	say(f[Binding] >= 1 && f[Binding] < 5, "holds a batter a little")
	say(f[EggProtein] >= 10, "sets in the heat")
	say(f[Air] >= 5, "holds air")
	say(f[CO2] >= 100, "lifts by itself")
	say(f[Soda] > 0, "lifts where it meets acid")
	say(f[Acid] >= 7 && i.Family != FamilyLift, "feeds soda with its acid")
	say(i.ID == "cream-of-tartar", "is the acid of powder")
	say(f[SolidFat] >= 50, "creams and rubs in (firm at 20 °C)")
	say(
		f[Fat] >= 40 && f[SolidFat] < 50 &&
			(i.Family == FamilyOil || i.Family == FamilySpread || i.Family == FamilySolidFat),
		"keeps a crumb soft",
	)
	say(i.Family == FamilyNutFlour && f[Fat] >= 20, "brings fat and tenderness, but no starch to set")
	say(i.Family == FamilyNutButter, "enriches")
	say(f[Absorption] >= 1 && f[Absorption] < 1.45, "drinks its own weight in water")
	say(f[Absorption] >= 1.45, "drinks %s times its weight", number(f[Absorption]))
	say(f[Sweetness] >= 2, "is %.0f times as sweet as sugar", f[Sweetness])
	say(f[Sweetness] >= 0.3 && f[Sweetness] < 2 && f.Bulk() > 30, "sweetens (%.0f %% of sugar)", 100*f[Sweetness])
	say(f[Water] >= 60 && f[Binding] < 1, "wets")
	say(i.Family == FamilyYeast, "raises by fermenting")
	say(i.Family == FamilySalt, "salts and slows yeast")
	say(
		i.Family == FamilySpice || i.Family == FamilyExtract || i.Family == FamilyZest || i.Family == FamilyHerb,
		"flavours",
	)
	say(i.Family == FamilyNut || i.Family == FamilySeed, "gives bite and fat")
	say(i.Family == FamilyDriedFruit, "sweetens in pieces and draws water")
	if len(does) == 0 {
		return "Fills and flavours."
	}
	s := does[0]
	if last := len(does) - 1; last > 0 {
		s = strings.Join(does[:last], ", ") + ", and " + does[last]
	}
	return phrase.Sentence(s)
}

func number(x float64) string {
	words := []string{"", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"}
	if n := int(x + 0.5); n < len(words) && x-float64(n) < 0.2 && float64(n)-x < 0.2 {
		return words[n]
	}
	return strings.TrimSuffix(fmt.Sprintf("%.1f", x), ".0")
}
