package web

import (
	"crypto/rand"
	"encoding/binary"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/phrase"
	"kollaris/core/tasting"
	"kollaris/internal/store"
)

// tastingView is a triangle test: cards to lay it, and what came of it.
type tastingView struct {
	Tasters, Right, Of string // as their boxes hold them
	Fault, FaultRight  string
	Seed               string
	Cards              []cardRow
	Words, Wanted      string
	Pools              []tastingPool
	Gone               string // the tasting that was taken away
}

// tastingPool are tastings of one name, taken together.
type tastingPool struct {
	Name, Words string
	Held        []tastingRow
}

type tastingRow struct{ ID, Words string }

// pool takes tastings of one name together: each taster counts, whenever it was.
func (v *tastingView) pool(kept []store.Tasting) {
	sums := map[string][2]int{}
	for _, t := range kept {
		at := slices.IndexFunc(v.Pools, func(p tastingPool) bool { return p.Name == t.Name })
		if at < 0 {
			v.Pools = append(v.Pools, tastingPool{Name: t.Name})
			at = len(v.Pools) - 1
		}
		p := &v.Pools[at]
		p.Held = append(p.Held, tastingRow{strconv.FormatInt(t.ID, 10), fmt.Sprintf("%s: %d of %d", t.At.Local().Format("2 January 2006"), t.Right, t.Of)})
		x := sums[t.Name]
		x[0], x[1] = x[0]+t.Right, x[1]+t.Of
		sums[t.Name] = x
		if all, err := tasting.Tri(x[0], x[1]); err == nil {
			p.Words = all.Words()
		}
	}
}

// newSeed is a seed of the system's own chance, to be kept in an address.
func newSeed() (string, error) {
	var b [8]byte
	if _, err := rand.Read(b[:]); err != nil {
		return "", err
	}
	return strconv.FormatUint(binary.LittleEndian.Uint64(b[:])>>1, 10), nil
}

// keepTasting keeps what came of a triangle test, takes it away, or back.
func (s *Server) keepTasting(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	to := "/tasting"
	if do := form.Get("do"); do == "drop" || do == "restore" {
		id, _ := strconv.ParseInt(form.Get("id"), 10, 64)
		if err := s.store.DropTasting(c.Request.Context(), id, do == "drop"); err != nil {
			return err
		}
		if do == "drop" {
			to += fmt.Sprintf("?gone=%d", id)
		}
		c.Redirect(http.StatusSeeOther, to)
		return nil
	}
	right, err := strconv.Atoi(form.Get("right"))
	of, err2 := strconv.Atoi(form.Get("of"))
	if _, bad := tasting.Tri(right, of); err != nil || err2 != nil || bad != nil {
		return fmt.Errorf("%w: no tasting", errForm)
	}
	name := phrase.Clip(strings.TrimSpace(form.Get("name")), 80)
	if name == "" {
		name = "this against that"
	}
	if err := s.store.AddTasting(c.Request.Context(), store.Tasting{At: s.counter.now(), Name: name, Right: right, Of: of}); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

type cardRow struct {
	N     int
	Codes [3]string
	Lay   string // what is laid under them: "A, A, B"
	Odd   string // the code of the odd one
}

// tasting lays a triangle test and says what came of it. All stands in the address, the seed as well, so that
// the cards are the same when it is opened again.
func (s *Server) tasting(c *gin.Context) error {
	query := c.Request.URL.Query()
	get := func(name string) string { return strings.TrimSpace(query.Get(name)) }
	v := tastingView{Tasters: get("tasters"), Right: get("right"), Of: get("of"), Seed: get("seed")}
	if v.Tasters != "" && v.Seed == "" {
		seed, err := newSeed()
		if err != nil {
			return err
		}
		to := url.Values{"tasters": {v.Tasters}, "seed": {seed}}
		c.Redirect(http.StatusSeeOther, "/tasting?"+to.Encode())
		return nil
	}
	if v.Tasters != "" {
		n, err := strconv.Atoi(v.Tasters)
		seed, _ := strconv.ParseUint(v.Seed, 10, 64)
		cards, bad := tasting.Cards(n, seed)
		if err != nil || bad != nil {
			v.Fault = fmt.Sprintf("“%s”: %v.", phrase.Clip(v.Tasters, 12), tasting.ErrCards)
		}
		for k, x := range cards {
			v.Cards = append(v.Cards, cardRow{k + 1, x.Codes, fmt.Sprintf("%c, %c, %c", x.Of[0], x.Of[1], x.Of[2]), x.Codes[x.Odd]})
		}
	}
	if v.Right != "" || v.Of != "" {
		right, err := strconv.Atoi(v.Right)
		of, err2 := strconv.Atoi(v.Of)
		t, bad := tasting.Tri(right, of)
		if err != nil || err2 != nil || bad != nil {
			v.FaultRight = phrase.Sentence(tasting.ErrTasters.Error())
		} else {
			v.Words = t.Words()
			v.Wanted = fmt.Sprintf("A difference that three in ten taste is found by %d tasters, eight times in ten.", t.Tasters)
		}
	}
	kept, err := s.store.Tastings(c.Request.Context())
	if err != nil {
		return err
	}
	v.pool(kept)
	v.Gone = get("gone")
	s.show(c, http.StatusOK, "tasting", page{Title: "Can anyone tell?", Nav: "bakes", Script: "card", View: v})
	return nil
}
