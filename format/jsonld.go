package format

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"html"
	"strconv"
	"strings"
	"time"

	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
)

// Recipes as JSON-LD of schema.org. The types and properties used are those of
// the published vocabulary: Recipe (name, recipeYield, prepTime, cookTime, totalTime,
// recipeIngredient, recipeInstructions, tool), HowToSection (name, itemListElement),
// HowToStep (text, name), HowToDirection (performTime), HowToTool, and CreativeWork
// (description, text, inLanguage).
// recipeIngredient is one flat list; sections, tin and oven are kept in text,
// the whole recipe as plain text, from which Kollaris reads back without loss.

type ldRecipe struct {
	Context      string   `json:"@context"`
	Type         string   `json:"@type"`
	Name         string   `json:"name"`
	Description  string   `json:"description,omitempty"` // the notes, for programs that do not read text
	Yield        string   `json:"recipeYield,omitempty"`
	PrepTime     string   `json:"prepTime,omitempty"` // hands
	CookTime     string   `json:"cookTime,omitempty"`
	TotalTime    string   `json:"totalTime,omitempty"`
	Tool         []ldTool `json:"tool,omitempty"`
	Ingredient   []string `json:"recipeIngredient"`
	Instructions []any    `json:"recipeInstructions"`
	Text         string   `json:"text"`
}

type ldTool struct {
	Type string `json:"@type"`
	Name string `json:"name"`
}

type ldStep struct {
	Type       string        `json:"@type"`
	Text       string        `json:"text"`
	Directions []ldDirection `json:"itemListElement,omitempty"` // a time that it takes by itself
}

type ldDirection struct {
	Type    string `json:"@type"`
	Text    string `json:"text"`
	Perform string `json:"performTime"`
}

type ldSection struct {
	Type  string   `json:"@type"`
	Name  string   `json:"name"`
	Steps []ldStep `json:"itemListElement"`
}

// duration writes minutes as ISO 8601 does, "" for none.
func duration(minutes float64) string {
	if minutes < 1 {
		return ""
	}
	return fmt.Sprintf("PT%.0fM", minutes)
}

// instructions are the steps of a recipe, by its tasks where they are what is written, in
// sections where there is more than one part.
func instructions(r *recipe.Recipe, tasks []method.Task) []any {
	step := func(t method.Task) ldStep {
		st := ldStep{Type: "HowToStep", Text: oneLine(t.Text)}
		if d := duration(t.Wait.Mid()); d != "" && t.Wait.Source != "" && t.Verb != method.Heat {
			st.Directions = []ldDirection{{"HowToDirection", oneLine(t.Text), d}}
		}
		return st
	}
	out := []any{}
	if len(tasks) != len(r.Steps) { // the writer's own steps
		for _, st := range r.Steps {
			out = append(out, ldStep{Type: "HowToStep", Text: oneLine(st.Text)})
		}
		return out
	}
	var sections []ldSection
	for _, t := range tasks {
		if n := len(sections); n == 0 || sections[n-1].Name != cmp.Or(t.Part, r.Title) {
			sections = append(sections, ldSection{"HowToSection", cmp.Or(t.Part, r.Title), nil})
		}
		last := &sections[len(sections)-1]
		last.Steps = append(last.Steps, step(t))
	}
	if len(sections) == 1 {
		for _, st := range sections[0].Steps {
			out = append(out, st)
		}
		return out
	}
	for _, s := range sections {
		out = append(out, s)
	}
	return out
}

// JSONLD writes a recipe as a JSON-LD document. Tasks are those of its steps, from which
// come times and tools. Source is the text that the recipe was read from, "" to write one.
func JSONLD(r *recipe.Recipe, tasks []method.Task, source string, l *larder.Larder) ([]byte, error) {
	doc := ldRecipe{
		Context:      "https://schema.org",
		Type:         "Recipe",
		Name:         r.Title,
		Description:  oneLine(strings.Join(r.Notes, " ")),
		Text:         cmp.Or(source, Text(r, l)),
		Ingredient:   []string{},
		Instructions: instructions(r, tasks),
		PrepTime:     duration(method.Hands(tasks).Mid()),
		TotalTime:    duration(method.Total(tasks).Mid()),
	}
	for _, tool := range method.Equipment(tasks, r) {
		doc.Tool = append(doc.Tool, ldTool{"HowToTool", tool})
	}
	if r.Servings > 0 {
		doc.Yield = fmt.Sprintf("%d servings", r.Servings)
	}
	if m := r.Bake.Max; m > 0 {
		doc.CookTime = fmt.Sprintf("PT%.0fM", m)
	}
	for _, ln := range r.Lines {
		doc.Ingredient = append(doc.Ingredient, lineText(ln, l))
	}
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	if err := enc.Encode(doc); err != nil {
		return nil, fmt.Errorf("%s: %w", r.Title, err)
	}
	return b.Bytes(), nil
}

// readJSONLD finds the recipes in a JSON-LD document, bare, in an array or in a
// graph, and gives each as text to be read.
func readJSONLD(data []byte) ([]Found, error) {
	var doc any
	if err := json.Unmarshal(data, &doc); err != nil {
		return nil, fmt.Errorf("this is not whole JSON (%v): save the file again, or paste the recipe as text", err)
	}
	var out []Found
	left := 0
	collect(doc, 0, func(node map[string]any) {
		if len(out) < maxRecipes {
			out = append(out, Found{Title: plain(node["name"]), Text: ldText(node)})
		} else {
			left++
		}
	})
	if left > 0 {
		out = append(out, Found{Fault: fmt.Sprintf("it holds %d recipes, of which the last %d were left: part it", len(out)+left, left)})
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("no schema.org Recipe is in it: paste the recipe as text instead")
	}
	return out, nil
}

