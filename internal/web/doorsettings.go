package web

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/boombuler/barcode/qr"
	"github.com/gin-gonic/gin"

	"kollaris/internal/store"
)

// doorView is the part of the settings about other machines.
type doorView struct {
	Here      bool // only who sits at this machine changes it
	Set, Wish bool // there is a passphrase; the house wants it open
	Open      bool // it is
	Addresses []string
	Code      string // path of a QR code of the first
	CodeSize  int
	Sessions  []sessionRow
	Log       []attemptRow
	Guests    bool
	Link      string // of guests, shown once
	LinkCode  string
	LinkSize  int
	Say       string
	Bad       bool
}

// Wide and LinkWide are how wide the codes are drawn, with the edge of four units that the standard asks for.
func (v doorView) Wide() int     { return v.CodeSize + 8 }
func (v doorView) LinkWide() int { return v.LinkSize + 8 }

type (
	sessionRow struct{ From, Made, Seen, Who string }
	attemptRow struct{ From, At, Words string }
)

func (s *Server) doorOf(c *gin.Context) (v doorView, err error) {
	v.Here, v.Wish = s.fromHere(c), s.home.LAN
	v.Say, v.Bad = c.Query("door"), c.Query("bad") != ""
	if v.Set, err = s.store.HasPassphrase(c.Request.Context()); err != nil {
		return v, err
	}
	if v.Guests, err = s.store.GuestsInvited(c.Request.Context()); err != nil {
		return v, err
	}
	s.door.mu.Lock()
	v.Open, v.Addresses = len(s.door.hosts) > 0, s.door.urls
	for _, a := range s.door.log {
		v.Log = append(v.Log, attemptRow{a.From, a.At.Format("2 January, 15:04"), map[bool]string{true: "let in", false: "not let in"}[a.In]})
	}
	s.door.mu.Unlock()
	if len(v.Addresses) > 0 {
		if v.Code, v.CodeSize, err = qrPath(v.Addresses[0]); err != nil {
			return v, err
		}
	}
	all, err := s.store.Sessions(c.Request.Context())
	for _, x := range all {
		who := "of the house"
		if x.Guest {
			who = "a guest"
		}
		v.Sessions = append(v.Sessions, sessionRow{x.From, onDay(x.Made), onDay(x.Seen) + x.Seen.Local().Format(", 15:04"), who})
	}
	return v, err
}

// qrPath draws a QR code (ISO/IEC 18004, level M) as a path of squares of one unit, with how many units it is wide.
func qrPath(words string) (path string, size int, err error) {
	code, err := qr.Encode(words, qr.M, qr.Auto)
	if err != nil {
		return "", 0, err
	}
	var b strings.Builder
	size = code.Bounds().Dx()
	for y := range size {
		for x := range size {
			if r, _, _, _ := code.At(x, y).RGBA(); r == 0 {
				fmt.Fprintf(&b, "M%d %dh1v1h-1z", x, y)
			}
		}
	}
	return b.String(), size, nil
}

// changeDoor settles who may come in; only who sits at this machine does.
func (s *Server) changeDoor(c *gin.Context) error {
	if !s.fromHere(c) {
		s.fail(c, http.StatusForbidden, problem{Title: "Not from here", Do: "Who may come in is settled at the machine that Kollaris runs on."})
		return nil
	}
	form, err := postForm(c)
	if err != nil {
		return err
	}
	say := func(words string, bad bool) error {
		q := url.Values{"door": {words}}
		if bad {
			q.Set("bad", "1")
		}
		c.Redirect(http.StatusSeeOther, "/settings?"+q.Encode()+"#door")
		return nil
	}
	wish := func(on bool) error {
		return s.store.ChangeHousehold(c.Request.Context(), store.AnyRev, func(h *store.Household) { h.LAN = on })
	}
	defer s.door.changed()
	switch form.Get("act") {
	case "set":
		err := s.store.SetPassphrase(c.Request.Context(), form.Get("passphrase"))
		if errors.Is(err, store.ErrWeak) {
			return say("It was not set: "+err.Error()+".", true)
		}
		if err != nil {
			return err
		}
		return say("The passphrase is set. Whoever was let in before has to type it anew.", false)
	case "open":
		if has, err := s.store.HasPassphrase(c.Request.Context()); err != nil || !has {
			return errors.Join(err, say("Set a passphrase first: without one it stays on this machine.", true))
		}
		if err := wish(true); err != nil {
			return err
		}
		for n := 0; n < 20 && !s.door.open(); n++ { // it opens beside this request
			s.door.changed()
			time.Sleep(50 * time.Millisecond)
		}
		if !s.door.open() {
			return say("It is wanted, but no address of this machine could be opened: the log of the program says why.", true)
		}
		return say("Other machines of the house can come in now, with the passphrase.", false)
	case "shut":
		if err := wish(false); err != nil {
			return err
		}
		return say("Nobody comes in from other machines any more.", false)
	case "out":
		if err := s.store.EndSessions(c.Request.Context()); err != nil {
			return err
		}
		return say("All browsers were logged out.", false)
	case "noguests":
		if err := s.store.EndGuests(c.Request.Context()); err != nil {
			return err
		}
		return say("The guests’ link opens nothing any more.", false)
	case "guests":
		token, err := s.store.InviteGuests(c.Request.Context())
		if errors.Is(err, store.ErrNotFound) {
			return say("Set a passphrase first.", true)
		}
		if err != nil {
			return err
		}
		return s.showSettings(c, http.StatusOK, false, nil, token)
	}
	return errForm
}

// invite adds the guests' link to the page, which is the only time that it is seen.
func (v *doorView) invite(token string) (err error) {
	at := "http://127.0.0.1:8080"
	if len(v.Addresses) > 0 {
		at = v.Addresses[0]
	}
	v.Link = strings.TrimSuffix(at, "/") + "/guest/" + token
	v.LinkCode, v.LinkSize, err = qrPath(v.Link)
	return err
}
