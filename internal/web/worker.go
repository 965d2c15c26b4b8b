package web

import (
	"bytes"
	"encoding/json"
	"io/fs"
	"net/http"
	"path"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
)

// atHand are the kinds of files that a browser keeps from the first visit on.
var atHand = []string{".css", ".js", ".svg", ".woff2", ".png"}

// workerOf is the service worker with the files of this program in it, so that another program is another worker.
func workerOf(tree string) ([]byte, error) {
	var files []string
	err := fs.WalkDir(staticFiles, "static", func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() && slices.Contains(atHand, path.Ext(p)) && p != "static/sw.js" && path.Dir(p) != "static/css/screens" {
			files = append(files, "/static/"+tree+strings.TrimPrefix(p, "static"))
		}
		return err
	})
	if err != nil {
		return nil, err
	}
	files = append(files, "/static/"+tree+"/css/screens.css")
	list, err := json.Marshal(files)
	if err != nil {
		return nil, err
	}
	text, err := staticFiles.ReadFile("static/sw.js")
	text = bytes.Replace(text, []byte(`"TREE"`), []byte(`"`+tree+`"`), 1)
	return bytes.Replace(text, []byte("FILES"), list, 1), err
}

// WithoutWorker gives pages that keep nothing in the browser, for trials with a browser each.
func (a *App) WithoutWorker() { a.server.noWorker = true }

func (s *Server) worker(c *gin.Context) {
	c.Header("Cache-Control", "no-cache")
	c.Data(http.StatusOK, "text/javascript; charset=utf-8", s.views.worker)
}

// manifest lets the program be put among the apps of a phone or a desk.
func (s *Server) manifest(c *gin.Context) {
	at := "/static/" + s.views.tree + "/"
	doc, err := json.Marshal(map[string]any{
		"name": "Kollaris", "short_name": "Kollaris", "id": "/", "start_url": "/", "scope": "/", "display": "standalone", "lang": "en-GB",
		"description":      "Adapts baking recipes to the people who will eat them",
		"background_color": "#FBF7F0", "theme_color": "#8E2F4F",
		"icons": []map[string]string{
			{"src": at + "icon.svg", "sizes": "any", "type": "image/svg+xml"},
			{"src": at + "icon-192.png", "sizes": "192x192", "type": "image/png"},
			{"src": at + "icon-512.png", "sizes": "512x512", "type": "image/png"},
		},
	})
	if err != nil {
		s.failed(c, err)
		return
	}
	c.Data(http.StatusOK, "application/manifest+json", doc)
}
