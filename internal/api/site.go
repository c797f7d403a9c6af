package api

import (
	"bytes"
	"io/fs"
	"log/slog"
	"mime"
	"net/http"
	"path"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
)

// serveSite answers files of the built front end, and its page for every
// other address, so that each view has an address of its own.
func serveSite(engine *gin.Engine, site fs.FS) {
	engine.NoRoute(func(c *gin.Context) {
		name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
		if strings.HasPrefix(name+"/", strings.TrimPrefix(apiPrefix, "/")+"/") {
			(&problem{status: http.StatusNotFound, title: "There is nothing at this address"}).write(c)
			return
		}
		if info, err := fs.Stat(site, name); err == nil && !info.IsDir() {
			if strings.HasPrefix(name, "assets/") { // names carry a hash of the content
				c.Header("Cache-Control", "public, max-age=31536000, immutable")
			}
			serveFile(c, site, name)
			return
		}
		c.Header("Cache-Control", "no-cache")
		for _, page := range []string{"index.html", "placeholder.html"} {
			if _, err := fs.Stat(site, page); err == nil {
				serveFile(c, site, page)
				return
			}
		}
		slog.Error("the site has no page")
		c.Status(http.StatusInternalServerError)
	})
}

// packings are the ways in which the build packs files beforehand, best first.
var packings = []struct{ encoding, extension string }{{"br", ".br"}, {"gzip", ".gz"}}

// serveFile answers a file, packed where the build has done so and the browser
// takes it.
func serveFile(c *gin.Context, site fs.FS, name string) {
	if kind := mime.TypeByExtension(path.Ext(name)); kind != "" {
		c.Header("Content-Type", kind)
	}
	for _, p := range packings {
		packed, err := fs.ReadFile(site, name+p.extension)
		if err != nil {
			continue
		}
		c.Header("Vary", "Accept-Encoding")
		if takes(c.Request, p.encoding) {
			c.Header("Content-Encoding", p.encoding)
			answerContent(c, name, packed)
			return
		}
	}
	content, err := fs.ReadFile(site, name)
	if err != nil {
		asProblem(err).write(c)
		return
	}
	answerContent(c, name, content)
}

func answerContent(c *gin.Context, name string, content []byte) {
	http.ServeContent(c.Writer, c.Request, name, time.Time{}, bytes.NewReader(content))
}

// takes reports an encoding that a browser lists.
func takes(r *http.Request, encoding string) bool {
	for listed := range strings.SplitSeq(r.Header.Get("Accept-Encoding"), ",") {
		name, weight, _ := strings.Cut(strings.TrimSpace(listed), ";")
		if name == encoding && strings.TrimSpace(weight) != "q=0" {
			return true
		}
	}
	return false
}
