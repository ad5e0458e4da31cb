// Package web holds the compiled front end.
package web

import (
	"embed"
	"io/fs"
)

// dist/app is made by the front end's build; dist itself is always there so
// that the package compiles before it.
//
//go:embed all:dist
var dist embed.FS

// Front returns the compiled front end; it is empty before the first build.
func Front() (fs.FS, error) { return fs.Sub(dist, "dist/app") }
