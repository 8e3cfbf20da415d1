package core_test

import (
	"flag"
	"fmt"
	"go/parser"
	"go/token"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// forAll is what each of our packages may import, and the drawing leaves out.
const forAll = "core/reason"

// allowed says which of our packages each may import. What is not listed may import none.
var allowed = map[string][]string{
	forAll:       {},
	"core/board": {"core/plan", "core/floor", "core/path", "core/reach"},
	"core/beside": {
		"core/plan", "core/board", "core/electric", "core/path", "core/reach", "core/signal", "core/switching",
	},
	"core/catalog":  {"core/plan"},
	"core/electric": {"core/plan", "core/path"},
	"core/failure":  {"core/plan", "core/path", "core/reach"},
	"core/floor":    {"core/plan"},
	"core/guitars":  {"core/plan", "core/signal"},
	"core/hire": {
		"core/plan", "core/beside", "core/electric", "core/path", "core/propose", "core/signal",
	},
	"core/layers":     {"core/plan", "core/reach"},
	"core/midi":       {"core/plan"},
	"core/night":      {"core/plan", "core/failure", "core/midi", "core/paper", "core/reach"},
	"core/operation":  {"core/plan"},
	"core/path":       {"core/plan", "core/floor"},
	"core/reach":      {"core/plan", "core/floor"},
	"core/setorder":   {"core/plan", "core/reach"},
	"core/signal":     {"core/plan", "core/path", "core/electric", "core/hearing"},
	"core/hearing":    {},
	"core/dial":       {"core/plan", "core/hearing", "core/signal"},
	"core/mix":        {"core/plan", "core/hearing", "core/signal"},
	"core/exchange":   {"core/plan", "core/midi"},
	"core/estimate":   {"core/plan", "core/hearing", "core/signal", "core/tempo"},
	"core/propose":    {"core/plan", "core/reach", "core/signal"},
	"core/soundcheck": {"core/plan", "core/failure", "core/path", "core/reach", "core/signal"},
	"core/standin":    {"core/plan", "core/catalog", "core/electric", "core/path", "core/reach", "core/signal"},
	"core/choose": {
		"core/plan", "core/board", "core/catalog", "core/electric", "core/floor", "core/path", "core/reach", "core/signal",
	},
	"core/guide":     {"core/plan"},
	"examples":       {"core/plan", "core/shorthand"},
	"core/shorthand": {"core/plan", "core/catalog", "core/exchange"},
	"core/paper": {
		"core/signal", "core/standin",
		"core/plan", "core/failure", "core/floor", "core/hire", "core/layers", "core/path", "core/reach", "core/electric",
		"core/midi", "core/exchange",
	},
	"core/play":      {"core/plan", "core/layers", "core/reach", "core/midi"},
	"core/tempo":     {"core/plan"},
	"core/journal":   {"core/plan"},
	"core/revision":  {"core/plan"},
	"core/wav":       {},
	"core/repair":    {"core/plan", "core/floor", "core/path", "core/reach", "core/switching", "core/catalog"},
	"core/switching": {"core/plan", "core/floor", "core/reach"},
	"page":           {"core/plan", "core/board", "core/floor", "core/path", "core/reach", "core/paper", "core/signal"},
	"disk":           {},
	"access":         {"disk"},
	"about/licences": {},
	"cmd/licences":   {"about/licences"},
	"cmd/mutants":    {},
	"worked":         {},
	"golden":         {},
	"lan":            {"disk"},
	"store":          {"core/plan", "disk", "store/wal"},
	"store/wal":      {},
	"store/doctor":   {"core/plan", "disk", "store"},
	"api": {
		"core/plan", "core/floor", "core/board", "core/path", "core/reach", "core/switching", "core/repair", "core/midi",
		"core/operation", "core/signal", "core/electric", "core/tempo", "core/layers", "core/play", "core/exchange",
		"core/paper", "core/journal", "core/revision", "core/wav", "core/catalog", "core/shorthand", "core/propose",
		"core/beside", "core/choose", "core/dial", "core/estimate", "core/guitars", "core/hire", "core/mix", "core/standin",
		"core/guide", "core/night", "core/setorder", "core/soundcheck", "page", "store", "store/doctor", "access", "lan", "about", "about/licences", "examples",
	},
	"cmd/envex": {
		"core/plan", "core/board", "core/path", "core/reach", "core/switching", "core/repair", "core/midi", "core/operation",
		"core/signal", "core/electric", "core/tempo", "core/layers", "core/play", "core/exchange", "core/paper",
		"core/journal", "core/revision", "core/wav", "core/catalog", "core/shorthand", "core/propose",
		"core/beside", "core/choose", "core/dial", "core/estimate", "core/guitars", "core/hire", "core/mix", "core/standin",
		"core/guide", "core/night", "core/setorder", "core/soundcheck", "page",
		"store", "store/doctor", "access", "lan", "disk", "about", "about/licences", "examples", "api", "demo", "web", "worked",
	},
}

// outside is what the rules of the job have nothing to do with: files, clocks, chance, the
// network, databases and screens.
var outside = []string{
	"os", "os/exec", "time", "math/rand", "math/rand/v2", "crypto/rand", "net", "net/http", "database/sql", "log",
	"log/slog", "io/fs", "path/filepath", "embed", "syscall",
}

// elsewhere is what of the core uses packages that are not ours: transforms, a bounded memory, and an open file format.
var elsewhere = map[string][]string{
	"core/exchange": {
		"gitlab.com/gomidi/midi/v2/smf", "golang.org/x/text/encoding", "golang.org/x/text/encoding/charmap",
		"golang.org/x/text/encoding/unicode",
	},
	"core/choose":   {"golang.org/x/sync/errgroup"},
	"core/signal":   {"github.com/hashicorp/golang-lru/v2", "gonum.org/v1/gonum/dsp/fourier"},
	"core/estimate": {"gonum.org/v1/gonum/dsp/fourier"},
	"core/wav":      {"gonum.org/v1/gonum/dsp/fourier", "github.com/go-audio/audio", "github.com/go-audio/wav"},
}

// arrows are the imports of our packages by each other.
func arrows(t *testing.T, each func(dir, path, name string)) {
	for _, root := range []string{
		"about", "access", "core", "disk", "examples", "golden", "lan", "page", "store", "worked", "api", "cmd",
	} {
		err := filepath.WalkDir(filepath.Join("..", root), func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			dir, err := filepath.Rel("..", filepath.Dir(path))
			if err != nil {
				return err
			}
			file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
			if err != nil {
				return err
			}
			for _, spec := range file.Imports {
				name, err := strconv.Unquote(spec.Path.Value)
				if err != nil {
					return err
				}
				each(dir, path, name)
			}
			return nil
		})
		require.NoError(t, err)
	}
}

