package adapt

import (
	"fmt"
	"net/url"
	"slices"
	"sort"
	"strconv"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/swap"
	"kollaris/core/tin"
)

// Request is everything that is asked of an adaptation: the state of the bench,
// the flags of the command line and what a kept version was made from. Its one
// codec is Values and ParseRequest. The zero value asks for nothing.
type Request struct {
	Diets    []diet.ID             `json:"diets,omitempty"`
	Bans     []string              `json:"bans,omitempty"`
	Limits   []diet.Limit          `json:"limits,omitempty"` // wishes a serving
	For      []int64               `json:"for,omitempty"`    // people of the household, by id
	Theirs   diet.Demand           `json:"theirs,omitzero"`  // what those people must have, laid over the rest; no part of the address
	Shown    diet.Demand           `json:"shown,omitzero"`   // what the recipe shows itself to be free of: laid over the rest by Adapt
	Loose    []string              `json:"loose,omitempty"`  // of that, what the baker takes off: diets and bans by id
	Unread   []Fault               `json:"unread,omitempty"` // what was asked of the eating and not understood: it holds up the verdict
	Swaps    map[string]string     `json:"swaps,omitempty"`  // use ("egg", "butter-topping") → school
	Jobs     map[string]string     `json:"jobs,omitempty"`   // use → what it is there for
	Holds    map[larder.ID]float64 `json:"holds,omitempty"`  // grams in the batter that the person holds
	Keeps    []larder.ID           `json:"keeps,omitempty"`  // stay in the batter as written, unless what is asked shuts them out
	Drops    []recipe.LineID       `json:"drops,omitempty"`  // lines left out
	Stock    bool                  `json:"stock,omitempty"`  // only from what is in the house
	Servings int                   `json:"servings,omitempty"`
	Scale    float64               `json:"scale,omitempty"` // of the batch; 0 is 1
	Tin      string                `json:"tin,omitempty"`
	Oven     oven.Choice           `json:"oven,omitzero"`
}

// Demand is the part that says what must not be eaten.
func (q Request) Demand() diet.Demand {
	d := diet.Demand{Diets: q.Diets, Bans: q.Bans, Limits: q.Limits}
	for _, f := range q.Unread {
		d.Unread = append(d.Unread, f.Typed)
	}
	return d.With(q.Theirs).With(q.Shown)
}

// Fault is a field of a request that cannot be used, and what would do.
type Fault struct {
	Field string // diet, ban, limit, swap, hold, keep, drop, servings, scale, tin, and those of the oven
	Typed string
	Why   string
	What  string // the limit it speaks of, "" for none
}

// Values writes the request as URL values, sorted, so that equal requests have
// equal addresses.
func (q Request) Values() url.Values {
	v := url.Values{}
	for _, d := range q.Diets {
		v.Add("diet", string(d))
	}
	for _, b := range q.Bans {
		v.Add("ban", b)
	}
	for _, l := range q.Limits {
		v.Add("limit", fmt.Sprintf("%s:%g", l.What, l.Max))
	}
	for _, f := range q.Unread {
		if f.What != "" {
			v.Add(f.Field, f.What+":"+f.Typed)
		} else {
			v.Add(f.Field, f.Typed)
		}
	}
	for _, id := range q.For {
		v.Add("eater", strconv.FormatInt(id, 10))
	}
	for use, school := range q.Swaps {
		v.Add("swap", use+":"+school)
	}
	for use, job := range q.Jobs {
		v.Add("job", use+":"+job)
	}
	for id, g := range q.Holds {
		v.Add("hold", fmt.Sprintf("%s:%g", id, g))
	}
	for _, id := range q.Loose {
		v.Add("loose", id)
	}
	for _, id := range q.Keeps {
		v.Add("keep", string(id))
	}
	for _, id := range q.Drops {
		v.Add("drop", strconv.Itoa(int(id)))
	}
	for _, list := range v {
		sort.Strings(list)
	}
	if q.Stock {
		v.Set("stock", "1")
	}
	if q.Servings > 0 {
		v.Set("servings", strconv.Itoa(q.Servings))
	}
	if q.Scale > 0 && q.Scale != 1 {
		v.Set("scale", fmt.Sprintf("%g", q.Scale))
	}
	if q.Tin != "" {
		v.Set("tin", q.Tin)
	}
	q.Oven.Values(v)
	return v
}

