package web

import (
	"crypto/rand"
	"encoding/binary"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/phrase"
	"kollaris/core/tasting"
)

// tastingView is a triangle test: cards to lay it, and what came of it.
type tastingView struct {
	Tasters, Right, Of string // as their boxes hold them
	Fault, FaultRight  string
	Seed               string
	Cards              []cardRow
	Words, Wanted      string
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
		var b [8]byte
		if _, err := rand.Read(b[:]); err != nil {
			return err
		}
		to := url.Values{"tasters": {v.Tasters}, "seed": {strconv.FormatUint(binary.LittleEndian.Uint64(b[:])>>1, 10)}}
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
	s.show(c, http.StatusOK, "tasting", page{Title: "Can anyone tell?", Nav: "bakes", Script: "card", View: v})
	return nil
}
