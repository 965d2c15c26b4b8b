package journal

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path"
	"strconv"
	"strings"
	"time"

	"kollaris/core/bake"
	"kollaris/core/larder"
	"kollaris/internal/photo"
	"kollaris/internal/store"
)

// carried is the log as JSON: every bake as it was begun, with all that happened.
type carried struct {
	Kollaris int           `json:"kollaris_log"` // its form, 1
	Bakes    []carriedBake `json:"bakes"`
}

type carriedBake struct {
	Name    string          `json:"name"`
	Begun   time.Time       `json:"begun"`
	Who     string          `json:"who,omitempty"`
	Of      []store.BakeOf  `json:"of"`
	Recipes []string        `json:"recipes"` // titles on the shelf, of each; "" for none
	Events  []bake.Event    `json:"events"`
	Photos  []carriedPhotos `json:"photos,omitempty"`
}

type carriedPhotos struct {
	File  string    `json:"file"`
	Strip int       `json:"strip,omitempty"`
	At    time.Time `json:"at"`
	Words string    `json:"words,omitempty"`
}

// Columns are those of the log as CSV.
var Columns = []string{"at", "title", "who", "oven", "foretold_min", "in_oven_min", "middle_c", "height_cm", "overall", "seen", "words", "recipe", "bake"}

// row is a bake in the order of Columns.
func (b Baked) row(at time.Time, who string, recipe, id int64) []string {
	number := func(x float64) string {
		if x <= 0 {
			return ""
		}
		return strconv.FormatFloat(x, 'g', 4, 64)
	}
	j := b.Strip.Judged
	foretold, overall := 0.0, ""
	if b.Of.Result.Bake != nil {
		foretold = b.Of.Result.Bake.Minutes
	}
	if j.Overall > 0 {
		overall = Overall[j.Overall]
	}
	return []string{
		at.Format(time.RFC3339), b.Of.Title, who, b.Of.Oven, number(foretold), number(b.minutes()), number(b.core()), number(j.Height), overall,
		strings.Join(j.Symptoms, " "), j.Words, strconv.FormatInt(recipe, 10), strconv.FormatInt(id, 10),
	}
}

// each calls f for every bake of the log, the oldest first, with its sitting.
func each(ctx context.Context, st *store.Store, f func(l store.Logged, of store.Bake, b Baked, events []bake.Event) error) error {
	log, err := st.Log(ctx, 0)
	if err != nil {
		return err
	}
	for n := len(log) - 1; n >= 0; n-- {
		l := log[n]
		b, err := st.Bake(ctx, l.Bake)
		if err != nil {
			return err
		}
		if l.Strip >= len(b.Of) {
			continue
		}
		events, _, err := st.Events(ctx, l.Bake)
		if err != nil {
			return err
		}
		if err := f(l, b, BakedOf(b, bake.Fold(Sheets(b), events), l.Strip), events); err != nil {
			return err
		}
	}
	return nil
}

// CSV writes the log, a line a bake.
func CSV(ctx context.Context, st *store.Store, w io.Writer) error {
	out := csv.NewWriter(w)
	_ = out.Write(Columns)
	err := each(ctx, st, func(l store.Logged, of store.Bake, b Baked, _ []bake.Event) error {
		return out.Write(b.row(l.At, of.Who, l.Recipe, l.Bake))
	})
	out.Flush()
	return errors.Join(err, out.Error())
}

// Markdown writes the log to be read; pictures are named as they lie in the zip.
func Markdown(ctx context.Context, st *store.Store, w io.Writer) error {
	photos, err := st.Photos(ctx, 0)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	out.WriteString("# Log\n")
	err = each(ctx, st, func(l store.Logged, of store.Bake, b Baked, _ []bake.Event) error {
		fmt.Fprintf(&out, "\n## %s, %s\n\n", plain(b.Of.Title), b.Begun)
		if l.Overall > 0 {
			fmt.Fprintf(&out, "- %s\n", Overall[l.Overall])
		}
		if of.Who != "" {
			fmt.Fprintf(&out, "- baked by %s\n", plain(of.Who))
		}
		for _, x := range b.Facts() {
			fmt.Fprintf(&out, "- %s\n", plain(x))
		}
		if l.Words != "" {
			fmt.Fprintf(&out, "- %s\n", plain(l.Words))
		}
		for _, p := range photos {
			if p.Bake == l.Bake && p.Strip == l.Strip {
				fmt.Fprintf(&out, "\n![%s](%s)\n", plain(p.Words), pictureFile(p))
			}
		}
		return nil
	})
	if err != nil {
		return err
	}
	_, err = w.Write(out.Bytes())
	return err
}

// plain keeps typed words from being taken for Markdown.
func plain(s string) string {
	return strings.NewReplacer("\n", " ", "\r", " ", "[", "(", "]", ")", "<", "‹", ">", "›", "*", "∗", "`", "'").Replace(s)
}

func pictureFile(p store.Photo) string { return fmt.Sprintf("pictures/%d.jpg", p.ID) }

// Zip writes all of the log: CSV and Markdown to be read, JSON to be brought back, the pictures.
func Zip(ctx context.Context, st *store.Store, w io.Writer) error {
	z := zip.NewWriter(w)
	put := func(name string, write func(io.Writer) error) error {
		f, err := z.Create(name)
		if err != nil {
			return err
		}
		return write(f)
	}
	photos, err := st.Photos(ctx, 0)
	if err != nil {
		return err
	}
	err = errors.Join(
		put("log.csv", func(w io.Writer) error { return CSV(ctx, st, w) }),
		put("log.md", func(w io.Writer) error { return Markdown(ctx, st, w) }),
		put("log.json", func(w io.Writer) error { return carry(ctx, st, photos, w) }),
	)
	if err != nil {
		return err
	}
	for _, p := range photos {
		jpeg, err := st.Picture(ctx, p.ID, false)
		if err != nil {
			return err
		}
		if err := put(pictureFile(p), func(w io.Writer) error { _, err := w.Write(jpeg); return err }); err != nil {
			return err
		}
	}
	return z.Close()
}

