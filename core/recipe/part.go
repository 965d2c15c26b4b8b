package recipe

import (
	"slices"
	"strings"
)

// Role is what a part of a recipe is to the whole. It is settled once, where the text is read.
type Role string

// The roles of parts. A recipe without parts is one batter.
const (
	Batter     Role = ""           // batter or dough
	Preferment Role = "preferment" // poolish, biga, levain, sponge
	Scald      Role = "scald"      // flour cooked in water: tangzhong
	Soaker     Role = "soak"       // fruit, seeds or grain in water, or what a baked cake drinks
	CrumbBase  Role = "crumb-base"
	Crust      Role = "crust" // short pastry, that wants a solid fat
	Filling    Role = "filling"
	Icing      Role = "icing"
	Glaze      Role = "glaze"
	Syrup      Role = "syrup"
	Topping    Role = "topping"
	Sauce      Role = "sauce"
	Wash       Role = "wash" // brushed on before the oven
	Bath       Role = "bath" // boiled in and thrown away
	ToServe    Role = "to-serve"
)

var roles = []Role{Batter, Preferment, Scald, Soaker, CrumbBase, Crust, Filling, Icing, Glaze, Syrup, Topping, Sauce, Wash, Bath, ToServe}

// aside are the roles of what is made beside the batter: eaten with it or spread on it, or thrown away.
var aside = []Role{Filling, Icing, Glaze, Syrup, Topping, Sauce, Wash, Bath, ToServe}

// Roles are the roles of parts, the batter first.
func Roles() []Role { return slices.Clone(roles) }

// Known reports whether r is one of the roles.
func (r Role) Known() bool { return slices.Contains(roles, r) }

// Aside reports whether a part is made beside the batter rather than mixed into it.
func (r Role) Aside() bool { return slices.Contains(aside, r) }

// Part is a part of a recipe: some of its lines, under a heading.
type Part struct {
	Name string `json:"name"` // the heading in lower case, as in the lines' Section; "" for what has none
	Role Role   `json:"role,omitempty"`
}

// Use is what a line is for, beside being mixed into its part. It is settled once, where the text is read.
type Use string

// The uses.
const (
	In    Use = ""      // mixed in
	On    Use = "on"    // laid on, inside: to decorate, for the top
	Brush Use = "brush" // also to glaze
	Dust  Use = "dust"  // also to sprinkle and to roll in
	OfTin Use = "tin"   // greases or lines it
	Serve Use = "serve" // eaten with it
)

var uses = []Use{In, On, Brush, Dust, OfTin, Serve}

// Known reports whether u is one of the uses.
func (u Use) Known() bool { return slices.Contains(uses, u) }

// Words is all that a recipe says beside its list: title, steps and notes.
func (r *Recipe) Words() string {
	var b strings.Builder
	b.WriteString(r.Title + ". ")
	for _, s := range r.Steps {
		b.WriteString(s.Text + ". ")
	}
	for _, n := range r.Notes {
		b.WriteString(n + ". ")
	}
	return b.String()
}

// Topping reports whether the line is eaten beside the batter or spread on it rather than mixed in: of an icing's part, or "to glaze".
func (l Line) Topping() bool { return l.Use != In || l.Role.Aside() }

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
