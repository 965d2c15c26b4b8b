package web

import (
	"cmp"
	"fmt"
	"math"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/measure"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// handView is the batch by what there is of one ingredient, or by how many it is
// for.
type handView struct {
	Have, For field
	Words     string // what came of it
	Lines     []handLine
}

type handLine struct {
	ID   recipe.LineID
	Name string // "pear, 220 g"
	On   bool
}

// atHand turns "I have 340 g of the pears" into the size of the batch, written
// into the query as scale.
func (s *Server) atHand(c *gin.Context, query url.Values) (handView, error) {
	have, of := strings.TrimSpace(query.Get("have")), query.Get("of")
	query.Del("have")
	query.Del("of")
	forMany := strings.TrimSpace(query.Get("for"))
	query.Del("for")
	v := handView{
		Have: field{ID: "have", Words: "or I have", Hint: "340 g", Size: 7},
		For:  field{ID: "for", Words: "or for", Mode: "numeric", Size: 3},
	}
	r, err := s.store.Recipe(c.Request.Context(), paramID(c))
	if err == nil {
		err = s.reread(c, r)
	}
	if err != nil {
		return v, err
	}
	serves := cmp.Or(r.Doc.Servings, 8)
	v.For.Hint = fmt.Sprint(serves)
	if forMany != "" {
		n, err := strconv.Atoi(forMany)
		if scale := float64(n) / float64(serves); err != nil || n < 1 || n > 200 || scale < 0.1 || scale > 20 {
			v.For.Value, v.For.Fault = forMany, fmt.Sprintf(
				"“%s” cannot be the number of servings: try %d", forMany, 2*serves,
			)
		} else {
			query.Set("scale", fmt.Sprintf("%g", math.Round(1000*scale)/1000))
			query.Del("servings") // follow from the batch
			v.Words = fmt.Sprintf("For %d instead of %d: %s times the written batch.", n, serves, measure.Digits(scale, 3))
		}
	}
	var line *recipe.Line
	for n, ln := range r.Doc.Lines {
		if ln.Known && ln.Grams >= 20 { // nobody has a spoon of powder left over
			on := fmt.Sprint(ln.ID) == of
			if on {
				line = &r.Doc.Lines[n]
			}
			v.Lines = append(v.Lines, handLine{ln.ID, ln.Name + ", " + measure.Grams(ln.Grams).String(), on})
		}
	}
	if have == "" || line == nil {
		return v, nil
	}
	grams, doubt := s.weighed(have, *line)
	if doubt != "" {
		v.Have.Value, v.Have.Fault = have, doubt
		return v, nil
	}
	scale := math.Round(1000*grams/line.Grams) / 1000
	if scale < 0.1 || scale > 20 {
		v.Have.Value, v.Have.Fault = have, fmt.Sprintf(
			"That is %s times the recipe: a tenth to twenty times can be worked out.", measure.Digits(scale, 2),
		)
		return v, nil
	}
	query.Set("scale", fmt.Sprintf("%g", scale))
	v.Words = fmt.Sprintf(
		"%s of %s is %g times the written %s: the whole batch follows it.", measure.Grams(grams), line.Name, scale,
		measure.Grams(line.Grams),
	)
	return v, nil
}

// mostPieces is the most pieces that a number alone means; above it are grams. Source: practice.
const mostPieces = 24

// weighed reads an amount of a line's ingredient, a number alone as grams.
func (s *Server) weighed(have string, ln recipe.Line) (grams float64, doubt string) {
	if x, err := measure.ParseDecimal(have); err == nil && (ln.Unit != "" || x > mostPieces) {
		have = fmt.Sprintf("%g g", x)
	}
	text := have + " " + s.kit.Larder.Get(ln.Ingredient).Name
	got, ok := reader.ReadLine(text, reader.Options{Larder: s.kit.Larder, Kitchen: s.kit.Kitchen})
	if ok && got.Ingredient == ln.Ingredient && got.Grams > 0 {
		return got.Grams, ""
	}
	return 0, fmt.Sprintf("“%s” is no amount of it: try %s", have, measure.Grams(math.Round(1.5*ln.Grams)))
}
