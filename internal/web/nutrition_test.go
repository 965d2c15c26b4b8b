package web_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestNutritionByBothLaws(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	code, body := s.get(pear + "/nutrition?diet=low-sugar")
	require.Equal(t, 200, code)
	assert.Contains(t, body, "carbohydrate without fibre")
	assert.Contains(t, body, "of which polyols")
	assert.Contains(t, body, "meets the figure for “reduced sugars”")
	assert.Contains(t, body, "no certificate")
	assert.Contains(t, body, "plain flour <b>(wheat)</b>")
	assert.NotContains(t, body, "gluten-free”</th>")
	_, body = s.get(pear + "/nutrition?law=us")
	assert.Contains(t, body, "includes added sugars")
	assert.Contains(t, body, "Calories")
	assert.Contains(t, body, "Sodium")
	assert.NotContains(t, body, "Salt</")
}

func TestMySlice(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/nutrition?slice=62+g")
	assert.Regexp(t, `A slice of 62 g holds \d+\.\d g of carbohydrate, ± \d`, body)
	assert.Regexp(t, `15 g of carbohydrate are in \d+ g of it`, body)
	_, body = s.get(pear + "/nutrition?slice=thick")
	assert.Contains(t, body, "“thick” is no weight of a slice")
	assert.Contains(t, body, `value="thick"`)
}

func TestCardsForTheTable(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	code, body := s.get(pear + "/tablecard?diet=vegan")
	require.Equal(t, 200, code)
	assert.Contains(t, body, "also handles other foods")
	assert.Less(t, strings.Index(body, "pear, plain flour"), strings.Index(body, "ground cardamom"), "in descending weight")
	_, body = s.get(pear + "/tablecard?diet=vegan&size=sticker")
	assert.Contains(t, body, "baked on ___")
}
