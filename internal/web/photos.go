package web

import (
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/bake"
	"kollaris/core/phrase"
	"kollaris/internal/photo"
	"kollaris/internal/store"
)

// maxPhotos is the most that is sent at once, bytes.
const maxPhotos = 4*photo.MostBytes + 1<<20

// photoView is a picture.
type photoView struct {
	ID            int64
	Words         string // what is on it, for who cannot see it
	Rev           int64  // of the words
	Width, Height int
	Log           string // where it belongs
	Title, Of     string

	// to measure by it
	Known, Said string // as typed; fault
	Lines       []photoLine
}

// photoLine is a line over the picture with its two ends, in its own pixels.
type photoLine struct {
	ID, Words      string
	A, B           photo.Point // shares
	X1, Y1, X2, Y2 string
}

// photosOf are the pictures of a bake, and how much room there is.
func (s *Server) photosOf(c *gin.Context, v *logView) error {
	all, err := s.store.Photos(c.Request.Context(), v.ID)
	if err != nil {
		return err
	}
	for _, p := range all {
		if p.Strip == v.Strip {
			k := math.Min(1, 320/float64(max(p.Width, p.Height)))
			v.Photos = append(v.Photos, photoView{ID: p.ID, Words: photoWords(p, v.Title), Width: int(k * float64(p.Width)), Height: int(k * float64(p.Height))})
		}
	}
	used, err := s.store.PhotoBytes(c.Request.Context())
	if err != nil {
		return err
	}
	v.Room = fmt.Sprintf(
		"JPEG, PNG or WebP, up to %d MB each. They are scaled down, and where and when they were taken is not kept. %.0f of %d MB are used.",
		photo.MostBytes>>20, math.Ceil(float64(used)/(1<<20)), store.MostPhotos>>20,
	)
	v.UndoPic = c.Query("photo")
	return nil
}

func photoWords(p store.Photo, title string) string {
	if p.Words != "" {
		return p.Words
	}
	return title + ", " + onDay(p.At)
}

// addPhotos takes pictures in. What will not do is said by its file's name; the others are kept.
func (s *Server) addPhotos(c *gin.Context) error {
	t, err := s.sit(c, paramID(c))
	if err != nil {
		return err
	}
	form, err := c.MultipartForm()
	if err != nil {
		return fmt.Errorf("%w: %w", errForm, err)
	}
	defer form.RemoveAll() //nolint:errcheck // what is left is swept with the temporary files
	n := 0
	if list := form.Value["bake"]; len(list) > 0 {
		n, _ = strconv.Atoi(list[0])
	}
	if n < 0 || n >= len(t.sheets) {
		return fmt.Errorf("%w: no bake", errForm)
	}
	var faults []string
	for _, head := range form.File["pictures"] {
		file, err := head.Open()
		if err != nil {
			return err
		}
		data, err := io.ReadAll(file)
		file.Close()
		if err != nil {
			return err
		}
		p := store.Photo{Bake: t.ID, Strip: n, At: s.counter.now()}
		if p.Photo, err = photo.Take(data); err == nil {
			_, err = s.store.AddPhoto(c.Request.Context(), p)
		}
		switch {
		case errors.Is(err, photo.ErrHEIC), errors.Is(err, photo.ErrKind), errors.Is(err, photo.ErrBytes), errors.Is(err, photo.ErrPixels), errors.Is(err, store.ErrNoRoom):
			faults = append(faults, fmt.Sprintf("“%s”: %v.", phrase.Clip(head.Filename, 40), err))
		case err != nil:
			return err
		}
	}
	to := logURL(t.ID, n)
	if len(faults) > 0 {
		to += "&say=" + urlEscape(strings.Join(faults, " "))
	}
	c.Redirect(http.StatusSeeOther, to+"#photos")
	return nil
}

// photoPage is a picture large, and the lines to measure by it; or the picture itself where the address ends in .jpg.
func (s *Server) photoPage(c *gin.Context) error {
	name, isFile := strings.CutSuffix(c.Param("id"), ".jpg")
	name, small := strings.CutSuffix(name, ".small")
	id, err := strconv.ParseInt(name, 10, 64)
	if err != nil {
		return store.ErrNotFound
	}
	if isFile {
		jpeg, err := s.store.Picture(c.Request.Context(), id, small)
		if err != nil {
			return err
		}
		c.Header("Cache-Control", "private, max-age=3600")
		c.Data(http.StatusOK, "image/jpeg", jpeg)
		return nil
	}
	return s.showPhoto(c, http.StatusOK, id, url.Values{}, "")
}

