package main

import (
	"math"

	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/recipe"
)

// wireTask is one thing to do.
type wireTask struct {
	Part     string      `json:"part"` // "" for the batter
	Verb     string      `json:"verb"`
	Text     string      `json:"text"`
	Written  string      `json:"written"` // the writer's words, "" where nobody wrote it
	Uses     []wireUse   `json:"uses"`
	Takes    []string    `json:"takes"` // what an earlier task made
	Makes    string      `json:"makes"`
	Hands    wireMinutes `json:"hands_min"`
	Wait     wireMinutes `json:"wait_min"`
	Where    string      `json:"where"`
	Oven     float64     `json:"oven_c"` // 0 where no oven takes part
	Until    string      `json:"until"`
	AtOnce   bool        `json:"at_once"` // the next follows without delay
	Inferred bool        `json:"inferred"`
	Changed  bool        `json:"changed"`
}

type wireUse struct {
	Ingredient larder.ID     `json:"ingredient"`
	Line       recipe.LineID `json:"line"`
	Grams      float64       `json:"grams"`
	Share      float64       `json:"share"` // of the line
}

type wireMinutes struct {
	Min float64 `json:"min"`
	Max float64 `json:"max"`
}

func minutesOf(m recipe.Minutes) wireMinutes {
	return wireMinutes{math.Round(m.Min), math.Round(m.Max)}
}

// wireMethod writes tasks with what they take of a recipe's lines.
func wireMethod(tasks []method.Task, r *recipe.Recipe) []wireTask {
	out := []wireTask{}
	for _, t := range tasks {
		w := wireTask{
			Part: t.Part, Verb: string(t.Verb), Text: t.Text, Written: t.Written, Uses: []wireUse{}, Takes: list(t.Takes), Makes: t.Makes,
			Hands: minutesOf(t.Hands.Minutes), Wait: minutesOf(t.Wait.Minutes), Where: string(t.Where), Oven: math.Round(float64(t.Oven)),
			Until: t.Until, AtOnce: t.AtOnce, Inferred: t.Inferred, Changed: t.Changed,
		}
		for _, u := range t.Uses {
			if l := r.Line(u.Line); l != nil {
				w.Uses = append(w.Uses, wireUse{l.Ingredient, l.ID, tidy(l.Grams * u.Share), tidy(u.Share)})
			}
		}
		out = append(out, w)
	}
	return out
}
