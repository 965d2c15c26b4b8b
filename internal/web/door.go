package web

import (
	"errors"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/time/rate"

	"kollaris/internal/store"
)

// A door is who may come in from other machines of the house. It is shut until OpenDoor; while it stands open, whoever does
// not sit at this machine has to know the passphrase, or come by a guests' link.
type door struct {
	mu    sync.Mutex
	hosts []string // names that other machines call it by; none while it is shut
	urls  []string // that work, the best first
	log   []attempt
	tries *lru.Cache[string, *rate.Limiter] // of one address
	all   *rate.Limiter
	knock chan struct{}
}

// attempt is one passphrase that was typed.
type attempt struct {
	From string
	At   time.Time
	In   bool
}

// Five passphrases at once and three a minute from one address, twenty at once and thirty a minute from all: four words
// of a list of 2000 then stand for longer than the house. OWASP ASVS 5.0, 6.3.1.
const (
	triesOfOne, triesOfAll    = 5, 20
	everyOfOne, everyOfAll    = 20 * time.Second, 2 * time.Second
	mostAddresses, mostLogged = 1000, 20
	cookieName                = "kollaris"
	cookieLasts               = 365 * 24 * 3600 // s; the session ends sooner
)

func newDoor() *door {
	tries, err := lru.New[string, *rate.Limiter](mostAddresses)
	if err != nil {
		panic(err) // the size is none
	}
	return &door{tries: tries, all: rate.NewLimiter(rate.Every(everyOfAll), triesOfAll), knock: make(chan struct{}, 1)}
}

// OpenDoor lets in, with the passphrase, those who call it by these names; urls are shown as addresses that work.
func (a *App) OpenDoor(hosts, urls []string) { a.door.set(hosts, urls) }

// CloseDoor lets in nobody but this machine.
func (a *App) CloseDoor() { a.door.set(nil, nil) }

// Knocks tells each time that something about the door was settled.
func (a *App) Knocks() <-chan struct{} { return a.door.knock }

func (d *door) set(hosts, urls []string) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.hosts, d.urls = hosts, urls
}

func (d *door) changed() {
	select {
	case d.knock <- struct{}{}:
	default: // it is known already
	}
}

func (d *door) open() bool {
	d.mu.Lock()
	defer d.mu.Unlock()
	return len(d.hosts) > 0
}

func (d *door) knows(host string) bool {
	d.mu.Lock()
	defer d.mu.Unlock()
	return slices.Contains(d.hosts, strings.ToLower(host))
}

// may tells whether a passphrase from this address is looked at.
func (d *door) may(from string) bool {
	one, ok := d.tries.Get(from)
	if !ok {
		one = rate.NewLimiter(rate.Every(everyOfOne), triesOfOne)
		d.tries.Add(from, one)
	}
	return one.Allow() && d.all.Allow()
}

func (d *door) tried(from string, in bool) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.log = append([]attempt{{from, time.Now(), in}}, d.log[:min(len(d.log), mostLogged-1)]...)
	slog.Info("passphrase", "from", from, "in", in)
}

// hostOf is a Host header without its port.
func hostOf(r *http.Request) string {
	host := r.Host
	if h, _, err := net.SplitHostPort(host); err == nil {
		host = h
	}
	return strings.Trim(host, "[]")
}

func isLoopback(host string) bool {
	ip := net.ParseIP(host)
	return host == "localhost" || ip != nil && ip.IsLoopback()
}

// seat is the usual loopback address: another one of 127.0.0.0/8 may stand for another machine.
func seat(ip net.IP) bool { return ip.Equal(net.IPv4(127, 0, 0, 1)) || ip.Equal(net.IPv6loopback) }

// atThisMachine tells whether who asks sits here: it came in by the usual loopback address, from there, and called it by
// such a name. What a program of this machine hands on for others calls it by theirs, and has to know the passphrase.
func atThisMachine(r *http.Request) bool {
	at, ok := r.Context().Value(http.LocalAddrContextKey).(*net.TCPAddr)
	if !ok {
		return false
	}
	from, _, err := net.SplitHostPort(r.RemoteAddr)
	host := hostOf(r)
	return err == nil && seat(at.IP) && seat(net.ParseIP(from)) && (host == "localhost" || seat(net.ParseIP(host)))
}

func (s *Server) fromHere(c *gin.Context) bool { return !s.door.open() || atThisMachine(c.Request) }

// What is given to anybody, so that the page that asks looks as it should; and what guests may look at.
var (
	public    = regexp.MustCompile(`^/(?:static/.*|enter|guest/[\w-]+|healthz|sw\.js|manifest\.webmanifest)$`)
	forGuests = regexp.MustCompile(`^/(?:guest|leave|versions/\d+/card|plans/\d+/shop(?:\.txt|\.csv|\.md)?|bakes/\d+(?:\.json|/live)?)$`)
)