// carry writes the log as JSON.
func carry(ctx context.Context, st *store.Store, photos []store.Photo, w io.Writer) error {
	out := carried{Kollaris: 1, Bakes: []carriedBake{}}
	recipes, err := st.Recipes(ctx, "")
	if err != nil {
		return err
	}
	titles := map[int64]string{}
	for _, r := range recipes {
		titles[r.ID] = r.Title
	}
	last := int64(0)
	err = each(ctx, st, func(l store.Logged, b store.Bake, _ Baked, events []bake.Event) error {
		if b.ID == last { // the other bakes of a sitting come with it
			return nil
		}
		last = b.ID
		one := carriedBake{Name: b.Name, Begun: b.Begun, Who: b.Who, Of: b.Of, Events: events}
		for _, of := range b.Of {
			id, err := RecipeOf(ctx, st, of.Code)
			if err != nil {
				return err
			}
			one.Recipes = append(one.Recipes, titles[id])
		}
		for _, p := range photos {
			if p.Bake == b.ID {
				one.Photos = append(one.Photos, carriedPhotos{File: pictureFile(p), Strip: p.Strip, At: p.At, Words: p.Words})
			}
		}
		out.Bakes = append(out.Bakes, one)
		return nil
	})
	if err != nil {
		return err
	}
	return json.NewEncoder(w).Encode(out)
}

// ErrCarried says that a file is no log that was taken out of Kollaris.
var ErrCarried = errors.New("it is no log that was taken out of Kollaris: choose the zip that was, as it was")

// What a log may be that is brought in: bytes of log.json, bakes.
const (
	mostJSON  = 256 << 20
	mostBakes = 5000
)

// Bring brings a log back that Zip wrote: bakes that are not there yet, with their pictures, each to the recipe and the
// oven of its name. It returns how many came, and how many were there.
func Bring(ctx context.Context, st *store.Store, l *larder.Larder, file []byte) (came, there int, err error) {
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		return 0, 0, ErrCarried
	}
	files := map[string]*zip.File{}
	for _, f := range z.File {
		files[path.Clean(f.Name)] = f
	}
	data, err := unpacked(files["log.json"], mostJSON)
	if err != nil {
		return 0, 0, ErrCarried
	}
	var in carried
	if err := json.Unmarshal(data, &in); err != nil || in.Kollaris != 1 || len(in.Bakes) > mostBakes {
		return 0, 0, ErrCarried
	}
	for n := range in.Bakes {
		b := &in.Bakes[n]
		if !b.whole() {
			return came, there, ErrCarried
		}
		known, err := st.KnowsEvents(ctx, b.Events)
		if err != nil {
			return came, there, err
		}
		if known {
			there++
			continue
		}
		if err := b.bring(ctx, st, l, files); err != nil {
			return came, there, err
		}
		came++
	}
	return came, there, nil
}

// whole reports whether a bake that is brought in has all that pages ask of one.
func (b *carriedBake) whole() bool {
	if len(b.Of) == 0 || len(b.Of) != len(b.Recipes) || len(b.Events) == 0 || b.Begun.IsZero() {
		return false
	}
	for _, of := range b.Of {
		if of.Result == nil || of.Result.Recipe == nil {
			return false
		}
	}
	return true
}

// unpacked reads a file of a zip, up to a size.
func unpacked(f *zip.File, most int64) ([]byte, error) {
	if f == nil {
		return nil, ErrCarried
	}
	r, err := f.Open()
	if err != nil {
		return nil, err
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, most+1))
	if err == nil && int64(len(data)) > most {
		err = ErrCarried
	}
	return data, err
}

// bring keeps a bake with what happened, and its pictures.
func (b *carriedBake) bring(ctx context.Context, st *store.Store, l *larder.Larder, files map[string]*zip.File) error {
	recipes, err := st.Recipes(ctx, "")
	if err != nil {
		return err
	}
	ovens, err := st.Ovens(ctx)
	if err != nil {
		return err
	}
	for n := range b.Of {
		of := &b.Of[n]
		id := int64(0)
		for _, r := range recipes {
			if b.Recipes[n] != "" && r.Title == b.Recipes[n] {
				id = r.ID
			}
		}
		of.Code = fmt.Sprintf("%d:%s", id, of.Result.Request.Values().Encode())
		of.Result.Request.Oven.Oven = 0
		for _, o := range ovens {
			if o.Name == of.Oven {
				of.Result.Request.Oven.Oven = o.ID
			}
		}
	}
	kept := store.Bake{Name: b.Name, Begun: b.Begun, Of: b.Of, Who: b.Who}
	if kept.ID, err = st.AddBake(ctx, kept, b.Events...); err != nil {
		return err
	}
	for _, p := range b.Photos {
		data, err := unpacked(files[path.Clean(p.File)], photo.MostBytes)
		if err != nil {
			continue // the picture is gone from the zip; what happened stands
		}
		shot := store.Photo{Bake: kept.ID, Strip: p.Strip, At: p.At, Words: p.Words}
		if shot.Photo, err = photo.Take(data); err != nil {
			continue
		}
		if _, err := st.AddPhoto(ctx, shot); err != nil {
			return err
		}
	}
	return Keep(ctx, st, l, kept, bake.Fold(Sheets(kept), b.Events))
}
