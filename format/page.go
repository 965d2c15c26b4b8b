package format

import (
	"errors"
	"strings"

	"github.com/PuerkitoBio/goquery"
	"golang.org/x/net/html"

	"kollaris/core/pattern"
)

// Headings by which pages part a recipe.
var (
	ofIngredients = pattern.Must(`(?i)^\W*(?:ingredients?|you(?:'|’)?(?:ll| will) need|what you need|zutaten)\b.{0,30}$`)
	ofMethod      = pattern.Must(`(?i)^\W*(?:methods?|directions?|instructions?|preparation|how to make\b.*|steps|zubereitung)\W*$`)
)

// breaks are the elements that begin a line of their own.
var breaks = map[string]bool{
	"p": true, "div": true, "li": true, "br": true, "tr": true, "h1": true, "h2": true, "h3": true, "h4": true, "h5": true, "h6": true, "ul": true, "ol": true,
	"section": true, "article": true, "dt": true, "dd": true, "header": true, "table": true,
}

// plainPage is the recipe of a page that says none for programs: what stands about its heading of ingredients and that of its
// method, else its article, as plain text.
func plainPage(doc *goquery.Document) ([]Found, error) {
	title := strings.TrimSpace(doc.Find("h1").First().Text())
	if title == "" {
		title = strings.TrimSpace(doc.Find("title").First().Text())
	}
	doc.Find("script, style, noscript, nav, footer, aside, form, svg, iframe, button, select").Remove()
	at := doc.Find("body")
	if article := doc.Find("article, main"); article.Length() > 0 {
		at = article.First()
	}
	heads := doc.Find("h1, h2, h3, h4, h5, h6, p, div, strong, b").FilterFunction(func(_ int, s *goquery.Selection) bool {
		return s.Children().Length() < 2 && ofIngredients.MatchString(strings.TrimSpace(s.Text()))
	})
	if heads.Length() == 0 {
		return nil, errors.New("this page holds no list of ingredients: copy the recipe from the page and paste it")
	}
	for n := heads.First().Parent(); n.Length() > 0; n = n.Parent() { // the least that holds both
		if n.Find("*").FilterFunction(func(_ int, s *goquery.Selection) bool { return ofMethod.MatchString(strings.TrimSpace(s.Text())) }).Length() > 0 {
			at = n
			break
		}
	}
	var lines []string
	for line := range strings.Lines(blockText(at)) {
		if line = strings.Join(strings.Fields(line), " "); line != "" && line != title {
			lines = append(lines, line)
		}
	}
	text := strings.Join(append([]string{title, ""}, lines...), "\n")
	if len(text) > mostOfPage {
		return nil, errors.New("the page is too long: copy the recipe from it and paste it")
	}
	return []Found{{Title: title, Text: text}}, nil
}

// mostOfPage is the most text that is taken from a page, bytes.
const mostOfPage = 60 << 10

// blockText is the text of a part of a page, a line a block.
func blockText(s *goquery.Selection) string {
	var b strings.Builder
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		switch {
		case n.Type == html.TextNode:
			b.WriteString(strings.Join(strings.FieldsFunc(n.Data, func(r rune) bool { return r == '\n' || r == '\r' || r == '\t' }), " "))
		case breaks[n.Data]:
			b.WriteByte('\n')
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
		if n.Type == html.ElementNode && breaks[n.Data] {
			b.WriteByte('\n')
		}
	}
	for _, n := range s.Nodes {
		walk(n)
	}
	return b.String()
}
