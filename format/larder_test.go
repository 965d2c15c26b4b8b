package format_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/format"
)

func TestALarderGoesOutAndComesIn(t *testing.T) {
	own := []larder.Own{
		{ID: "our-flour", Name: "Our flour, “strong”", Like: "strong-flour", Values: map[string]float64{"protein": 13.5, "sodium": 0}, Names: []string{"mill flour"}, Weights: []larder.Weight{{How: "spooned", Unit: "cup", Grams: 131.5}}, Pack: &larder.Pack{Grams: 1500, Price: 1.95, Stock: 400}, Allergens: map[string]larder.Level{"gluten": larder.Contains, "soya": larder.May}},
		{ID: "our-drink", Name: "Our drink", Like: "oat-drink", Allergens: map[string]larder.Level{}},
	}
	var b bytes.Buffer
	require.NoError(t, format.WriteLarder(&b, own))
	back, faults, err := format.ReadLarder(&b, larder.Builtin())
	require.NoError(t, err)
	assert.Empty(t, faults)
	assert.ElementsMatch(t, own, back)
}

func TestABadRowIsNamedAndTheGoodOnesAreKept(t *testing.T) {
	text := "\ufeffID,Name,Like,Fat,Weights,allergens,pack_g,price\n" +
		"plain-flour,,,1.5,spooned cup 130,,1500,1.2\n" +
		"x1,X,moon,,,,,\n" +
		"milk,,,lots,,,,\n" +
		"butter,,,180,,,,\n" +
		"honey,,,,a cup of it,,,\n" +
		"egg,,,,,dust=contains,,\n" +
		"salt,,,,,,0,1\n" +
		"x2,Ours,milk,\"3,8\",,milk,,\n"
	own, faults, err := format.ReadLarder(strings.NewReader(text), larder.Builtin())
	require.NoError(t, err)
	require.Len(t, own, 2)
	assert.Equal(t, 3.8, own[1].Values["fat"])
	why := map[int]string{}
	for _, f := range faults {
		why[f.Line] = f.Why
	}
	for line, want := range map[int]string{3: "not in the larder", 4: "“lots” is no number", 5: "180 is outside", 6: "want how, unit and grams", 7: "name one that the law names", 8: "pack"} {
		assert.Contains(t, why[line], want)
	}
	_, _, err = format.ReadLarder(strings.NewReader("fat,sugars\n1,1"), larder.Builtin())
	assert.ErrorContains(t, err, "neither a column “id”")
	_, _, err = format.ReadLarder(strings.NewReader(""), larder.Builtin())
	assert.Error(t, err)
	_, faults, err = format.ReadLarder(strings.NewReader("id,name\n\"open"), larder.Builtin())
	require.NoError(t, err)
	assert.Contains(t, faults[0].Why, "quotes")
}

func FuzzReadLarder(f *testing.F) {
	f.Add("id,name,like,fat\nx,X,milk,3\n")
	f.Add("id\n\"")
	f.Fuzz(func(t *testing.T, text string) {
		own, _, err := format.ReadLarder(strings.NewReader(text), larder.Builtin())
		if err != nil {
			return
		}
		for _, o := range own {
			if len(o.Check(larder.Builtin())) > 0 {
				t.Fatalf("%+v", o)
			}
		}
	})
}

// Tables as spreadsheets of other countries write them: semicolons, decimal commas, no ids; what is not known is said.
func TestALarderFromASpreadsheet(t *testing.T) {
	own, faults, err := format.ReadLarder(strings.NewReader("\ufeffname;like;pack_g;price;fat;protien\r\nMill oat drink;oat-drink;1.000;1,89;1,5;1\r\n\r\nBlue rye;rye-flour;1000;2,4;;\r\n"), larder.Builtin())
	require.NoError(t, err)
	require.Len(t, own, 2)
	assert.Equal(t, larder.ID("own-blue-rye"), own[0].ID)
	assert.Equal(t, 2.4, own[0].Pack.Price)
	assert.Equal(t, larder.ID("own-mill-oat-drink"), own[1].ID)
	assert.Equal(t, 1.5, own[1].Values["fat"])
	require.Len(t, faults, 1)
	assert.Equal(t, "no column is called “protien”: it is left out", faults[0].Why)
	own, _, err = format.ReadLarder(strings.NewReader("id\tname\tlike\nown-x\tX\tegg\n"), larder.Builtin())
	require.NoError(t, err)
	assert.Len(t, own, 1)
	_, _, err = format.ReadLarder(strings.NewReader("fat;sugars\n1;2\n"), larder.Builtin())
	assert.ErrorContains(t, err, "neither a column “id” nor “name”")
}
