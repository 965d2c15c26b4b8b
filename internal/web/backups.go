package web

import (
	"fmt"
	"log/slog"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/internal/store"
)

// backupsView are the copies beside the database.
type backupsView struct {
	File, Dir     string
	Copies        []copyRow
	Daily, Weekly int
	Rev           int64
	Say           string
	Bad           bool
	Shows         bool // there is a way to open the file's folder
}

type copyRow struct {
	Name, Taken, Words string
	Checked            string
	Auto               bool
}

func (s *Server) backupsOf(c *gin.Context) (backupsView, error) {
	v := backupsView{File: s.store.File(), Dir: s.store.CopyDir(), Rev: s.home.Rev, Say: c.Query("copied"), Bad: c.Query("bad") != "", Shows: s.reveal != nil && s.fromHere(c)}
	v.Daily, v.Weekly = s.home.Copies()
	all, err := s.store.Copies()
	for _, x := range all {
		r := copyRow{Name: x.Name, Taken: x.Taken.Format("2 January 2006, 15:04"), Words: megabytes(x.Size), Checked: x.Checked.Format("2 January, 15:04"), Auto: x.Auto}
		if x.Auto {
			r.Taken = x.Taken.Format("2 January 2006")
		}
		v.Copies = append(v.Copies, r)
	}
	if err != nil {
		slog.Error("backups", "err", err)
		v.Say, v.Bad = "The folder of the copies cannot be read: "+plainly(err), true
	}
	return v, nil
}

func megabytes(n int64) string { return fmt.Sprintf("%.1f MB", float64(n)/1e6) }

func countedWords(n store.Counted) string {
	return fmt.Sprintf("%s, %s, %s, %s", plural(n.Recipes, "recipe"), plural(n.Versions, "version"), strings.Replace(plural(n.People, "person"), "persons", "people", 1), plural(n.Bakes, "bake"))
}

// copied goes back to the list and says what came of it.
func copied(c *gin.Context, words string, bad bool) error {
	q := url.Values{"copied": {words}}
	if bad {
		q.Set("bad", "1")
	}
	c.Redirect(http.StatusSeeOther, "/settings?"+q.Encode()+"#backups")
	return nil
}

// takeBackup takes a copy now.
func (s *Server) takeBackup(c *gin.Context) error {
	name, n, err := s.store.TakeCopy(c.Request.Context())
	switch t := store.TroubleOf(err); {
	case t != store.NoTrouble:
		slog.Error("backup", "err", err)
		return copied(c, "No copy was taken: "+string(t)+". "+t.WhatToDo(), true)
	case err != nil:
		slog.Error("backup", "err", err)
		return copied(c, "No copy was taken: "+plainly(err), true)
	}
	return copied(c, name+" was taken and read through: "+countedWords(n)+".", false)
}

// keepCopies sets how many copies are kept.
func (s *Server) keepCopies(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	daily, derr := strconv.Atoi(strings.TrimSpace(form.Get("daily")))
	weekly, werr := strconv.Atoi(strings.TrimSpace(form.Get("weekly")))
	if derr != nil || werr != nil || daily < 1 || weekly < 1 || daily > 366 || weekly > 366 {
		return copied(c, "Copies are kept of 1 to 366 days and of 1 to 366 weeks: nothing was changed.", true)
	}
	err = s.store.ChangeHousehold(c.Request.Context(), seenRev(form), func(h *store.Household) { h.DailyCopies, h.WeeklyCopies = daily, weekly })
	if err != nil {
		return err
	}
	return copied(c, fmt.Sprintf("Copies of the last %d days and %d weeks are kept from now on.", daily, weekly), false)
}

// giveBackup gives one of the copies to take away.
func (s *Server) giveBackup(c *gin.Context) error {
	file, err := s.store.CopyFile(c.Param("name"))
	if err != nil {
		return err
	}
	c.FileAttachment(file, c.Param("name"))
	return nil
}

// plainly is an error of the file in a sentence, its path as it is written.
func plainly(err error) string {
	if t := store.TroubleOf(err); t != store.NoTrouble {
		return string(t) + " (" + err.Error() + ")."
	}
	return strings.TrimSuffix(err.Error(), ".") + "."
}

// changeBackup reads a copy through, or brings it back.
func (s *Server) changeBackup(c *gin.Context) error {
	name := c.Param("name")
	file, err := s.store.CopyFile(name)
	if err != nil {
		return err
	}
	switch c.PostForm("act") {
	case "check":
		n, err := s.store.CheckCopy(c.Request.Context(), name)
		if err != nil {
			slog.Error("backup", "name", name, "err", err)
			return copied(c, name+" cannot be used: "+plainly(err), true)
		}
		return copied(c, name+" was read through, and is whole: "+countedWords(n)+".", false)
	case "back":
		n, kept, err := s.store.BringBack(c.Request.Context(), file)
		s.forgetAll()
		if err != nil {
			slog.Error("backup", "name", name, "err", err)
			return copied(c, name+" was not brought back: "+plainly(err), true)
		}
		return copied(c, name+" is back: "+countedWords(n)+". What was here before is kept as "+kept, false)
	}
	return errForm
}

// forgetAll drops all that was worked out from what is no longer there.
func (s *Server) forgetAll() {
	s.forgotten()
	s.results.Purge()
	s.answers.Purge()
	s.looks.Purge()
	s.rows.Purge()
	s.before.Store(nil)
	s.readings.Purge()
	s.own.mu.Lock()
	s.own.l, s.own.stamp = nil, ""
	s.own.mu.Unlock()
}
