// Package golden holds what is told to files, for tests alone: whatever changes in it shows. `go test -update` writes
// them anew, and what is different in them has to be read before it is kept.
package golden

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
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

// Update is whether files are to be written anew.
var Update = flag.Bool("update", false, "write the golden files anew")

// Hold compares what is told with a file, whose path is that from the folder of the test.
func Hold(t *testing.T, file, told string) {
	t.Helper()
	if *Update {
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o750))
		require.NoError(t, os.WriteFile(file, []byte(told), 0o600))
	}
	was, err := os.ReadFile(file) //nolint:gosec // it is the test that names it
	require.NoError(t, err)
	assert.Equal(t, string(was), told, file)
}

// Plan is the file of a plan, by its name.
type Plan struct {
	Name string
	Data []byte
}

// Plans are the files of the demo and of the rigs that testdata has, by their names.
func Plans(t *testing.T) []Plan {
	t.Helper()
	dir, err := os.Getwd()
	require.NoError(t, err)
	for ; ; dir = filepath.Dir(dir) {
		if _, err := os.Stat(filepath.Join(dir, "go.mod")); err == nil {
			break
		}
		require.NotEqual(t, dir, filepath.Dir(dir), "no go.mod is above the test")
	}
	var list []Plan
	for _, pattern := range []string{"demo/*.envex.json", "testdata/rigs/*/rig.envex.json"} {
		files, err := filepath.Glob(filepath.Join(dir, pattern))
		require.NoError(t, err)
		require.NotEmpty(t, files, pattern)
		for _, file := range files {
			data, err := os.ReadFile(file) //nolint:gosec // it is found under the module
			require.NoError(t, err)
			name := strings.TrimSuffix(filepath.Base(file), ".envex.json")
			if name == "rig" {
				name = filepath.Base(filepath.Dir(file))
			}
			list = append(list, Plan{name, data})
		}
	}
	return list
}

// Lines are a value as JSON has it, for reading: an object on a line, what it has in it under it, numbers to four
// digits, which every processor agrees on. What is empty is left out, and of a long list there are the ends and the
// middle.
func Lines(t *testing.T, v any) string {
	t.Helper()
	data, err := json.Marshal(v)
	require.NoError(t, err)
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	var tree any
	require.NoError(t, d.Decode(&tree))
	var b strings.Builder
	write(&b, "", "", tree)
	return b.String()
}

// longList is how much longer lists are not written whole.
const longList = 60

// write writes a value under its name.
func write(b *strings.Builder, indent, name string, v any) {
	inside := indent + " "
	switch x := v.(type) {
	case map[string]any:
		line := []string{}
		var under []string
		for _, k := range slices.Sorted(maps.Keys(x)) {
			if s, ok := short(x[k]); !ok {
				under = append(under, k)
			} else if s != "" {
				line = append(line, k+" "+s)
			}
		}
		if len(line) > 0 || name != "" && len(under) > 0 {
			fmt.Fprintf(b, "%s%s\n", indent, strings.Trim(name+": "+strings.Join(line, "; "), ": "))
		}
		for _, k := range under {
			write(b, inside, k, x[k])
		}
	case []any:
		fmt.Fprintf(b, "%s%s:\n", indent, name)
		for i, inner := range x {
			if n := len(x); n <= longList || i < 3 || i == n/2 || i == n-1 {
				write(b, inside, strconv.Itoa(i+1), inner)
			}
		}
	default:
		s, _ := short(v)
		fmt.Fprintf(b, "%s%s %s\n", indent, name, s)
	}
}

// short is a value on part of a line: words, numbers and lists of them; false where it takes more.
func short(v any) (string, bool) {
	switch x := v.(type) {
	case map[string]any:
		return "", len(x) == 0
	case []any:
		var words []string
		for _, inner := range x {
			switch inner.(type) {
			case map[string]any, []any:
				return "", false
			}
			s, _ := short(inner)
			words = append(words, s)
		}
		if n := len(words); n > longList {
			words = append(slices.Clone(words[:4]), "...", words[n/2], "...", words[n-1], fmt.Sprintf("%d in all", n))
		}
		return strings.Join(words, ", "), true
	case json.Number:
		f, err := x.Float64()
		if err != nil || f == 0 {
			return "", true
		}
		return strconv.FormatFloat(f, 'g', 4, 64), true
	case bool:
		if x {
			return "yes", true
		}
		return "", true
	case string:
		return x, true
	}
	return "", true
}
