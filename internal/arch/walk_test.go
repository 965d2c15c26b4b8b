package arch

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// declared lists the names that the files of a folder declare: "Read", "Server.bench".
func declared(t *testing.T, folder string) map[string]bool {
	t.Helper()
	out := map[string]bool{}
	files, err := filepath.Glob(filepath.Join("../..", folder, "*.go"))
	require.NoError(t, err)
	for _, f := range files {
		parsed, err := parser.ParseFile(token.NewFileSet(), f, nil, parser.SkipObjectResolution)
		require.NoError(t, err)
		for _, d := range parsed.Decls {
			switch d := d.(type) {
			case *ast.FuncDecl:
				name := d.Name.Name
				if d.Recv != nil {
					of := d.Recv.List[0].Type
					if star, ok := of.(*ast.StarExpr); ok {
						of = star.X
					}
					if id, ok := of.(*ast.Ident); ok { // a generic type's methods are not walked to
						name = id.Name + "." + name
					}
				}
				out[name] = true
			case *ast.GenDecl:
				for _, s := range d.Specs {
					if ty, ok := s.(*ast.TypeSpec); ok {
						out[ty.Name.Name] = true
					}
				}
			}
		}
	}
	return out
}

// What docs/walk.md names exists: files, folders and declared names.
func TestTheWalkNamesWhatExists(t *testing.T) {
	text, err := os.ReadFile("../../docs/walk.md")
	require.NoError(t, err)
	seen := 0
	for _, m := range regexp.MustCompile("`((?:core|internal|format|cmd)[\\w./-]*)`").FindAllStringSubmatch(string(text), -1) {
		seen++
		if _, err := os.Stat(filepath.Join("../..", m[1])); err == nil {
			continue
		}
		at := strings.LastIndex(m[1], "/") + 1
		name, inside, ok := strings.Cut(m[1][at:], ".")
		assert.True(t, ok && declared(t, m[1][:at]+name)[inside], "%s is not there", m[1])
	}
	assert.Greater(t, seen, 40)
}
