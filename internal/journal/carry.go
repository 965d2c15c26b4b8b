package journal

import (
	"archive/zip"
	"bufio"
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

// carriedForm is the form of the log as JSON: every bake as it was begun, with all that happened.
//
//	{"kollaris_log": 1, "bakes": [...]}
//
// It is written and read a bake at a time, since there may be thousands.
const carriedForm = 1

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

// each calls f for every bake of the log that can be read, the oldest first, with its sitting; torn for those that cannot, nil for
// nothing.
func each(ctx context.Context, st *store.Store, torn func(*store.Broken), f func(l store.Logged, of store.Bake, b Baked, events []bake.Event) error) error {
	log, err := st.Log(ctx, 0)
	if err != nil {
		return err
	}
	for n := len(log) - 1; n >= 0; n-- {
		l := log[n]
		b, err := st.Bake(ctx, l.Bake)
		if b := store.BrokenOf(err); b != nil {
			if torn != nil {
				torn(b)
			}
			continue
		}
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
	err := each(ctx, st, nil, func(l store.Logged, of store.Bake, b Baked, _ []bake.Event) error {
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
	out := bufio.NewWriter(w)
	fmt.Fprint(out, "# Log\n")
	err = each(ctx, st, nil, func(l store.Logged, of store.Bake, b Baked, _ []bake.Event) error {
		fmt.Fprintf(out, "\n## %s, %s\n\n", plain(b.Of.Title), b.Begun)
		if l.Overall > 0 {
			fmt.Fprintf(out, "- %s\n", Overall[l.Overall])
		}
		if of.Who != "" {
			fmt.Fprintf(out, "- baked by %s\n", plain(of.Who))
		}
		for _, x := range b.Facts() {
			fmt.Fprintf(out, "- %s\n", plain(x))
		}
		if l.Words != "" {
			fmt.Fprintf(out, "- %s\n", plain(l.Words))
		}
		for _, p := range photos {
			if p.Bake == l.Bake && p.Strip == l.Strip {
				fmt.Fprintf(out, "\n![%s](%s)\n", plain(p.Words), pictureFile(p))
			}
		}
		return nil
	})
	return errors.Join(err, out.Flush())
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
	torn := map[int64]string{} // bakes that cannot be read, by id
	err = errors.Join(
		put("log.csv", func(w io.Writer) error { return CSV(ctx, st, w) }),
		put("log.md", func(w io.Writer) error { return Markdown(ctx, st, w) }),
		put("log.json", func(w io.Writer) error { return carry(ctx, st, photos, torn, w) }),
	)
	if err != nil {
		return err
	}
	for id, doc := range torn {
		if err := put(fmt.Sprintf("unreadable/%d.json", id), func(w io.Writer) error { _, err := io.WriteString(w, doc); return err }); err != nil {
			return err
		}
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

// carry writes the log as JSON, and puts what cannot be read into torn, as it stands.
func carry(ctx context.Context, st *store.Store, photos []store.Photo, torn map[int64]string, w io.Writer) error {
	if _, err := fmt.Fprintf(w, `{"kollaris_log":%d,"bakes":[`, carriedForm); err != nil {
		return err
	}
	heads, err := st.Heads(ctx, "", "", 0, -1)
	if err != nil {
		return err
	}
	titles := map[int64]string{}
	for _, r := range heads {
		titles[r.ID] = r.Title
	}
	last, comma := int64(0), false
	err = each(ctx, st, func(b *store.Broken) { torn[b.ID] = b.Doc }, func(l store.Logged, b store.Bake, _ Baked, events []bake.Event) error {
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
		line, err := json.Marshal(one)
		if err != nil {
			return err
		}
		if comma {
			line = append([]byte(","), line...)
		}
		comma = true
		_, err = w.Write(line)
		return err
	})
	if err != nil {
		return err
	}
	_, err = io.WriteString(w, "]}\n")
	return err
}

// ErrCarried says that a file is no log that was taken out of Kollaris.
var ErrCarried = errors.New("it is no log that was taken out of Kollaris: choose the zip that was, as it was")

// What a log may be that is brought in: bytes of log.json, bakes.
const (
	mostJSON  = 512 << 20
	mostBakes = 20000
)

// Bring brings a log back that Zip wrote: bakes that are not there yet, with their pictures, each to the recipe and the
// oven of its name. It returns how many came, and how many were there. A file that is no whole log changes nothing.
func Bring(ctx context.Context, st *store.Store, l *larder.Larder, r io.ReaderAt, size int64) (came, there int, err error) {
	z, err := zip.NewReader(r, size)
	if err != nil {
		return 0, 0, ErrCarried
	}
	files := map[string]*zip.File{}
	for _, f := range z.File {
		files[path.Clean(f.Name)] = f
	}
	n := 0
	err = eachCarried(files["log.json"], func(b *carriedBake) error {
		if n++; n > mostBakes || !b.whole() {
			return ErrCarried
		}
		return nil
	})
	if err != nil {
		return 0, 0, ErrCarried
	}
	heads, err := st.Heads(ctx, "", "", 0, -1)
	if err != nil {
		return 0, 0, err
	}
	recipes := map[string]int64{}
	for _, h := range heads {
		if _, ok := recipes[h.Title]; !ok && h.Title != "" { // of two of a name the one that was changed last
			recipes[h.Title] = h.ID
		}
	}
	err = eachCarried(files["log.json"], func(b *carriedBake) error {
		known, err := st.KnowsEvents(ctx, b.Events)
		switch {
		case err != nil:
			return err
		case known:
			there++
			return nil
		}
		if err := b.bring(ctx, st, l, files, recipes); err != nil {
			return err
		}
		came++
		return nil
	})
	return came, there, err
}

// eachCarried calls do for each bake of a log as JSON.
func eachCarried(f *zip.File, do func(*carriedBake) error) error {
	if f == nil {
		return ErrCarried
	}
	r, err := f.Open()
	if err != nil {
		return err
	}
	defer r.Close()
	in := json.NewDecoder(io.LimitReader(r, mostJSON))
	if _, err := in.Token(); err != nil { // {
		return err
	}
	form := 0
	for in.More() {
		switch name, err := in.Token(); {
		case err != nil:
			return err
		case name == "kollaris_log":
			if err := in.Decode(&form); err != nil {
				return err
			}
		case name == "bakes":
			if _, err := in.Token(); err != nil { // [
				return err
			}
			for in.More() {
				var b carriedBake
				if err := in.Decode(&b); err != nil {
					return err
				}
				if err := do(&b); err != nil {
					return err
				}
			}
			if _, err := in.Token(); err != nil { // ]
				return err
			}
		default:
			var other json.RawMessage
			if err := in.Decode(&other); err != nil {
				return err
			}
		}
	}
	if form != carriedForm {
		return ErrCarried
	}
	_, err = in.Token() // }
	return err
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
func (b *carriedBake) bring(ctx context.Context, st *store.Store, l *larder.Larder, files map[string]*zip.File, recipes map[string]int64) error {
	ovens, err := st.Ovens(ctx)
	if err != nil {
		return err
	}
	for n := range b.Of {
		of := &b.Of[n]
		of.Code = fmt.Sprintf("%d:%s", recipes[b.Recipes[n]], of.Result.Request.Values().Encode())
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
