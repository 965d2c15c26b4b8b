package review_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// What poisons is a stop, what makes ill unless it is treated a look, wherever it is named; what only sounds so is neither. Sources: the
// rows of data/poison.csv.
func TestPoisons(t *testing.T) {
	for text, code := range map[string]string{
		"2 tbsp bitter almonds, ground": "poison-cyanide", "50 g apricot kernels": "poison-cyanide", "20 g peach stone kernels": "poison-cyanide", "1 bitter almond": "poison-cyanide",
		"10 g cherry kernels": "poison-cyanide", "1 tsp bitter almond extract": "", "1 tbsp apricot jam": "", "100 g rhubarb leaves": "poison-rhubarb-leaf", "2 rhubarb stalks, leaves discarded": "",
		"a few foxgloves": "poison-flower", "1 tsp borax": "poison-borax", "30 g lye": "poison-lye", "100 g kidney beans": "poison-kidney-bean", "1 tin kidney beans, drained": "",
		"200 g grated cassava": "poison-cassava-root", "200 g cassava flour": "", "1 tonka bean": "poison-tonka", "50 g elderberries": "poison-elderberry", "2 tbsp elderberry cordial": "",
		"1 tsp activated charcoal": "poison-charcoal", "2 drops peppermint essential oil": "poison-essential-oil", "10 castor beans": "poison-castor", "50 g castor sugar": "",
		"2 tbsp nutmeg": "poison-nutmeg", "1/2 tsp nutmeg": "", "1 tsp craft glitter": "poison-glitter", "green potatoes, 200 g": "poison-potato-green", "3 tbsp lupini": "poison-lupin-bean",
	} {
		found := ""
		for _, n := range notes(t, "Cake\nServes 8\n\n200 g plain flour\n100 g sugar\n2 tsp baking powder\n"+text+"\n\nMix. Bake at 180C for 30 minutes in a 20 cm round tin.") {
			if n.IsPoison() {
				found = n.Code
				assert.NotEmpty(t, n.Usual)
				assert.NoError(t, n.Source.Check())
			}
		}
		assert.Equal(t, code, found, text)
	}
	for _, at := range []string{"Scatter apricot kernels over it.", "Decorate with daffodils."} {
		ns := notes(t, "Cake\nServes 8\n\n200 g plain flour\n100 g sugar\n2 tsp baking powder\n\nMix. Bake at 180C for 30 minutes in a 20 cm round tin. "+at)
		assert.Equal(t, "stop", ns[0].Severity, at)
		assert.True(t, ns[0].IsPoison())
		assert.Zero(t, ns[0].Line)
		assert.Nil(t, ns[0].Fix)
	}
}
