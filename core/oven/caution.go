package oven

import (
	"cmp"

	"kollaris/core/tin"
)

// Cautions are what to mind with a tin or a way of baking; who decides comes last.
// Source: handbook of the trade, cautions.
func Cautions(s Setup, t tin.Tin) []string {
	var out []string
	switch cmp.Or(s.Of, t.Of) {
	case tin.Glass, tin.Stone:
		out = append(
			out,
			"Glass and stone crack between cold and hot: no cold dish into a hot oven, no hot one on a wet top. The maker's manual decides.",
		)
	case tin.Iron:
		out = append(
			out,
			"Cast iron holds its heat: it burns hands and goes on baking after it is out. Take the bake out of it soon.",
		)
	}
	if s.Flame {
		out = append(
			out,
			"Only a pan that its maker allows dry and empty over heat; a coated one must not be overheated. Lid on, lowest flame, open a window; lift the lid away from you, the steam burns. This is the model alone: look from half the time on. The maker's manual decides.",
		)
	}
	if s.Paper || s.Collar {
		out = append(out, "Collars and liners made for ovens, no newsprint, and clear of the element or flame.")
	}
	return out
}
