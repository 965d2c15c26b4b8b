package web

import (
	"fmt"

	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/review"
)

// findingView is something that looks wrong, with its mend where there is one.
type findingView struct {
	Severity, Icon, Text string
	Fix, Amount, Unit    string
	Skip                 bool   // the fix leaves the line out
	Add                  string // the fix adds this line
	Source               string // "common practice · likely"
}

// readSources say how what the reader noticed is known, and how sure it is.
var readSources = map[string]string{"amounts-differ": "calculated · sure", "pint": "published · likely", "shared": "common practice · likely", "among-steps": "common practice · likely", "oven-scale": "common practice · likely"}

// findings puts what looks wrong at its line, or above where it has none.
func (s *Server) findings(v *readView, rd *reader.Reading) {
	wrong, slips := 0, 0
	icons := map[string]string{
		"stop": "x-octagon-fill", "look": "exclamation-triangle-fill", "note": "question-circle-fill",
	}
	put := func(line recipe.LineID, f findingView) {
		f.Icon = icons[f.Severity]
		if f.Severity == "stop" {
			slips++
		}
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
		put(f.Line, findingView{Severity: f.Severity, Text: f.Message, Source: readSources[f.Code]})
	}
	for _, n := range review.Notes(rd.Recipe, s.kit.Larder) {
		if n.Code == "no-lines" {
			continue // the line above says it
		}
		f := findingView{Severity: n.Severity, Text: s.kit.Kitchen.Say(n.Message()), Source: string(n.Sure)}
		if n.Usual != "" {
			f.Source = n.Source.Words() + " · " + f.Source
		}
		if n.Fix != nil {
			f.Fix, f.Amount, f.Unit, f.Skip, f.Add = n.Fix.Words, n.Fix.Amount, n.Fix.Unit, n.Fix.Skip, n.Fix.Add
		}
		put(n.Line, f)
	}
	if wrong > 0 {
		v.Settled, v.Stop = false, slips > 0
		switch looks := wrong - slips; {
		case slips > 0 && looks > 0:
			v.Words += fmt.Sprintf(" %s to mend, %d to look at.", plural(slips, "slip"), looks)
		case slips > 0:
			v.Words += " " + plural(slips, "slip") + " to mend."
		default:
			v.Words += " " + plural(looks, "thing") + " to look at."
		}
	}
}