func TestArrowsPointInwards(t *testing.T) {
	seen := map[string]bool{}
	arrows(t, func(dir, path, name string) {
		seen[dir] = true
		checkImport(t, dir, path, name)
	})
	for dir := range allowed {
		assert.True(t, seen[dir], "%s is in the list and not in the tree", dir)
	}
}

func checkImport(t *testing.T, dir, path, name string) {
	t.Helper()
	if own, ours := strings.CutPrefix(name, "envex/"); ours {
		if own == forAll {
			return
		}
		assert.Contains(t, allowed[dir], own, "%s imports %s", path, own)
		return
	}
	if !strings.HasPrefix(dir, "core") {
		return
	}
	assert.NotContains(t, outside, name, "%s imports %s", path, name)
	if strings.Contains(name, ".") {
		assert.Contains(
			t,
			elsewhere[dir],
			name,
			"%s imports %s: the core needs no other package from elsewhere",
			path,
			name,
		)
	}
}

var update = flag.Bool("update", false, "draw the packages anew in docs/architecture.md")

// drawing is our packages and what each stands on; what follows from other arrows is left out.
func drawing(t *testing.T) string {
	on := map[string]map[string]bool{}
	arrows(t, func(dir, _, name string) {
		if own, ours := strings.CutPrefix(name, "envex/"); ours && own != forAll {
			if on[dir] == nil {
				on[dir] = map[string]bool{}
			}
			on[dir][own] = true
		}
	})
	var reaches func(from, to string) bool
	reaches = func(from, to string) bool {
		for next := range on[from] {
			if next == to || reaches(next, to) {
				return true
			}
		}
		return false
	}
	var b strings.Builder
	b.WriteString("```mermaid\nflowchart TD\n")
	for _, from := range slices.Sorted(maps.Keys(on)) {
		for _, to := range slices.Sorted(maps.Keys(on[from])) {
			if !slices.ContainsFunc(
				slices.Collect(
					maps.Keys(on[from]),
				),
				func(other string) bool { return other != to && reaches(other, to) },
			) {
				fmt.Fprintf(&b, "  %s --> %s\n", from, to)
			}
		}
	}
	return b.String() + "```\n"
}

func TestTheDrawingIsOfTheCodeAsItIs(t *testing.T) {
	const name, begins, ends = "../docs/architecture.md", "<!-- drawing -->\n", "<!-- drawn -->"
	data, err := os.ReadFile(name)
	require.NoError(t, err)
	head, rest, ok := strings.Cut(string(data), begins)
	require.True(t, ok)
	old, tail, ok := strings.Cut(rest, ends)
	require.True(t, ok)
	now := drawing(t)
	if *update {
		require.NoError(t, os.WriteFile(name, []byte(head+begins+now+ends+tail), 0o644))
		return
	}
	assert.Equal(t, now, old, "run go test ./core -update")
}

func TestEveryPackageOfTheCoreHasAnExample(t *testing.T) {
	files, err := filepath.Glob("*")
	require.NoError(t, err)
	for _, name := range files {
		if info, err := os.Stat(name); err == nil && info.IsDir() {
			assert.FileExists(
				t,
				filepath.Join(name, "example_test.go"),
				"an example shows a newcomer what %s answers",
				name,
			)
		}
	}
}
