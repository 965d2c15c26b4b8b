package swap

import (
	"slices"
	"strings"

	"kollaris/core/larder"
)

// ownMark parts the id of a school from the household's ingredient that stands in it: "gf-blend@own-mill-blend".
const ownMark = "@"

// WithOwn gives the use with its schools once more for each of the household's own ingredients that behaves like what a
// school brings most of; u itself where there is none. Its figures are the household's, what it does is the school's.
func (u *Use) WithOwn(l *larder.Larder) *Use {
	var more []School
	for _, own := range l.All() {
		if !own.Own || own.Like == "" || own.Like == own.ID {
			continue
		}
		like := l.Get(own.Like)
		for _, s := range u.Schools {
			at := slices.IndexFunc(s.Parts, func(p Part) bool { return p.ID == own.Like })
			if at < 0 || like == nil || slices.ContainsFunc(s.Parts, func(p Part) bool { return p.Grams > s.Parts[at].Grams }) {
				continue
			}
			s.ID += ownMark + string(own.ID)
			s.Parts = slices.Clone(s.Parts)
			s.Parts[at].ID = own.ID
			if title := strings.Replace(s.Title, like.Name, own.Name, 1); title != s.Title {
				s.Title = title
			} else {
				s.Title = own.Name + ", as " + s.Title
			}
			s.Reason = strings.ReplaceAll(s.Reason, "{"+string(own.Like)+"}", "{"+string(own.ID)+"}")
			s.Steps = slices.Clone(s.Steps)
			for n := range s.Steps {
				s.Steps[n] = s.Steps[n].With(own.Like, own.ID)
			}
			more = append(more, s)
		}
	}
	if len(more) == 0 {
		return u
	}
	with := *u
	with.Schools = append(slices.Clone(u.Schools), more...)
	return &with
}
