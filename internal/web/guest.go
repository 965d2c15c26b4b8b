package web

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"
)

// guestView is what guests may look at.
type guestView struct{ Bakes, Lists, Cards []link }

func (s *Server) guest(c *gin.Context) error {
	var v guestView
	bakes, err := s.store.Running(c.Request.Context())
	if err != nil {
		return err
	}
	for _, b := range bakes {
		v.Bakes = append(v.Bakes, link{fmt.Sprintf("/bakes/%d", b.ID), b.Name})
	}
	plans, err := s.store.Plans(c.Request.Context())
	if err != nil {
		return err
	}
	for _, p := range plans {
		v.Lists = append(v.Lists, link{fmt.Sprintf("/plans/%d/shop", p.ID), p.Name})
	}
	heads, err := s.store.Heads(c.Request.Context(), "", "", 0, -1)
	if err != nil {
		return err
	}
	ids := idsOf(heads)
	kept, err := s.store.VersionNames(c.Request.Context(), ids...)
	if err != nil {
		return err
	}
	for _, id := range ids {
		for _, x := range kept[id] {
			v.Cards = append(v.Cards, link{fmt.Sprintf("/versions/%d/card", x.ID), x.Title})
		}
	}
	s.show(c, http.StatusOK, "guest", page{Title: "For guests", View: v})
	return nil
}
