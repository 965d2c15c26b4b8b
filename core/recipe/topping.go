package recipe

import "regexp"

// toppings are the words by which recipes call what does not go into the tin.
var toppings = regexp.MustCompile(`(?i)\b(icing|frosting|glaze|drizzle|syrup|filling|topping|buttercream|sauce|to serve|to finish|to decorate|decoration|wash)\b`)

// Batter returns the lines that go into the tin: neither topping nor to serve.
func (r *Recipe) Batter() []Line {
	var out []Line
	for _, l := range r.Lines {
		if !IsTopping(l.Section) {
			out = append(out, l)
		}
	}
	return out
}