// collect walks a document and calls f with each node whose type is Recipe.
func collect(v any, depth int, f func(map[string]any)) {
	if depth > 12 {
		return
	}
	switch v := v.(type) {
	case []any:
		for _, x := range v {
			collect(x, depth+1, f)
		}
	case map[string]any:
		if isType(v, "Recipe") {
			f(v)
			return
		}
		for _, key := range []string{"@graph", "mainEntity", "mainEntityOfPage", "hasPart", "itemListElement", "item"} {
			collect(v[key], depth+1, f)
		}
	}
}

func isType(node map[string]any, want string) bool {
	for _, t := range list(node["@type"]) {
		s, _ := t.(string)
		s = strings.TrimPrefix(strings.TrimPrefix(s, "http://schema.org/"), "https://schema.org/")
		if s == want {
			return true
		}
	}
	return false
}

func list(v any) []any {
	switch v := v.(type) {
	case nil:
		return nil
	case []any:
		return v
	default:
		return []any{v}
	}
}

var (
	ldBreak = pattern.Must(`(?i)<\s*(?:br|/p|/li|/div|/h\d)\b[^>]*>`)
	ldTag   = pattern.Must(`<[^<>]{1,400}>`)
)

// plain gives the words of a value, without markup, on one line.
func plain(v any) string { return oneLine(plainLines(v)) }

func plainLines(v any) string {
	switch v := v.(type) {
	case string:
		s := ldTag.ReplaceAllString(ldBreak.ReplaceAllString(v, "\n"), "")
		return strings.ReplaceAll(html.UnescapeString(html.UnescapeString(s)), "\u00a0", " ")
	case float64:
		return strconv.FormatFloat(v, 'f', -1, 64)
	case map[string]any:
		for _, key := range []string{"text", "name", "@value", "value"} {
			if s := plainLines(v[key]); s != "" {
				return s
			}
		}
	}
	return ""
}

// ldText writes a Recipe node as text. The text property is taken when it holds
// every ingredient of the list: it is then the same recipe, said in full.
func ldText(node map[string]any) string {
	var lines []string
	for _, v := range append(list(node["recipeIngredient"]), list(node["ingredients"])...) {
		for _, s := range strings.Split(plainLines(v), "\n") {
			if s = oneLine(s); s != "" {
				lines = append(lines, s)
			}
		}
	}
	if text, ok := node["text"].(string); ok && len(lines) > 0 && holdsAll(text, lines) {
		return text
	}
	var b strings.Builder
	b.WriteString(plain(node["name"]) + "\n")
	if y := yield(list(node["recipeYield"])); y != "" {
		b.WriteString(y + "\n")
	}
	if d, ok := isoDuration(plain(node["cookTime"])); ok {
		fmt.Fprintf(&b, "Bake time: %.0f minutes\n", d.Minutes())
	}
	b.WriteString("\nIngredients\n" + strings.Join(lines, "\n") + "\n\nMethod\n")
	for _, v := range list(node["recipeInstructions"]) {
		steps(&b, v, "", 0)
	}
	if d := plain(node["description"]); d != "" {
		b.WriteString("\nNotes\n" + d + "\n")
	}
	return b.String()
}

func holdsAll(text string, lines []string) bool {
	text = oneLine(text)
	for _, ln := range lines {
		if !strings.Contains(text, ln) {
			return false
		}
	}
	return true
}

// yield says how many, taking the value with the most words: "12" beside
// "12 scones".
func yield(values []any) string {
	best := ""
	for _, v := range values {
		if s := plain(v); len(s) > len(best) {
			best = s
		}
	}
	if best == "" {
		return ""
	}
	if _, err := strconv.Atoi(best); err == nil {
		return "Serves " + best
	}
	if low := strings.ToLower(best); strings.HasPrefix(low, "serves") || strings.HasPrefix(low, "makes") {
		return best
	}
	return "Makes " + best
}

// steps writes instructions: text, a HowToStep, or a HowToSection of steps, whose
// name stands before its first step.
func steps(b *strings.Builder, v any, head string, depth int) {
	if depth > 6 {
		return
	}
	node, ok := v.(map[string]any)
	if ok && node["itemListElement"] != nil {
		name := plain(node["name"])
		for n, x := range list(node["itemListElement"]) {
			if n > 0 {
				name = ""
			}
			steps(b, x, name, depth+1)
		}
		return
	}
	for _, s := range strings.Split(plainLines(v), "\n") {
		if s = oneLine(s); s == "" {
			continue
		}
		if head != "" {
			s, head = strings.TrimRight(head, ": ")+". "+s, ""
		}
		b.WriteString(s + "\n")
	}
}

var isoTime = pattern.Must(`^P(?:(\d+)D)?T?(?:(\d+)H)?(?:(\d+(?:\.\d+)?)M)?(?:\d+(?:\.\d+)?S)?$`)

// isoDuration reads a duration of ISO 8601 in days, hours and minutes.
func isoDuration(s string) (time.Duration, bool) {
	m := isoTime.FindStringSubmatch(s)
	if m == nil {
		return 0, false
	}
	num := func(s string) float64 { x, _ := strconv.ParseFloat(s, 64); return x }
	minutes := num(m[1])*24*60 + num(m[2])*60 + num(m[3])
	return time.Duration(minutes * float64(time.Minute)), minutes > 0 && minutes < 48*60
}