// ParseRequest reads URL values. What cannot be used is left out of the request
// and returned as faults, with what was typed.
func ParseRequest(v url.Values, l *larder.Larder) (Request, []Fault) {
	q := requestReader{v: v, larder: l, Request: Request{Swaps: map[string]string{}, Holds: map[larder.ID]float64{}}}
	q.eating()
	q.bans()
	q.ways()
	q.holds()
	q.keeps()
	q.batch()
	q.Oven = oven.ParseChoice(v, q.fault)
	sort.Slice(q.Diets, func(a, b int) bool { return q.Diets[a] < q.Diets[b] })
	sort.Strings(q.Bans)
	return q.Request, q.faults
}

// requestReader fills a request from URL values, a kind of field a method.
type requestReader struct {
	Request
	v      url.Values
	larder *larder.Larder
	faults []Fault
}

func (q *requestReader) fault(field, typed, why string) {
	q.faults = append(q.faults, Fault{Field: field, Typed: typed, Why: why})
}

// unread is a fault in what was asked of the eating: it stays with the request.
func (q *requestReader) unread(f Fault) {
	q.faults = append(q.faults, f)
	q.Unread = append(q.Unread, f)
}

// eating reads diets and limits.
func (q *requestReader) eating() {
	seen := map[string]bool{}
	for _, s := range q.v["diet"] {
		id := diet.ID(strings.ToLower(strings.TrimSpace(s)))
		switch {
		case id == "" || seen[string(id)]:
		default:
			if _, ok := diet.Find(id); !ok {
				q.unread(
					Fault{
						Field: "diet", Typed: s,
						Why: fmt.Sprintf("“%s” is no diet that Kollaris knows: try egg-free, gluten-free or keto", s),
					},
				)
				continue
			}
			seen[string(id)] = true
			q.Diets = append(q.Diets, id)
		}
	}
	for _, s := range fields(q.v, "limit") {
		if what, amount, ok := cutPair(s); ok && what != "" && amount == "" {
			continue // an emptied field asks for none
		}
		l, err := diet.ParseLimit(s)
		if err != nil {
			what, typed, pair := cutPair(s)
			if !pair || !slices.Contains(diet.Limitable(), diet.Limited(what)) {
				what, typed = "", s // it stands at no field of its own
			}
			q.unread(Fault{"limit", typed, err.Error(), what})
			continue
		}
		if !seen["limit "+string(l.What)] {
			seen["limit "+string(l.What)] = true
			q.Limits = append(q.Limits, l)
		}
	}
}

// mostBans is how many times over something may be banned in one request: the law's fourteen, and some of a household's own.
const mostBans = 100

// bans reads what must not be eaten; some of it is a diet.
func (q *requestReader) bans() {
	for n, typed := range q.v["ban"] {
		if n >= mostBans { // nothing fits until somebody looks at it
			q.unread(Fault{Field: "ban", Typed: phrase.Clip(typed, 60), Why: fmt.Sprintf("more than %d things are banned: what follows was not looked at", mostBans)})
			break
		}
		d, bad := diet.ParseBans(typed, q.larder)
		for _, m := range bad {
			q.unread(Fault{Field: "ban", Typed: m.Typed, Why: m.Why})
		}
		for _, id := range d.Diets { // "no lactose" is a diet
			if !slices.Contains(q.Diets, id) {
				q.Diets = append(q.Diets, id)
			}
		}
		for _, id := range d.Bans {
			if !slices.Contains(q.Bans, id) {
				q.Bans = append(q.Bans, id)
			}
		}
	}
}

// ways reads which school is to take what goes, and what it is there for.
func (q *requestReader) ways() {
	for _, s := range fields(q.v, "swap") {
		use, school, ok := cutPair(s)
		if ok && school == "" {
			continue // "Kollaris chooses"
		}
		if !ok {
			q.fault("swap", s, fmt.Sprintf("“%s” is no swap: try egg:flax-gel", s))
			continue
		}
		q.Swaps[use] = school
	}
	for _, s := range fields(q.v, "less") { // a share of the sugar left out, as a slider sends it
		use, typed, _ := cutPair(s)
		n, err := strconv.Atoi(typed)
		switch {
		case typed == "" || err == nil && n == 0:
			if strings.HasPrefix(q.Swaps[use], "less:") {
				delete(q.Swaps, use)
			}
		case err != nil || n < 0 || n > 95:
			q.fault("less", s, fmt.Sprintf("“%s” is no share to leave out: try a number from 0 to 95", typed))
		default:
			q.Swaps[use] = swap.Less(n)
		}
	}
	for _, s := range fields(q.v, "job") {
		if use, job, ok := cutPair(s); ok && job != "" {
			if q.Jobs == nil {
				q.Jobs = map[string]string{}
			}
			q.Jobs[use] = job
		}
	}
}

