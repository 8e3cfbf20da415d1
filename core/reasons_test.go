package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// inside are the errors that say what went wrong inside the program, which nobody can do anything about.
var inside = []string{
	"store/apply.go: store: a change failed", "core/signal/sounds.go: something went wrong inside",
	"core/plan/value.go: plan: ",
	"core/repair/scene.go: the budget is spent", "core/repair/scene.go: it brings a fault", "core/reason/reason.go: ",
	"api/work.go: something went wrong inside", "api/work.go: api: a task gave",
	"store/doctor/salvage.go: a row has no number", "store/store.go: its pages", "store/store.go: what stands of",
	"store/mark.go: store: move the log",
}

// An error that begins somewhere is a reason, which a person reads, or one of the few that nobody can do anything
// about.
// Where it is wrapped it may be any.
func TestErrorsThatBeginSomewhereAreReasons(t *testing.T) {
	for _, root := range []string{"access", "api", "core", "page", "store", "cmd/envex"} {
		err := filepath.WalkDir(filepath.Join("..", root), func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
			require.NoError(t, err)
			path = strings.TrimPrefix(filepath.ToSlash(path), "../")
			ast.Inspect(file, func(n ast.Node) bool {
				if begun, ok := beginning(n); ok && !slices.ContainsFunc(inside, func(x string) bool {
					return strings.HasPrefix(path+": "+begun, x)
				}) {
					assert.Fail(t, "no reason", "%s: %s", path, begun)
				}
				return true
			})
			return nil
		})
		require.NoError(t, err)
	}
}

// beginning is the format of an error that is made there and wraps none.
func beginning(n ast.Node) (string, bool) {
	call, ok := n.(*ast.CallExpr)
	if !ok || len(call.Args) == 0 {
		return "", false
	}
	f, ok := call.Fun.(*ast.SelectorExpr)
	if !ok {
		return "", false
	}
	pkg, ok := f.X.(*ast.Ident)
	if !ok || pkg.Name+"."+f.Sel.Name != "fmt.Errorf" && pkg.Name+"."+f.Sel.Name != "errors.New" {
		return "", false
	}
	text, ok := call.Args[0].(*ast.BasicLit)
	if !ok {
		return "an error of a text that is made", true
	}
	words := strings.Trim(text.Value, "\"")
	return words, !strings.Contains(words, "%w")
}
