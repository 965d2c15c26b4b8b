package adapt

import (
	"cmp"
	"fmt"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/fact"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/nutrition"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/review"
	"kollaris/core/swap"
)

// Amount is an amount of one ingredient in a change.
type Amount struct {
	Line       recipe.LineID `json:"line"`
	Ingredient larder.ID     `json:"ingredient"`
	Name       string        `json:"name"`
	Grams      float64       `json:"grams"`
	Measure    string        `json:"measure"`
	Held       bool          `json:"held,omitempty"`
}

// Option is one school offered for a change.
type Option struct {
	School     string          `json:"school"`
	Title      string          `json:"title"`
	Effect     string          `json:"effect"`
	Confidence swap.Confidence `json:"confidence"`
	About      []Amount        `json:"about,omitempty"` // the usual amounts, before solving
	New        []string        `json:"new,omitempty"`   // allergens it would bring
	Labels     []string        `json:"labels,omitempty"`
	Say        []string        `json:"say,omitempty"`
	Shut       string          `json:"shut,omitempty"` // in words
	ShutBy     swap.ShutBy     `json:"shut_by,omitempty"`
	Auto       bool            `json:"auto,omitempty"` // what Kollaris takes when nobody chooses
	Source     fact.Source     `json:"source"`
}

// The kinds of change.
const (
	Swapped = "swapped" // a use replaced by a school
	Moved   = "moved"   // an amount changed so that the sum comes right
	Scaled  = "scaled"  // brought to whole eggs, and the liquid with it
	Added   = "added"   // something that was not in the recipe
	Dropped = "dropped" // left out
)

// Change is one entry of the ledger.
type Change struct {
	Kind       string          `json:"kind"`
	Use        string          `json:"use,omitempty"` // key of Request.Swaps
	Title      string          `json:"title"`         // "2 eggs"
	Role       string          `json:"role,omitempty"`
	Jobs       []string        `json:"jobs,omitempty"`   // what it may be there for
	Job        string          `json:"job,omitempty"`    // what the baker says it is there for
	Breaks     string          `json:"breaks,omitempty"` // why it cannot stay, in words
	Why        diet.Reason     `json:"why,omitzero"`     // the same as a value, where a demand is broken
	From       []Amount        `json:"from"`
	To         []Amount        `json:"to"`
	School     string          `json:"school,omitempty"`
	SchoolName string          `json:"school_name,omitempty"`
	Reason     string          `json:"reason"`
	Effect     string          `json:"effect,omitempty"`
	Confidence swap.Confidence `json:"confidence,omitempty"`
	Options    []Option        `json:"options,omitempty"` // the chosen one first
	New        []string        `json:"new,omitempty"`
}

// Sum is one line of what the formula adds up to, before and after, with the
// window inside which nothing needs saying.
type Sum struct {
	ID     string      `json:"id"`
	Name   string      `json:"name"`
	Unit   string      `json:"unit"`
	Before float64     `json:"before"`
	After  float64     `json:"after"`
	Lo     float64     `json:"lo"`
	Hi     float64     `json:"hi"`
	Less   string      `json:"less"` // the word for too little: drier
	More   string      `json:"more"`
	Words  string      `json:"words"`
	Out    bool        `json:"out"`            // outside the window
	Miss   float64     `json:"miss,omitempty"` // by how much, too little below 0
	Why    fact.Figure `json:"why"`
	Method string      `json:"method"` // how it is worked out
}

// Verdict is how the recipe stands to the demand.
type Verdict struct {
	State  string   `json:"state"` // fine, look or stop
	Words  string   `json:"words"`
	Labels []string `json:"labels,omitempty"` // what to read on which packet
	Holds  []string `json:"holds,omitempty"`  // allergens, by id
	Check  []string `json:"check,omitempty"`  // allergens that depend on a label
	New    []string `json:"new,omitempty"`    // allergens the written recipe did not hold
	Gone   []string `json:"gone,omitempty"`   // none while a line is not understood: it might hold them
	Unread []string `json:"unread,omitempty"` // lines that were not understood and could hold anything
	More   []string `json:"more,omitempty"`   // what else is to be known, a sentence each, beside Words
	Stops  []Stop   `json:"stops,omitempty"`  // what the words name and the table must not have, where it stays in what is shown
	Spoken []string `json:"spoken,omitempty"` // foods that the method names or a note tells to use, no line lists and the table must not have
	noted  int      // how many of them, the last, only a note does
	Beside []Named  `json:"beside,omitempty"` // foods that a written line names beside its own, left out of its words here
}

