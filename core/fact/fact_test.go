package fact_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/fact"
)

func TestSource(t *testing.T) {
	for _, c := range []struct {
		src   fact.Source
		words string
		ok    bool
	}{
		{"published: 21 CFR 101.9", "published: 21 CFR 101.9", true},
		{"practice", "common practice", true},
		{"memory: USDA SR Legacy", "from memory: USDA SR Legacy", true},
		{"published:", "published", false},
		{"somebody said so", "source not stated", false},
	} {
		assert.Equal(t, c.words, c.src.Words())
		assert.Equal(t, c.ok, c.src.Check() == nil, string(c.src))
	}
}

func TestLargestTermsComeFirstAndLeaveTheFigureAlone(t *testing.T) {
	f := fact.Figure{Terms: []fact.Term{{"", "salt", 1}, {"", "flour", -9}, {"", "milk", 4}}}
	assert.Equal(t, []fact.Term{{"", "flour", -9}, {"", "milk", 4}}, f.Largest(2))
	assert.Equal(t, "salt", f.Terms[0].Name)
}
