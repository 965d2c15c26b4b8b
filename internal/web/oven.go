package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/doneness"
	"kollaris/core/measure"
	"kollaris/core/phrase"
)

// lookedFor is what may be seen of a bake, by its short name in an address.
type lookedFor struct {
	code string
	look doneness.Look
}

// looked are all of them.
var looked = []lookedFor{
	{"wet", doneness.SkewerWet}, {"crumbs", doneness.SkewerCrumbs}, {"clean", doneness.SkewerClean}, {"springs", doneness.Springs}, {"dents", doneness.Dents},
	{"pale", doneness.Pale}, {"golden", doneness.Golden}, {"dark", doneness.Dark}, {"sides", doneness.FromSides},
}

// seenThing is a look or a reading: minutes since it went in.
type seenThing struct {
	at   float64
	look doneness.Look // "" for a reading
	core float64       // °C
}

// parseSeen reads "37.5:wet" or "42:c88.5"; ok is false where it is neither.
func parseSeen(s string) (x seenThing, ok bool) {
	at, what, _ := strings.Cut(s, ":")
	minutes, err := strconv.ParseFloat(at, 64)
	if err != nil || !(minutes >= 0 && minutes <= mostBaking) {
		return x, false
	}
	x.at = minutes
	if core, is := strings.CutPrefix(what, "c"); is {
		if x.core, err = strconv.ParseFloat(core, 64); err == nil {
			return x, x.core > -20 && x.core < 250
		}
	}
	for _, l := range looked {
		if l.code == what {
			x.look = l.look
			return x, true
		}
	}
	return x, false
}

// mostBaking is how long a bake is followed, minutes, and mostSeen how many looks.
const mostBaking, mostSeen = 24 * 60, 200

// oven follows a bake that is in the oven: what is seen of it moves the end. All stands in the address: the
// bake (b), when it went in (in), what was seen (s). A look or a reading that is sent is added to it.
func (s *Server) oven(c *gin.Context) error {
	query := c.Request.URL.Query()
	code, title, res, err := s.theBake(c, query)
	if err != nil {
		return err
	}
	now := time.Now().Truncate(time.Minute)
	v := inOvenView{Title: title, Bake: code, In: strings.TrimSpace(query.Get("in"))}
	in, err := formTime(v.In)
	if err != nil {
		if v.In != "" {
			v.Faults = append(v.Faults, fmt.Sprintf("“%s” is no time: try %s.", phrase.Clip(v.In, 20), now.Format(timeForm)))
		}
		in, v.In = now, now.Format(timeForm)
	}
	if to, ok := s.seen(&v, query, in, now); ok && len(v.Faults) == 0 {
		c.Redirect(http.StatusSeeOther, to)
		return nil
	}
	if len(v.Faults) == 0 || query.Get("in") != "" {
		if err := s.follow(c, &v, res, query["s"], in, now); err != nil {
			return err
		}
	}
	s.show(c, http.StatusOK, "inoven", page{Title: title + ": in the oven", Nav: "plans", Script: "card", View: v})
	return nil
}

// seen adds what is sent to the address; ok is false where nothing was, or it cannot be used.
func (s *Server) seen(v *inOvenView, query url.Values, in, now time.Time) (to string, ok bool) {
	v.At, v.Probe = strings.TrimSpace(query.Get("at")), strings.TrimSpace(query.Get("probe"))
	look := query.Get("look")
	if look == "" && v.Probe == "" {
		return "", false
	}
	at := now
	if v.At != "" {
		t, err := time.ParseInLocation("2006-01-02 15:04", in.Format(time.DateOnly)+" "+v.At, time.Local)
		if err != nil {
			v.Faults = append(v.Faults, fmt.Sprintf("“%s” is no hour: try %s.", phrase.Clip(v.At, 10), now.Format("15:04")))
			return "", false
		}
		if at = t; at.Before(in.Add(-time.Minute)) {
			at = at.AddDate(0, 0, 1) // past midnight
		}
	}
	minutes := at.Sub(in).Minutes()
	if minutes < 0 || minutes > mostBaking || len(query["s"]) >= mostSeen {
		v.Faults = append(v.Faults, "That is not while it is in the oven: say when it went in, and when you looked.")
		return "", false
	}
	what := look
	if look == "" {
		core, ok := measure.ParseTemperature(v.Probe, s.kit.Kitchen.Fahrenheit)
		if !ok || core < 0 || core > 120 {
			v.Faults = append(v.Faults, fmt.Sprintf("“%s” is not how warm the middle is: try %s.", phrase.Clip(v.Probe, 10), s.kit.Kitchen.Temperature(85)))
			return "", false
		}
		what = "c" + strconv.FormatFloat(float64(core), 'f', 1, 64)
	}
	one := strconv.FormatFloat(minutes, 'f', -1, 64) + ":" + what
	if _, ok := parseSeen(one); !ok {
		return "", false
	}
	q := url.Values{"b": {v.Bake}, "in": {v.In}, "s": append(query["s"], one)}
	return "/oven?" + q.Encode(), true
}

// follow says when to look again and when it is likely done, from all that was seen.
func (s *Server) follow(c *gin.Context, v *inOvenView, res *adapt.Result, list []string, in, now time.Time) error {
	if res.Refused != nil {
		v.Faults = append(v.Faults, cannotBake(v.Title, res))
		return nil
	}
	b, err := res.InOven(c.Request.Context())
	if err != nil {
		v.Faults = append(v.Faults, phrase.Sentence(err.Error()))
		return nil
	}
	var all []seenThing
	for _, one := range list[:min(len(list), mostSeen)] {
		x, ok := parseSeen(one)
		if !ok {
			continue
		}
		v.Sent = append(v.Sent, one)
		if all = append(all, x); x.look == "" {
			b.Probe(x.at, x.core)
		} else {
			b.Look(x.at, x.look)
		}
	}
	v.tell(b, res, all, in, now, s.kit.Kitchen)
	if n := len(v.Sent); n > 0 {
		v.Undo = "/oven?" + url.Values{"b": {v.Bake}, "in": {v.In}, "s": v.Sent[:n-1]}.Encode()
	}
	return nil
}