// Open reports whether something is not understood, or stays in what is shown and must not: then nobody may eat by a card of it.
func (v Verdict) Open() bool { return len(v.Unread)+len(v.Stops) > 0 }

// Allergens writes what it holds, what is new and what is gone, for reading. None is the
// word for none; with a line that was not understood there is no such word.
func (v Verdict) Allergens(none string) (holds, newly, gone string) {
	list := func(ids []string) string {
		var out []string
		for _, id := range ids {
			out = append(out, larder.AllergenWords(id))
		}
		return strings.Join(out, ", ")
	}
	if len(v.Unread) == 0 && len(v.Stops) > 0 { // whether it is left out nobody knows
		return cmp.Or(list(v.Holds), "not known"), cmp.Or(list(v.New), "not known"), cmp.Or(list(v.Gone), none)
	}
	if len(v.Unread) == 0 {
		return cmp.Or(list(v.Holds), none), cmp.Or(list(v.New), none), cmp.Or(list(v.Gone), none)
	}
	rest := "whatever “" + phrase.Clip(v.Unread[0], 40) + "” holds"
	if n := len(v.Unread); n > 1 {
		rest = fmt.Sprintf("whatever %d lines hold that were not understood", n)
	}
	holds, newly = rest, "not known"
	if len(v.Holds) > 0 {
		holds = list(v.Holds) + ", and " + rest
	}
	if len(v.New) > 0 {
		newly = list(v.New) + ", and what else is not known"
	}
	return holds, newly, "not known"
}

// Refusal says why no recipe is handed out and what would come nearest. It is a
// result, not an error.
type Refusal struct {
	Reason  string   `json:"reason"`
	Nearest []string `json:"nearest"`
	Change  *Change  `json:"change,omitempty"` // the use whose doors are all shut
}

// Result is what an adaptation came to.
type Result struct {
	Request       Request                   `json:"request"`
	Recipe        *recipe.Recipe            `json:"recipe"`          // adapted; as written when refused
	Slips         []review.Note             `json:"slips,omitempty"` // of the written recipe, what is hardly ever meant
	Measures      map[int]string            `json:"measures"`
	Changes       []Change                  `json:"changes"`
	Verdict       Verdict                   `json:"verdict"`
	Sums          []Sum                     `json:"sums"`
	Before        balance.Balance           `json:"before"`
	After         balance.Balance           `json:"after"`
	Serving       nutrition.Facts           `json:"serving"`
	ServingBefore nutrition.Facts           `json:"serving_before"`
	Bakes         *Bakes                    `json:"bakes,omitempty"` // what is baked, nil where no weight is known
	Bake          *oven.Estimate            `json:"bake"`            // once predicted
	BakeProblem   string                    `json:"bake_problem,omitempty"`
	Microwave     *Microwave                `json:"microwave,omitempty"` // where it is no bake
	Method        []method.Task             `json:"method"`
	Cautions      []review.Caution          `json:"cautions"`
	Confidence    swap.Confidence           `json:"confidence"`
	Becomes       string                    `json:"becomes,omitempty"` // base of the batter, "" where it stays as written
	Limits        []LimitOutcome            `json:"limits,omitempty"`
	Gaps          []nutrition.Gap           `json:"gaps,omitempty"`       // lines that the figures leave out: those are then “at least”
	Why           map[larder.ID]formula.Why `json:"why,omitempty"`        // of the amounts that were solved for
	Doubts        []string                  `json:"doubts,omitempty"`     // what lowers the confidence, in words
	AsWritten     []Claim                   `json:"as_written,omitempty"` // what the written recipe shows itself to be free of
	Refused       *Refusal                  `json:"refused"`
}
