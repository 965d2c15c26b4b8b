package web

import (
	"cmp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/internal/demo/recipes"
)

func pear(t *testing.T) (*recipe.Recipe, *adapt.Result) {
	t.Helper()
	rd, err := reader.Read(recipes.Text("1-pear-cardamom-loaf.txt"), reader.Options{})
	require.NoError(t, err)
	res, err := adapt.Adapt(rd.Recipe, adapt.Request{Diets: []diet.ID{diet.EggFree, diet.DairyFree}}, adapt.DefaultKit())
	require.NoError(t, err)
	return rd.Recipe, res
}

func px(t *testing.T, s string) float64 {
	t.Helper()
	x, err := strconv.ParseFloat(s, 64)
	require.NoError(t, err)
	return x
}

// Blocks of both strips are as wide as they weigh, on one scale, stand inside
// the drawing and do not overlap; the smallest can still be pointed at.
func TestStripsAreDrawnToScale(t *testing.T) {
	written, res := pear(t)
	for _, upright := range []bool{false, true} {
		v := benchStrips(written, res, larder.Builtin(), upright, measure.DefaultKitchen())
		grams := map[int]float64{}
		for _, r := range []*recipe.Recipe{written, res.Recipe} {
			for _, l := range r.Lines {
				grams[int(l.ID)] = l.Grams
			}
		}
		long := func(b block) (from, size float64) {
			if upright {
				return px(t, b.Y), px(t, b.H)
			}
			return px(t, b.X), px(t, b.W)
		}
		scale := 0.0
		rows := map[string][][2]float64{} // by place across: from, to
		for _, b := range v.Blocks {
			from, size := long(b)
			across := b.Y
			if upright {
				across = b.X
			}
			if grams[b.Line] >= tailShare*float64(res.Recipe.Mass()) && grams[b.Line] > 20 {
				if scale == 0 {
					scale = size / grams[b.Line]
				}
				assert.InEpsilon(t, scale, size/grams[b.Line], 0.02, b.Title)
			} else {
				assert.GreaterOrEqual(t, size, 16.0, b.Title)
			}
			rows[across] = append(rows[across], [2]float64{from, from + size})
			assert.LessOrEqual(t, px(t, b.X)+px(t, b.W), float64(v.Width)+0.5, b.Title)
			assert.LessOrEqual(t, px(t, b.Y)+px(t, b.H), float64(v.Height)+0.5, b.Title)
		}
		assert.Len(t, rows, 2)
		for _, spans := range rows {
			slices.SortFunc(spans, func(a, b [2]float64) int { return cmp.Compare(a[0], b[0]) })
			for n := 1; n < len(spans); n++ {
				assert.GreaterOrEqual(t, spans[n][0], spans[n-1][1]-0.2, "blocks overlap")
			}
		}
		moved := 0
		for _, r := range v.Ribbons {
			assert.True(t, strings.HasPrefix(r.Path, "M") && strings.HasSuffix(r.Path, "Z"))
			assert.NotContains(t, r.Path, "NaN")
			if r.Moved {
				moved++
			}
		}
		assert.GreaterOrEqual(t, moved, 6, "butter, two from the eggs, two from the buttermilk, powder")
	}
}

func TestASmallStripFillsItsWidth(t *testing.T) {
	written, _ := pear(t)
	v := smallStrip(written, larder.Builtin(), 420, 26)
	last := v.Blocks[len(v.Blocks)-1]
	assert.InDelta(t, 419.5, px(t, last.X)+px(t, last.W), 6)
	assert.Equal(t, "what it is made of, by weight: pear 220 g, plain flour 210 g, buttermilk 182 g", v.Summary)
	empty := smallStrip(&recipe.Recipe{}, larder.Builtin(), 420, 26)
	assert.Empty(t, empty.Blocks)
}

func TestLabelsFitTheirBlocks(t *testing.T) {
	assert.Equal(t, "powder", shortName("baking powder"))
	assert.Equal(t, "soda", shortName("baking soda (bicarbonate)"))
	assert.Equal(t, "plant block", shortName("plant block, 79 % fat"))
	assert.Equal(t, "", fit("cardamom", 20))
	assert.Equal(t, "cardam…", fit("cardamom", 46))
	assert.Equal(t, "salt", fit("salt", 46))
}

// The window fills the middle of the drawing; what lies far outside stops at
// the edge with an arrow.
func TestWindowsOfTheSums(t *testing.T) {
	row := sumRowOf(adapt.Sum{Before: 100, After: 120, Lo: 90, Hi: 130})
	assert.Equal(t, []string{"60.0", "80.0", "80.0", "120.0"}, []string{row.BandX, row.BandW, row.HollowX, row.SolidX})
	row = sumRowOf(adapt.Sum{Before: 100, After: 900, Lo: 90, Hi: 130})
	assert.True(t, row.OffRight)
	assert.Equal(t, "192.0", row.SolidX)
}

func TestTheSectionIsToScale(t *testing.T) {
	_, res := pear(t)
	res = res.Predict(measure.DefaultKitchen())
	v := sectionOf(*res.Bake)
	assert.Contains(t, v.Summary, "loaf 9x5 in cut across")
	level := 196 - px(t, v.LevelY)
	assert.InDelta(t, res.Bake.Fill.Depth*16, level, 0.1, "16 px a centimetre")
}

// However many lines there are, every block has a width and stands within the strip; what is not changed is drawn once.
func TestStripsOfManyLines(t *testing.T) {
	for _, n := range []int{1, 40, 90, 200} {
		r := &recipe.Recipe{}
		for k := range n {
			r.Lines = append(r.Lines, recipe.Line{ID: recipe.LineID(k + 1), Ingredient: "plain-flour", Name: "flour", Grams: float64(1 + 40*(k%9)), Known: true})
		}
		res := &adapt.Result{Recipe: r}
		for _, upright := range []bool{false, true} {
			once := benchStrips(r, res, larder.Builtin(), upright, measure.DefaultKitchen())
			assert.Len(t, once.Blocks, n)
			assert.Empty(t, once.Ribbons)
			twice := benchStrips(r, &adapt.Result{Recipe: r, Changes: []adapt.Change{{Title: "x"}}}, larder.Builtin(), upright, measure.DefaultKitchen())
			assert.Len(t, twice.Blocks, 2*n)
			for _, b := range twice.Blocks {
				at, size, end := px(t, b.X), px(t, b.W), float64(twice.Width)
				if upright {
					at, size, end = px(t, b.Y), px(t, b.H), 540
				}
				assert.True(t, size > 0 && at >= 0 && at+size <= end+0.5, "%d lines: %g at %g", n, size, at)
			}
		}
	}
}