func (s *Server) showPhoto(c *gin.Context, status int, id int64, typed url.Values, fault string) error {
	p, err := s.store.Photo(c.Request.Context(), id)
	if err != nil {
		return err
	}
	t, err := s.sit(c, p.Bake)
	if err != nil {
		return err
	}
	if p.Strip >= len(t.Of) {
		return store.ErrNotFound
	}
	res := t.Of[p.Strip].Result
	v := &photoView{
		ID: id, Words: p.Words, Rev: store.RevOf(p.Words), Width: p.Width, Height: p.Height, Log: logURL(p.Bake, p.Strip) + "#photos", Title: t.Of[p.Strip].Title,
		Of: photoWords(p, t.Of[p.Strip].Title), Known: typed.Get("known"), Said: fault,
	}
	if v.Known == "" && res.Bake != nil && res.Bake.Fill.Tin.Width > 0 {
		v.Known = number(res.Bake.Fill.Tin.Width)
	}
	for _, l := range photoLines {
		line := photoLine{ID: l.id, Words: l.words, A: pointOf(typed, l.id+"a", l.a), B: pointOf(typed, l.id+"b", l.b)}
		line.X1, line.Y1 = f1(line.A.X*float64(p.Width)), f1(line.A.Y*float64(p.Height))
		line.X2, line.Y2 = f1(line.B.X*float64(p.Width)), f1(line.B.Y*float64(p.Height))
		v.Lines = append(v.Lines, line)
	}
	s.show(c, status, "photo", page{Title: "Picture of " + v.Title, Nav: "bakes", Script: "photo", View: v})
	return nil
}

// photoLines are the lines as they lie first: the width of the slice, and its height.
var photoLines = []struct {
	id, words string
	a, b      photo.Point
}{
	{"w", "its width", photo.Point{X: 0.15, Y: 0.85}, photo.Point{X: 0.85, Y: 0.85}},
	{"h", "its height", photo.Point{X: 0.5, Y: 0.2}, photo.Point{X: 0.5, Y: 0.8}},
}

// pointOf reads a place from two boxes, as shares; what is none lies where it lay first.
func pointOf(form url.Values, name string, first photo.Point) photo.Point {
	x, errX := strconv.ParseFloat(form.Get(name+"x"), 64)
	y, errY := strconv.ParseFloat(form.Get(name+"y"), 64)
	if errX != nil || errY != nil || !(x >= 0 && x <= 1 && y >= 0 && y <= 1) {
		return first
	}
	return photo.Point{X: x, Y: y}
}

// changePhoto says what is on a picture, takes it away or back, or takes the height that was measured on it.
func (s *Server) changePhoto(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	id := paramID(c)
	p, err := s.store.Photo(c.Request.Context(), id)
	if err != nil {
		return err
	}
	to := logURL(p.Bake, p.Strip)
	switch form.Get("do") {
	case "drop":
		err, to = s.store.DropPhoto(c.Request.Context(), id, true), fmt.Sprintf("%s&photo=%d#photos", to, id)
	case "restore":
		err, to = s.store.DropPhoto(c.Request.Context(), id, false), to+"#photos"
	case "words":
		err, to = s.store.SayPhoto(c.Request.Context(), id, seenRev(form), phrase.Clip(strings.TrimSpace(form.Get("words")), 120)), to+"#photos"
	case "measure":
		known, ok := decimalUpTo(form.Get("known"), 60)
		if !ok {
			return s.showPhoto(c, http.StatusUnprocessableEntity, id, form, fmt.Sprintf("“%s” is not how wide it is in cm: try 9.5.", phrase.Clip(form.Get("known"), 12)))
		}
		w, h := photoLines[0], photoLines[1]
		cm, err := p.Measure(pointOf(form, "wa", w.a), pointOf(form, "wb", w.b), known, pointOf(form, "ha", h.a), pointOf(form, "hb", h.b))
		if err != nil {
			return s.showPhoto(c, http.StatusUnprocessableEntity, id, form, phrase.Sentence(err.Error()))
		}
		event := bake.Event{ID: newID(), At: s.counter.now(), Bake: p.Strip, What: bake.Judge, Key: "height", Value: math.Round(10*cm) / 10}
		if _, err := s.store.AddEvents(c.Request.Context(), p.Bake, []bake.Event{event}); err != nil {
			return err
		}
		to += "#height"
	default:
		return fmt.Errorf("%w: nothing to do", errForm)
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}
