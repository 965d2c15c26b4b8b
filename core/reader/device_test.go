package reader_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/device"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// What it is heated with, and what parts are, stand in the document; what is typed comes first.
func TestDevicesAndRolesStandInTheDocument(t *testing.T) {
	text := "Puddings\n\n200 g flour\n1 egg\n\nSauce\n100 ml cream\n50 g sugar\n\nMix. Steam for 90 minutes in a pudding basin."
	for _, c := range []struct {
		facts  reader.Facts
		device string
		role   recipe.Role
	}{
		{reader.Facts{}, "steamer", recipe.Sauce},
		{reader.Facts{Device: "oven"}, "oven", recipe.Sauce},
		{reader.Facts{Device: "slow cooker", Roles: map[string]string{"sauce": "batter"}}, "slow cooker", recipe.Batter},
		{reader.Facts{Device: "bonfire", Roles: map[string]string{"sauce": "hat", "gone": "icing"}}, "steamer", recipe.Sauce},
		{reader.Facts{Roles: map[string]string{"sauce": "icing"}}, "steamer", recipe.Icing},
	} {
		rd, err := reader.Read(text, reader.Options{Facts: c.facts})
		require.NoError(t, err)
		assert.Equal(t, c.device, rd.Recipe.Device)
		assert.Equal(t, c.device != "oven", device.Of(rd.Recipe).Other())
		require.Len(t, rd.Recipe.Parts, 2)
		assert.Equal(t, c.role, rd.Recipe.Parts[1].Role)
		assert.Equal(t, c.role, rd.Recipe.Lines[2].Role)
		assert.Equal(t, c.facts.Device == "" && c.facts.Roles == nil, c.facts.None())
	}
	plain, err := reader.Read("Cake\n200 g flour\n1 egg\nMix. Bake at 180 C.", reader.Options{})
	require.NoError(t, err)
	assert.Equal(t, device.Oven, plain.Recipe.Device)
	old := *plain.Recipe
	old.Device = "" // kept before it stood there
	assert.False(t, device.Of(&old).Other())
}