// holds reads amounts that stay as they are.
func (q *requestReader) holds() {
	for _, s := range fields(q.v, "hold") {
		id, grams, ok := cutPair(s)
		if !ok || strings.TrimSpace(grams) == "" { // an emptied field releases
			continue
		}
		g, err := measure.ParseDecimal(grams, "g")
		switch {
		case q.larder.Get(larder.ID(id)) == nil:
			q.fault("hold", s, fmt.Sprintf("“%s” is not in the larder", id))
		case err != nil || !(g >= 0 && g <= 20000):
			q.fault("hold", s, fmt.Sprintf("“%s” cannot be weighed: try a number of grams such as 14", grams))
		default:
			q.Holds[larder.ID(id)] = g
		}
	}
}

// keeps reads what stays as written: ids, or words for them.
func (q *requestReader) keeps() {
	for _, s := range q.v["keep"] {
		id := larder.ID(strings.TrimSpace(s))
		if m, ok := q.larder.Find(s, nil); q.larder.Get(id) == nil && ok && m.Confidence >= larder.SureEnough {
			id = m.ID
		}
		switch {
		case id == "" || slices.Contains(q.Keeps, id):
		case q.larder.Get(id) == nil:
			q.fault("keep", s, fmt.Sprintf("“%s” is not in the larder: name an ingredient of the recipe", s))
		default:
			q.Keeps = append(q.Keeps, id)
		}
	}
	slices.Sort(q.Keeps)
}

// batch reads for whom and how much is made, of what, and in which tin.
func (q *requestReader) batch() {
	for _, s := range q.v["eater"] {
		if n, err := strconv.ParseInt(s, 10, 64); err == nil && n > 0 {
			q.For = append(q.For, n)
		}
	}
	for _, s := range q.v["drop"] {
		if n, err := strconv.Atoi(s); err == nil && n > 0 {
			q.Drops = append(q.Drops, recipe.LineID(n))
		}
	}
	for _, s := range q.v["loose"] {
		if slices.ContainsFunc(claims, func(c claimWords) bool { return s != "" && (s == string(c.diet) || s == c.ban) }) && !slices.Contains(q.Loose, s) {
			q.Loose = append(q.Loose, s)
		}
	}
	sort.Strings(q.Loose)
	q.Stock = q.v.Get("stock") != ""
	if s := q.v.Get("servings"); s != "" {
		if n, err := strconv.Atoi(strings.TrimSpace(s)); err == nil && n >= 1 && n <= 200 {
			q.Servings = n
		} else {
			q.fault("servings", s, fmt.Sprintf("“%s” cannot be the number of servings: try a whole number from 1 to 200", s))
		}
	}
	if s := q.v.Get("scale"); s != "" {
		if k, err := measure.ParseDecimal(s, "×", "x"); err == nil && k >= 0.1 && k <= 20 {
			q.Scale = k
		} else {
			q.fault("scale", s, fmt.Sprintf("“%s” is no size of batch: try a number from 0.1 to 20, such as 2", s))
		}
	}
	if s := strings.TrimSpace(q.v.Get("tin")); s != "" {
		if _, ok := tin.Parse(s); ok {
			q.Tin = s
		} else {
			q.fault("tin", s, fmt.Sprintf("“%s” names no tin: try “loaf 9x5 in”, “round 20 cm” or “12 muffin cups”", s))
		}
	}
}

// fields gathers "swap=egg:flax-gel" and, as forms write it, "swap.egg=flax-gel".
func fields(v url.Values, name string) []string {
	out := append([]string(nil), v[name]...)
	for key, values := range v {
		if use, ok := strings.CutPrefix(key, name+"."); ok {
			for _, s := range values {
				out = append(out, use+":"+s)
			}
		}
	}
	sort.Strings(out)
	return out
}

// cutPair splits "egg:flax-gel" or "egg=flax-gel".
func cutPair(s string) (a, b string, ok bool) {
	if a, b, ok = strings.Cut(s, ":"); !ok {
		a, b, ok = strings.Cut(s, "=")
	}
	return strings.TrimSpace(a), strings.TrimSpace(b), ok
}
