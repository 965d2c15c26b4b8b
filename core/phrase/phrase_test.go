package phrase

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestSentences(t *testing.T) {
	for in, want := range map[string]string{"": "", "éclair": "Éclair.", "“lots” will not do": "“lots” will not do.", "2 eggs.": "2 eggs.", "is it gluten?": "Is it gluten?", "ah!": "Ah!", "\xff": "\xff."} {
		assert.Equal(t, want, Sentence(in))
	}
	assert.Equal(t, "écume, then", Within("Écume, then"))
	assert.Empty(t, Within(""))
	assert.Equal(t, "a, b and c", And([]string{"a", "b", "c"}))
	assert.Equal(t, "a and b", And([]string{"a", "b"}))
	assert.Equal(t, "a", And([]string{"a"}))
	assert.Empty(t, And(nil))
	assert.Equal(t, "écl…", Clip("éclair", 3))
	assert.Equal(t, "éclair", Clip("éclair", 6))
}
