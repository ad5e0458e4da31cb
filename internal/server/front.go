package server

import (
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"
)

// front serves the compiled front end. Addresses that are no file are pages
// of it, except below /api/ and /assets/.
func front(files fs.FS) gin.HandlerFunc {
	return func(c *gin.Context) {
		name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
		if strings.HasPrefix(name, "api") || files == nil {
			answer(c, problem(http.StatusNotFound, "not-found", "", "There is no such address.", ""))
			return
		}
		if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
			answer(c, problem(http.StatusMethodNotAllowed, "no-such-method", "", "This address is only for reading.", ""))
			return
		}
		asset := strings.HasPrefix(name, "assets/")
		body, err := fs.ReadFile(files, name)
		if err != nil && !asset {
			name = "index.html"
			body, err = fs.ReadFile(files, name)
		}
		if err != nil {
			answer(c, problem(http.StatusNotFound, "not-found", "", "There is no such file.", ""))
			return
		}
		if asset { // its name holds its hash
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		} else {
			c.Header("Cache-Control", "no-cache")
		}
		kind := mime.TypeByExtension(path.Ext(name))
		if kind == "" {
			kind = "application/octet-stream"
		}
		// The compiled files are kept with a compressed copy beside them.
		for _, as := range []struct{ end, coding string }{{".br", "br"}, {".gz", "gzip"}} {
			packed, err := fs.ReadFile(files, name+as.end)
			if err != nil || !strings.Contains(c.GetHeader("Accept-Encoding"), as.coding) {
				continue
			}
			c.Header("Content-Encoding", as.coding)
			c.Header("Vary", "Accept-Encoding")
			body = packed
			break
		}
		c.Data(http.StatusOK, kind, body)
	}
}
