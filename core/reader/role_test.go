package reader_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// What headings say of their parts. Source: practice, headings of cookery books and home notes.
func TestWhatAPartIs(t *testing.T) {
	for heading, want := range map[string]recipe.Role{
		"": recipe.Batter, "dough": recipe.Batter, "for the cake": recipe.Batter, "main dough": recipe.Batter,
		"cream cheese frosting": recipe.Icing, "ganache": recipe.Icing, "royal icing": recipe.Icing, "for the icing": recipe.Icing,
		"glaze": recipe.Glaze, "lemon drizzle": recipe.Syrup, "sugar syrup": recipe.Syrup, "toffee sauce": recipe.Sauce, "caramel": recipe.Sauce,
		"egg wash": recipe.Wash, "to serve": recipe.ToServe, "cake filling": recipe.Filling, "lemon curd": recipe.Filling, "curd layer": recipe.Filling,
		"crumble topping": recipe.Topping, "to finish": recipe.Topping, "for the crosses": recipe.Topping, "meringue": recipe.Topping,
		"for boiling": recipe.Bath, "boiling": recipe.Bath, "for the top": recipe.Topping, "water bath": recipe.Bath, "pastry case": recipe.Crust, "for the crust": recipe.Crust, "biscuit base": recipe.CrumbBase,
		"poolish": recipe.Preferment, "pre-ferment": recipe.Preferment, "sponge": recipe.Preferment, "tangzhong": recipe.Scald, "paste": recipe.Scald,
		"seed soaker": recipe.Soaker, "pasteurised milk": recipe.Batter, "crossing": recipe.Batter, "basement cake": recipe.Batter,
	} {
		assert.Equal(t, want, reader.RoleOf(heading), heading)
	}
}

// What is extra is no part of the amount: the amount itself is mixed in.
func TestWhatANoteSaysTheLineIsFor(t *testing.T) {
	for note, want := range map[string]recipe.Use{
		"": recipe.In, "melted": recipe.In, "plus extra for brushing": recipe.In, "plus a little more for dusting": recipe.In, "and some extra to glaze": recipe.In,
		"plus more to serve": recipe.In, "+ extra for rolling in": recipe.In, "for brushing": recipe.Brush, "beaten, to glaze": recipe.Brush,
		"for the egg-wash": recipe.Brush, "to serve": recipe.Serve, "melted, for greasing, plus extra for the tin": recipe.OfTin, "for the tin": recipe.OfTin,
		"for dusting": recipe.Dust, "to roll in": recipe.Dust, "to decorate": recipe.On, "for the top": recipe.On, "to finish, and to serve": recipe.On,
		"chopped finely": recipe.In, "for topping": recipe.On,
	} {
		assert.Equal(t, want, reader.UseOf(note), note)
	}
}

// The first part is the bake where every part is called beside something.
func TestWhatIsBesideNothingIsTheBake(t *testing.T) {
	rd, err := reader.Read("Boathouse pavlova\nServes 8\n\nFor the meringue:\n4 egg whites\n220 g caster sugar\n\nFor the topping:\n300 ml double cream\n\nWhisk the whites. Add the sugar. Bake at 120C for 90 minutes.", reader.Options{})
	require.NoError(t, err)
	assert.Equal(t, []recipe.Part{{Name: "meringue"}, {Name: "topping", Role: recipe.Topping}}, rd.Recipe.Parts)
	assert.Len(t, rd.Recipe.Batter(), 2)
}

// A document of before there were roles gets them as a reading would give them.
func TestSettlingAnOldDocument(t *testing.T) {
	rd, err := reader.Read("Tart\nServes 8\n\nFor the pastry:\n200 g plain flour\n100 g butter\n\nFor the filling:\n3 eggs\n1 egg, to glaze\n\nBake at 180C for 30 minutes.", reader.Options{})
	require.NoError(t, err)
	old := rd.Recipe.Clone()
	for n := range old.Lines {
		old.Lines[n].Role, old.Lines[n].Use = recipe.Batter, recipe.In
	}
	old.Parts = nil
	reader.Settle(old)
	assert.Equal(t, rd.Recipe, old)
	assert.Equal(t, recipe.Crust, old.Lines[0].Role)
	assert.Equal(t, recipe.Brush, old.Lines[3].Use)
}
