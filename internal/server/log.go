package server

import (
	"log/slog"
	"net/http"
	"regexp"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
)

// requestID is the header that names a request, in answers and in the log; one that a
// proxy has given is kept.
const requestID = "X-Request-Id"

var plainID = regexp.MustCompile(`^[A-Za-z0-9._-]{1,64}$`)

// logged writes a line for each request: what failed as a warning, what was refused as
// news, and the rest for whoever looks closely.
func logged(c *gin.Context) {
	begun := time.Now()
	id := c.GetHeader(requestID)
	if !plainID.MatchString(id) {
		id = uuid.NewString()
	}
	c.Header(requestID, id)
	c.Next()
	level, status := slog.LevelDebug, c.Writer.Status()
	switch {
	case status >= http.StatusInternalServerError:
		level = slog.LevelWarn
	case status >= http.StatusBadRequest:
		level = slog.LevelInfo
	}
	ctx := c.Request.Context()
	if !slog.Default().Enabled(ctx, level) {
		return
	}
	line := []slog.Attr{slog.String("request", id), slog.String("method", c.Request.Method), slog.String("route", c.FullPath()),
		slog.Int("status", status), slog.Duration("took", time.Since(begun)), slog.Int("bytes", c.Writer.Size())}
	if w := who(ctx); w.ID != uuid.Nil {
		line = append(line, slog.String("person", w.ID.String()))
	}
	slog.LogAttrs(ctx, level, "answered", line...)
}
