// Package web is the pages: Gin routes, handlers and view models over core and
// store. A handler parses, makes one call, builds a view model of ready strings
// and coordinates, renders it into a buffer, and writes. No arithmetic in
// templates or scripts.
package web

import (
	"cmp"
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"strings"
	"sync"
	"sync/atomic"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/table"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// Server answers the pages.
type Server struct {
	store  *store.Store
	engine http.Handler // all of it, for a page that is asked for from inside
	kit    adapt.Kit    // with the household's larder and kitchen inside a request
	views  *views
	hosts  []string // allowed Host names, beside the loopback ones
	own    *ownLarder
	// recipes as read, by all that a reading follows from; nobody changes one
	readings *lru.Cache[string, *recipe.Recipe]
	results  *lru.Cache[string, *adapt.Result] // what the kit remembers
	answers  *lru.Cache[string, sentPage]
	looks    *lru.Cache[string, shelfFace]
	gone     []string // for whom a request asks, and who has left the table; of this request
	presses  *lru.Cache[string, *press]
	rows     *lru.Cache[string, []table.Cell]
	before   *atomic.Pointer[household] // by the request before

	stamp string          // inside a request that only asks: of the file; "" not known
	home  store.Household // inside a request
	seats *seats          // likewise: who is at the table, once asked for

	settledWords *store.Remembered // likewise: what corrections taught
	taught       *journal.Taught   // likewise: what bakes taught

	counter  *counter                // shared by all requests
	door     *door                   // likewise
	gates    gates                   // likewise
	bodies   *bodies                 // likewise: what is still coming
	jobs     *jobs                   // likewise
	noWorker bool                    // pages keep nothing in the browser
	logs     bool                    // a line for each request
	quit     func()                  // nil where the program is not stopped from its pages
	reveal   func(file string) error // likewise: shows a file in its folder
}

// App is the handler of the whole application.
type App struct {
	http.Handler
	counter *counter
	door    *door
	server  *Server
}

// Close ends what runs beside requests: the lines to devices, the streams to pages, and what is being read of files.
func (a *App) Close() {
	a.counter.hub.Close()
	a.server.jobs.end(0)
}

// Mend writes into the log what the program had no time to when it was killed.
func (a *App) Mend(ctx context.Context) {
	l, _, err := a.server.larder(ctx)
	if err == nil {
		err = journal.Mend(ctx, a.server.store, l)
	}
	if err != nil && ctx.Err() == nil {
		slog.Error("bakes that are over could not all be written into the log", "err", err)
	}
}

// Hasten lets the clock of the counter run so many times as fast from now on, for trials with
// stand-ins. It is called before anything is served.
func (a *App) Hasten(times float64) { a.counter.hasten(times) }

// How many results are remembered, of some 50 KB each, and how many readings.
const mostResults, mostReadings = 400, 200

// ownLarder keeps the catalogue with the household's records laid over it until
// a record changes.
type ownLarder struct {
	mu    sync.Mutex
	stamp string
	l     *larder.Larder
}

// lostOwn are records of the household's own that cannot be read or used. Each may say
// that a food holds an allergen, so that without them nothing is judged.
type lostOwn struct{ records []store.Unreadable }

func (e *lostOwn) Error() string {
	var ids []string
	for _, r := range e.records {
		ids = append(ids, r.ID)
	}
	return "own ingredients cannot be used: " + strings.Join(ids, ", ")
}

// larder returns the household's larder and the stamp of its records. It never falls back
// to the bare catalogue: a record that cannot be read is an error.
func (s *Server) larder(ctx context.Context) (*larder.Larder, string, error) {
	stamp, err := s.store.OwnStamp(ctx)
	if err != nil {
		return nil, "", err
	}
	s.own.mu.Lock()
	defer s.own.mu.Unlock()
	if s.own.l != nil && s.own.stamp == stamp {
		return s.own.l, stamp, nil
	}
	own, lost, err := s.store.Own(ctx)
	if err != nil {
		return nil, "", err
	}
	l, left := larder.Builtin().With(own)
	for _, o := range left {
		why := ""
		for _, f := range o.Check(larder.Builtin()) {
			why = f.Why
		}
		doc, _ := json.Marshal(o)
		lost = append(lost, store.Unreadable{ID: string(o.ID), Why: why, Doc: string(doc)})
	}
	if len(lost) > 0 {
		return nil, "", &lostOwn{lost}
	}
	s.own.l, s.own.stamp = l, stamp
	return l, stamp, nil
}

// at makes a handler of a method: the server it is called on works with the household's
// settings, larder and kitchen, loaded once, and where they cannot be read it answers that,
// and no verdict. What the method returns as an error is answered here.
func (s *Server) at(f func(*Server, *gin.Context) error) gin.HandlerFunc {
	return func(c *gin.Context) {
		here, err := s.here(c)
		if err == nil {
			err = f(here, c)
		}
		if err != nil {
			here.failed(c, err)
		} else if here.stamp != "" {
			s.before.Store(&household{here.stamp, here.home, here.kit.Larder, here.kit.Stamp, here.seats, here.settledWords, here.taught})
		}
	}
}

// household is what a page asks of the household before it begins. The next one takes it over, unless the file was changed.
type household struct {
	stamp        string // of the file, taken before anything was read
	home         store.Household
	larder       *larder.Larder
	larderStamp  string
	seats        *seats
	settledWords *store.Remembered
	taught       *journal.Taught
}

// here is the server as one request sees it.
func (s *Server) here(c *gin.Context) (*Server, error) {
	here := *s
	var err error
	var known *household
	if c.Request.Method == http.MethodGet { // what writes asks anew, since it may ask again after it has written
		if here.stamp, err = s.store.Stamp(c.Request.Context()); err != nil {
			slog.Warn("nothing is remembered", "err", err)
		} else if known = s.before.Load(); known != nil && known.stamp != here.stamp {
			known = nil
		}
	}
	if known != nil {
		here.home, here.seats, here.settledWords, here.taught = known.home, known.seats, known.settledWords, known.taught
	} else if here.home, err = s.store.Household(c.Request.Context()); err != nil {
		return &here, err
	}
	here.kit.Kitchen, here.kit.Law = here.home.Kitchen, nutrition.EU
	if here.home.Labels == "us" {
		here.kit.Law = nutrition.US
	}
	here.kit.Stop = c.Request.Context().Err // nobody waits for the rest
	if known != nil {
		here.kit.Larder, here.kit.Stamp = known.larder, known.larderStamp
		return &here, nil
	}
	l, stamp, err := s.larder(c.Request.Context())
	if err == nil {
		here.kit.Larder, here.kit.Stamp = l, larder.Stamp()+" "+stamp
	}
	return &here, err
}

// bare makes a handler of a method that works without the larder, which may be what
// cannot be read.
func (s *Server) bare(f func(*gin.Context) error) gin.HandlerFunc {
	return func(c *gin.Context) {
		if err := f(c); err != nil {
			s.failed(c, err)
		}
	}
}

// cache remembers so many values, the last asked for.
func cache[V any](most int) *lru.Cache[string, V] {
	c, err := lru.New[string, V](most)
	if err != nil {
		panic(err) // it has no room
	}
	return c
}

// New returns the handler of the whole application. Hosts are names by which it
// may be called beside localhost and loopback addresses.
func New(st *store.Store, hosts ...string) (*App, error) {
	v, err := loadViews()
	if err != nil {
		return nil, err
	}
	s := &Server{
		store: st, kit: adapt.DefaultKit(), views: v, hosts: hosts, own: &ownLarder{}, before: new(atomic.Pointer[household]),
		readings: cache[*recipe.Recipe](mostReadings), results: cache[*adapt.Result](mostResults), answers: cache[sentPage](mostAnswers),
		presses: cache[*press](mostPresses), looks: cache[shelfFace](mostFaces), rows: cache[[]table.Cell](mostRows),
		counter: newCounter(), door: newDoor(), gates: newGates(), bodies: &bodies{}, jobs: &jobs{of: map[int64]*job{}},
	}
	s.kit.Memo = s.results
	gin.SetMode(gin.ReleaseMode)
	e := gin.New()
	e.HandleMethodNotAllowed = true
	e.Use(
		s.logged, s.recovered, s.hostAllowed, headers, s.letIn, s.readable, limitBody, s.received, s.admitted,
		gzip.Gzip(gzip.BestSpeed, gzip.WithExcludedExtensions([]string{".woff2", ".zip", ".jpg", ".png", ".db"}), gzip.WithExcludedPathsRegexs([]string{`^/bakes/\d+/live$`})), s.once,
	)
	e.NoRoute(func(c *gin.Context) { s.fail(c, http.StatusNotFound, notFound) })
	e.NoMethod(s.noMethod)

	e.GET("/", s.at((*Server).shelf))
	e.GET("/recipes", s.at((*Server).shelf))
	e.POST("/recipes", s.at((*Server).newFromText))
	e.GET("/new", s.at((*Server).newRecipe))
	e.POST("/recipes/import", s.at((*Server).bringIn))
	e.GET("/recipes/import", s.noMethod)
	e.GET("/brought/:id", s.at((*Server).brought))
	e.POST("/brought/:id/:do", s.at((*Server).onBrought))
	e.GET("/shelf.zip", s.at((*Server).shelfZip))
	e.GET("/drafts/:id", s.at((*Server).draft))
	e.POST("/drafts/:id", s.at((*Server).saveDraft))
	e.GET("/weigh", s.at((*Server).weigh))
	e.GET("/recipes/:id", s.at((*Server).recipe))
	e.GET("/recipes/:id/read", s.at((*Server).readRecipe))
	e.POST("/recipes/:id/correct", s.at((*Server).correctRecipe))
	e.GET("/recipes/:id/adapt", s.at((*Server).bench))
	e.POST("/last", s.at((*Server).remember))
	e.GET("/recipes/:id/beside", s.at((*Server).beside))
	e.GET("/recipes/:id/nutrition", s.at((*Server).nutrition))
	e.GET("/recipes/:id/tablecard", s.at((*Server).tableCard))
	e.GET("/recipes/:id/heat", s.at((*Server).heat))
	e.GET("/recipes/:id/plan", s.at((*Server).plan))
	e.GET("/recipes/:id/plan.ics", s.at((*Server).plan))
	e.GET("/plans", s.at((*Server).plans))
	e.GET("/plans.ics", s.at((*Server).plans))
	e.GET("/bakes", s.at((*Server).bakes))
	e.GET("/bakes/new", s.at((*Server).newBake))
	e.POST("/bakes", s.at((*Server).beginBake))
	e.GET("/bakes/:id", s.at((*Server).showBake)) // and :id.json
	e.POST("/bakes/:id", s.at((*Server).tellBake))
	e.GET("/bakes/:id/live", s.at((*Server).liveBake))
	e.POST("/bakes/:id/attend", s.at((*Server).attendBake))
	e.GET("/bakes/:id/log", s.at((*Server).logBake))
	e.POST("/bakes/:id/log", s.at((*Server).judgeForm))
	e.GET("/recipes/:id/log", s.at((*Server).recipeLog))
	e.POST("/recipes/:id/log", s.at((*Server).writeDown))
	e.GET("/log.zip", s.at((*Server).logZip))
	e.POST("/log", s.at((*Server).bringLog))
	e.GET("/log/beside", s.at((*Server).bakesBeside))
	e.POST("/devices", s.at((*Server).saveDevices))
	e.POST("/bakes/:id/photos", s.at((*Server).addPhotos))
	e.GET("/photos/:id", s.at((*Server).photoPage)) // and :id.jpg, :id.small.jpg
	e.POST("/photos/:id", s.at((*Server).changePhoto))
	e.GET("/tasting", s.at((*Server).tasting))
	e.POST("/tasting", s.at((*Server).keepTasting))
	e.GET("/recipes/:id/cups", s.at((*Server).cups))
	e.GET("/learned", s.at((*Server).learnedPage))
	e.POST("/learned", s.at((*Server).changeLearned))
	e.GET("/ahead", s.at((*Server).ahead))
	e.GET("/oven", s.at((*Server).oven))
	e.GET("/soak", s.at((*Server).soak))
	e.POST("/plans", s.at((*Server).keepPlan))
	e.GET("/plans/:id", s.at((*Server).showKept))
	e.POST("/plans/:id", s.at((*Server).changePlan))
	e.GET("/plans/:id/plan.ics", s.at((*Server).planCalendar))
	e.GET("/plans/:id/calendar.ics", s.at((*Server).planCalendar))
	e.GET("/plans/shop", s.at((*Server).shop))
	e.GET("/plans/shop.txt", s.at((*Server).shop))
	e.GET("/plans/shop.csv", s.at((*Server).shop))
	e.GET("/plans/shop.md", s.at((*Server).shop))
	for _, form := range []string{"", ".txt", ".csv", ".md"} {
		e.GET("/plans/:id/shop"+form, s.at((*Server).keptShop))
	}
	e.POST("/plans/:id/shop", s.at((*Server).changeShop))
	e.POST("/recipes/:id/versions", s.at((*Server).keep))
	e.POST("/recipes/:id/delete", s.at((*Server).deleteRecipe))
	e.POST("/recipes/:id/restore", s.at((*Server).restoreRecipe))
	e.GET("/versions/:id", s.at((*Server).version))
	e.POST("/versions/:id", s.at((*Server).changeVersion))
	e.POST("/recipes/:id/duplicate", s.at((*Server).duplicate))
	e.GET("/how", s.at((*Server).how))
	e.POST("/recipes/example", s.at((*Server).tryExample))
	e.GET("/away", s.at((*Server).away))
	e.GET("/everything.zip", s.at((*Server).everythingZip))
	e.POST("/everything", s.at((*Server).bringEverything))
	e.GET("/versions/:id/card", s.at((*Server).card))
	e.GET("/versions/:id/file/:form", s.at((*Server).versionFile))
	e.GET("/larder", s.at((*Server).larderList))
	e.GET("/larder/compare", s.at((*Server).compare))
	e.GET("/larder/new", s.at((*Server).newIngredient))
	e.POST("/larder/new", s.at((*Server).addIngredient))
	e.GET("/larder/i/:id", s.at((*Server).ingredient))
	e.POST("/larder/i/:id", s.at((*Server).changeIngredient))
	e.POST("/larder/i/:id/forget", s.bare(s.forgetIngredient))
	e.GET("/larder.csv", s.at((*Server).exportLarder))
	e.POST("/larder/import", s.at((*Server).importLarder))
	e.GET("/people", s.at((*Server).people))
	e.POST("/people", s.at((*Server).addPerson))
	e.POST("/people/:id", s.at((*Server).changePerson))
	e.GET("/ovens", s.at((*Server).ovens))
	e.POST("/ovens", s.at((*Server).addOven))
	e.POST("/ovens/:id", s.at((*Server).changeOven))
	e.POST("/tins", s.at((*Server).addTin))
	e.POST("/tins/:id", s.at((*Server).changeTin))
	e.POST("/kitchen", s.at((*Server).saveAltitude))
	e.GET("/table", s.at((*Server).table))
	e.GET("/sweeten", s.at((*Server).sweeten))
	e.GET("/settings", s.at((*Server).settings))
	e.POST("/settings", s.at((*Server).saveSettings))
	e.POST("/settings/day", s.at((*Server).saveDay))
	e.POST("/settings/forget", s.at((*Server).forget))
	e.POST("/backups", s.at((*Server).takeBackup))
	e.POST("/backups/keep", s.at((*Server).keepCopies))
	e.GET("/backups/:name", s.bare(s.giveBackup))
	e.POST("/backups/:name", s.at((*Server).changeBackup))
	e.GET("/sources", s.at((*Server).sources))
	e.GET("/enter", s.at((*Server).enter))
	e.POST("/enter", s.at((*Server).tryPhrase))
	e.POST("/leave", s.at((*Server).leave))
	e.GET("/guest", s.at((*Server).guest))
	e.GET("/guest/:token", s.at((*Server).byInvitation))
	e.POST("/door", s.at((*Server).changeDoor))
	e.POST("/quit", s.at((*Server).stop))
	e.POST("/file", s.at((*Server).showFile))
	e.POST("/unreadable/:kind/:id", s.bare(s.putUnreadable))
	e.GET("/sw.js", s.worker)
	e.GET("/manifest.webmanifest", s.manifest)
	e.GET("/healthz", s.health)
	e.GET("/static/:tree/*path", s.static)
	cross := http.NewCrossOriginProtection()
	s.engine = e
	return &App{headAsGet(cross.Handler(e)), s.counter, s.door, s}, nil
}

func (s *Server) health(c *gin.Context) {
	if err := s.store.Health(c.Request.Context()); err != nil {
		slog.Error("healthz", "err", err)
		c.String(http.StatusServiceUnavailable, "database: "+cmp.Or(string(store.TroubleOf(err)), "does not answer")+"\n")
		return
	}
	c.String(http.StatusOK, "ok\n")
}
