package recipe

import "kollaris/core/pattern"

// toppings are the words by which recipes call what does not go into the tin.
var toppings = pattern.Must(
	`(?i)\b(icing|frosting|glaze|drizzle|syrup|filling|topping|buttercream|sauce|to serve|to finish|to decorate|decoration|wash|streusel)\b`,
)

// onTop are the words by which a line says that it stays outside the dough.
var onTop = pattern.Must(
	`(?i)\b(?:to|for) (?:glaze|glazing|brush|brushing|dust|dusting|sprinkle|sprinkling|roll(?:ing)? in|decorate|decorating|decoration|serve|serving|finish|grease|greasing|top|topping|scatter|(?:the )?egg[- ]?wash|the top|the tin|the pan)\b`,
)

var crusts = pattern.Must(`(?i)\b(?:pastry|crust|shortcrust|tart case|pie case|case)\b`)

// IsCrust reports whether a section is the pastry of a tart or pie, which wants a solid fat
// whatever goes into it.
func IsCrust(section string) bool { return crusts.MatchString(section) }

// Topping reports whether the line is eaten beside the batter or spread on it
// rather than mixed in: of an icing's section, or "to glaze".
// What is extra, for brushing or dusting, is no part of the amount, which is mixed in.
func (l Line) Topping() bool {
	return l.Section != "" && IsTopping(l.Section) || l.Note != "" && onTop.MatchString(l.Note) && onTop.MatchString(extra.ReplaceAllString(l.Note, ""))
}

var extra = pattern.Must(`(?i)(?:\b(?:plus|and|with)\b|\+|&)?\s*(?:a (?:little|bit|splash) |some |a bit )?\b(?:extra|more|another)\b.*`)

// Batter returns the lines that go into the tin: neither topping nor to serve.
func (r *Recipe) Batter() []Line {
	out := make([]Line, 0, len(r.Lines))
	for _, l := range r.Lines {
		if !l.Topping() {
			out = append(out, l)
		}
	}
	return out
}
