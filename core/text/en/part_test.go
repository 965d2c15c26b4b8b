package en

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestNamesOfParts(t *testing.T) {
	for _, c := range []struct {
		text, heading string
		want          bool
	}{
		{"Pipe the crosses", "cross", true},
		{"Cool and ice", "royal icing", true},
		{"Iced cakes", "icing", true},
		{"Glaze it", "glaze", true},
		{"Add the nice nuts", "icing", false},
		{"Mix the sponge", "main dough", false},
		{"Bake", "", false},
		{"Stir the poolish", "poolish (night before)", true},
		{"The night before", "poolish (night before)", false},
	} {
		assert.Equal(t, c.want, NamesPart(c.text, c.heading), "%s in %s", c.heading, c.text)
	}
}