// letIn asks who comes from another machine for the passphrase, and keeps guests to what they may look at.
func (s *Server) letIn(c *gin.Context) {
	path := c.Request.URL.Path
	if s.fromHere(c) || public.MatchString(path) {
		return
	}
	cookie, _ := c.Cookie(cookieName)
	who, err := s.store.Session(c.Request.Context(), cookie)
	looks := c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead
	switch {
	case errors.Is(err, store.ErrNotFound):
		if looks && c.GetHeader("X-Fragment") == "" && strings.Contains(c.GetHeader("Accept"), "text/html") {
			c.Redirect(http.StatusSeeOther, "/enter?to="+url.QueryEscape(c.Request.URL.RequestURI()))
			c.Abort()
			return
		}
		s.fail(c, http.StatusUnauthorized, problem{Title: "Who is there?", Do: "This browser was logged out, or never let in. Open the shelf: it asks for the passphrase of the house."})
	case err != nil:
		s.failed(c, err)
		c.Abort()
	case who.Guest && path == "/":
		c.Redirect(http.StatusSeeOther, "/guest")
		c.Abort()
	case who.Guest && (!forGuests.MatchString(path) || !looks && path != "/leave"):
		s.fail(c, http.StatusForbidden, problem{Title: "Guests only look", Do: "Cards, shopping lists and bakes are open to you, at /guest. Ask who bakes here for the rest."})
	}
}

// enterView asks for the passphrase.
type enterView struct {
	To, Fault string
}

func (s *Server) enter(c *gin.Context) error {
	if s.fromHere(c) {
		c.Redirect(http.StatusSeeOther, "/")
		return nil
	}
	s.show(c, http.StatusOK, "enter", page{Title: "Who is there?", View: enterView{To: backTo(c.Query("to"))}})
	return nil
}

// backTo is a page of ours to go to, the shelf for anything else.
func backTo(to string) string {
	if u, err := url.Parse(to); err != nil || u.Host != "" || u.Scheme != "" || !strings.HasPrefix(to, "/") || strings.HasPrefix(to, "//") || strings.Contains(to, `\`) {
		return "/"
	}
	return to
}

func remote(c *gin.Context) string {
	from, _, err := net.SplitHostPort(c.Request.RemoteAddr)
	if err != nil {
		return c.Request.RemoteAddr
	}
	return from
}

// tryPhrase lets in who knows the passphrase.
func (s *Server) tryPhrase(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	from, to := remote(c), backTo(form.Get("to"))
	again := func(status int, fault string) error {
		s.show(c, status, "enter", page{Title: "Who is there?", View: enterView{To: to, Fault: fault}})
		return nil
	}
	if !s.door.may(from) {
		s.door.tried(from, false)
		c.Header("Retry-After", "20")
		return again(http.StatusTooManyRequests, "Too many tries. Wait a minute, then type it once more.")
	}
	in, err := s.store.CheckPassphrase(c.Request.Context(), form.Get("passphrase"))
	if err != nil {
		return err
	}
	s.door.tried(from, in)
	if !in {
		return again(http.StatusUnauthorized, "That is not it. Whoever sits at the machine that Kollaris runs on can set a new one, under Settings.")
	}
	return s.admit(c, from, false, to)
}

// admit begins a session and goes on.
func (s *Server) admit(c *gin.Context, from string, guest bool, to string) error {
	token, err := s.store.BeginSession(c.Request.Context(), from, guest)
	if err != nil {
		return err
	}
	s.cookie(c, token, cookieLasts)
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

func (s *Server) cookie(c *gin.Context, token string, lasts int) {
	http.SetCookie(c.Writer, &http.Cookie{
		Name: cookieName, Value: token, Path: "/", MaxAge: lasts, HttpOnly: true, Secure: c.Request.TLS != nil, SameSite: http.SameSiteLaxMode,
	})
}

// leave logs this browser out.
func (s *Server) leave(c *gin.Context) error {
	if token, err := c.Cookie(cookieName); err == nil {
		if err := s.store.EndSession(c.Request.Context(), token); err != nil {
			return err
		}
	}
	s.cookie(c, "", -1)
	c.Redirect(http.StatusSeeOther, "/enter")
	return nil
}

// byInvitation lets a guest in by a link.
func (s *Server) byInvitation(c *gin.Context) error {
	from := remote(c)
	if !s.door.may(from) {
		c.Header("Retry-After", "20")
		s.fail(c, http.StatusTooManyRequests, problem{Title: "Too many tries", Do: "Wait a minute, then open the link once more."})
		return nil
	}
	is, err := s.store.IsGuest(c.Request.Context(), c.Param("token"))
	if err != nil {
		return err
	}
	if !is || s.fromHere(c) {
		return store.ErrNotFound
	}
	return s.admit(c, from, true, "/guest")
}
