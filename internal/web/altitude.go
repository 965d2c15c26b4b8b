package web

import (
	"fmt"
	"maps"
	"math"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
)

// altitudeView is the advice for a kitchen above 900 m, with the address that takes it.
type altitudeView struct {
	Metres, Hotter string
	Changes        []string
	URL            string
	Yeast          bool
}

// altitude is nil where the kitchen lies below 3000 ft or the advice is taken already.
func (s *Server) altitude(req adapt.Request, res *adapt.Result, k measure.Kitchen) *altitudeView {
	a := adapt.AtAltitude(res.Recipe, req.Oven.Setup.Altitude, s.kit.Larder)
	if a == nil || res.Bake == nil {
		return nil
	}
	low, _, _ := strings.Cut(k.Warmer(a.Hotter[0]), " ")
	v := &altitudeView{
		Metres: fmt.Sprintf("%.0f m", a.Metres), Hotter: low + " to " + k.Warmer(a.Hotter[1]) + " hotter",
		Yeast: a.Yeast,
	}
	taken := len(a.Changes) > 0
	q := req
	q.Holds = maps.Clone(req.Holds)
	if q.Holds == nil {
		q.Holds = map[larder.ID]float64{}
	}
	for _, c := range a.Changes {
		v.Changes = append(v.Changes, c.Words())
		if _, held := req.Holds[c.ID]; !held {
			taken = false
		}
		q.Holds[c.ID] = math.Round(10*c.Middle()) / 10
	}
	if taken {
		return nil
	}
	if len(a.Changes) > 0 {
		q.Oven.At = measure.Celsius(math.Round((float64(res.Bake.Oven)+float64(a.Hotter[0]+a.Hotter[1])/2)/5) * 5)
		v.URL = "?" + q.Values().Encode()
	}
	return v
}
