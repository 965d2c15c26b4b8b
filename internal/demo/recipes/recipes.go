// Package recipes holds the demo's recipe texts, each in a notation of its own.
// All of them are invented.
package recipes

import (
	"embed"
	"io/fs"
)

//go:embed *.txt
var files embed.FS

// Names lists the recipes' file names in order.
func Names() []string {
	names, _ := fs.Glob(files, "*.txt") // the pattern is well formed
	return names
}

// Text returns one recipe as it was written, "" for no such name.
func Text(name string) string {
	b, _ := files.ReadFile(name)
	return string(b)
}
