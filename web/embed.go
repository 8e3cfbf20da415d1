// Package web carries the built front end inside the binary.
package web

import (
	"embed"
	"io/fs"
)

// The front end is built into dist by Vite; a placeholder stands there before that.
//
//go:embed all:dist
var dist embed.FS

// Files is the built front end, rooted at its page.
func Files() (fs.FS, error) { return fs.Sub(dist, "dist") }
