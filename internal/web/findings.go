package web

import (
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/review"
)

// findingView is something that looks wrong, with its mend where there is one.
type findingView struct {
	Severity, Icon, Text string
	Fix, Amount, Unit    string
	Source               string
}

// findings puts what looks wrong at its line, or above where it has none.
func (s *Server) findings(v *readView, rd *reader.Reading) {
	wrong := 0
	icons := map[string]string{"stop": "x-octagon-fill", "look": "exclamation-triangle-fill", "note": "question-circle-fill"}
	put := func(line recipe.LineID, f findingView) {
		f.Icon = icons[f.Severity]
		if f.Severity != "note" {
			wrong++
			if v.Wrong == 0 {
				v.Wrong = int(line)
			}
		}
		for n := range v.Rows {
			if line != 0 && v.Rows[n].Line == int(line) {
				v.Rows[n].Findings = append(v.Rows[n].Findings, f)
				return
			}
		}
		v.Findings = append(v.Findings, f)
	}
	for _, f := range rd.Findings {
		put(f.Line, findingView{Severity: f.Severity, Text: f.Message})
	}
	for _, n := range review.Notes(rd.Recipe, s.kit.Larder) {
		if n.Code == "no-lines" {
			continue // the line above says it
		}
		f := findingView{Severity: n.Severity, Text: n.Message(), Source: n.Source.Words()}
		if n.Fix != nil {
			f.Fix, f.Amount, f.Unit = n.Fix.Words, n.Fix.Amount, n.Fix.Unit
		}
		put(n.Line, f)
	}
	if wrong > 0 {
		v.Settled = false
		v.Words += " " + plural(wrong, "thing") + " to look at."
	}
}
