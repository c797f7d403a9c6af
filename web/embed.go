// Package web carries the built front end in the binary. Before it has been
// built there is a placeholder page only.
package web

import (
	"embed"
	"io/fs"
)

//go:embed dist
var dist embed.FS

// Site is the built front end.
func Site() fs.FS {
	site, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the directory is embedded above
	}
	return site
}
