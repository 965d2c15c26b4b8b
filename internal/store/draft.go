package store

import (
	"cmp"
	"context"
	"database/sql"
	"encoding/json"
	"reflect"
	"slices"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Draft is a text being read: new, or a correction of a recipe on the shelf.
type Draft struct {
	ID     int64
	Rev    int64
	Recipe int64 // 0 for a new one
	Base   int64 // rev of the recipe that it corrects, when it began
	Kept   int64 // the recipe that became of it, 0 while it is a draft
	Text   string
	Typed  Typed
	Past   []Step // what was done to it, the last one last, so that it can be taken back
}

// mostSteps and mostPast bound what a draft remembers of itself, in steps and in bytes of
// earlier texts.
const (
	mostSteps = 60
	mostPast  = 1 << 20
)

// Step is one thing done to a draft, with what stood before it.
type Step struct {
	Words string  `json:"words"`          // what was done
	Text  *string `json:"text,omitempty"` // the text before, nil where it did not change
	Typed Typed   `json:"typed"`          // what was typed before
	Known []Known `json:"known,omitempty"`
}

// Known is what the household had settled of a phrase or a measure before a step, which
// the step settled otherwise.
type Known struct {
	Phrase     string    `json:"phrase,omitempty"`
	Ingredient larder.ID `json:"ingredient,omitempty"` // "" for not settled
	Measure    string    `json:"measure,omitempty"`
	Grams      float64   `json:"grams,omitempty"` // 0 for not settled
}

// Did writes a step down, given the text and what was typed before it. A step that
// changed nothing is none.
func (d *Draft) Did(words, text string, typed Typed, known ...Known) {
	st := Step{Words: words, Typed: typed, Known: known}
	if text != d.Text {
		st.Text = &text
	} else if reflect.DeepEqual(typed, d.Typed) && len(known) == 0 {
		return
	}
	d.Past = append(d.Past, st)
	size := 0
	for n := len(d.Past) - 1; n >= 0; n-- {
		if d.Past[n].Text != nil {
			size += len(*d.Past[n].Text)
		}
		if size > mostPast || len(d.Past)-n > mostSteps {
			d.Past = slices.Clone(d.Past[n+1:])
			return
		}
	}
}

// Back takes the last step back and returns what the household had settled before it.
func (d *Draft) Back() []Known {
	n := len(d.Past) - 1
	if n < 0 {
		return nil
	}
	st := d.Past[n]
	d.Past, d.Typed = d.Past[:n], st.Typed
	if st.Text != nil {
		d.Text = *st.Text
	}
	return st.Known
}

// draftDoc is a draft as it is stored beside its text.
type draftDoc struct {
	Typed
	Past []Step `json:"past,omitempty"`
}

// AddDraft begins a draft.
func (s *Store) AddDraft(ctx context.Context, recipeID int64, text string, typed Typed) (int64, error) {
	doc, err := json.Marshal(typed)
	if err != nil {
		return 0, err
	}
	var rid any
	if recipeID != 0 {
		rid = recipeID
	}
	res, err := s.db.ExecContext(
		ctx, "INSERT INTO draft (recipe, base, text, doc, updated_at) VALUES (?, (SELECT rev FROM recipe WHERE id = ?), ?, ?, ?)", rid, rid,
		text, string(doc), now(),
	)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// Draft returns a draft.
func (s *Store) Draft(ctx context.Context, id int64) (*Draft, error) {
	var d Draft
	var doc string
	if err := s.db.QueryRowContext(ctx, "SELECT id, rev, coalesce(recipe, 0), coalesce(base, 0), coalesce(kept, 0), text, doc FROM draft WHERE id = ? AND deleted_at IS NULL", id).Scan(&d.ID, &d.Rev, &d.Recipe, &d.Base, &d.Kept, &d.Text, &doc); err != nil {
		return nil, missing(err)
	}
	var dd draftDoc
	err := decode("draft", d.ID, "a recipe that was begun", doc, &dd)
	d.Typed, d.Past = dd.Typed, dd.Past
	return &d, err
}

// SaveDraft writes a draft back; ErrChanged when another window wrote it since.
func (s *Store) SaveDraft(ctx context.Context, d *Draft) error {
	doc, err := json.Marshal(draftDoc{d.Typed, d.Past})
	if err != nil {
		return err
	}
	res, err := s.db.ExecContext(
		ctx, "UPDATE draft SET text = ?, doc = ?, rev = rev + 1, updated_at = ? WHERE id = ? AND rev = ?", d.Text,
		string(doc), now(), d.ID, d.Rev,
	)
	if err != nil {
		return err
	}
	if n, _ := res.RowsAffected(); n == 0 {
		return ErrChanged
	}
	d.Rev++
	return nil
}

// KeepDraft puts a draft's recipe on the shelf, or its correction, in one step, and notes what became of it: kept again, it
// is that recipe. ErrChanged where another window changed the draft, or corrected the recipe since the draft began.
func (s *Store) KeepDraft(ctx context.Context, d *Draft, doc *recipe.Recipe) (id int64, err error) {
	err = s.write(ctx, func(tx *sql.Tx) error {
		var rev, kept int64
		if err := tx.QueryRowContext(ctx, "SELECT rev, coalesce(kept, 0) FROM draft WHERE id = ?", d.ID).Scan(&rev, &kept); err != nil {
			return missing(err)
		}
		switch {
		case kept != 0:
			id = kept
			return nil
		case rev != d.Rev:
			return ErrChanged
		}
		var err error
		if id = d.Recipe; id == 0 {
			id, err = s.addRecipe(ctx, tx, doc, d.Text, d.Typed)
		} else {
			err = s.correctRecipe(ctx, tx, id, cmp.Or(d.Base, AnyRev), doc, d.Text, d.Typed)
		}
		if err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, "UPDATE draft SET kept = ?, rev = rev + 1, updated_at = ? WHERE id = ?", id, now(), d.ID)
		return err
	})
	return id, err
}

// Rebase lets a draft correct the recipe as it is now, whatever came between.
func (s *Store) Rebase(ctx context.Context, d *Draft) error {
	return s.db.QueryRowContext(
		ctx, "UPDATE draft SET base = (SELECT rev FROM recipe WHERE id = draft.recipe) WHERE id = ? RETURNING coalesce(base, 0)", d.ID,
	).Scan(&d.Base)
}

// Drafts lists the texts that were begun and not kept, the last one first, each with how it begins, without those of files: UnfinishedBrought.
func (s *Store) Drafts(ctx context.Context) ([]Draft, error) {
	var out []Draft
	err := s.each(
		ctx, "SELECT id, rev, coalesce(recipe, 0), substr(text, 1, 500) FROM draft WHERE kept IS NULL AND deleted_at IS NULL AND brought IS NULL ORDER BY updated_at DESC, id DESC",
		func(scan func(...any) error) error {
			var d Draft
			err := scan(&d.ID, &d.Rev, &d.Recipe, &d.Text)
			out = append(out, d)
			return err
		},
	)
	return out, err
}

// DropDraft gives a draft up, or takes it up again.
func (s *Store) DropDraft(ctx context.Context, id int64, gone bool) error {
	return changed(s.db.ExecContext(ctx, "UPDATE draft SET deleted_at = ? WHERE id = ?", sql.NullString{String: now(), Valid: gone}, id))
}
