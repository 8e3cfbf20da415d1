// Package golden holds what is told to files in which it was once read line by line, for tests alone. `go test -update`
// writes them anew; then they have to be read anew.
package golden

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
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

// Plans are the files of the demo and of every example, and of rigs that testdata has, by their names.
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
	for _, pattern := range []string{"demo/*.envex.json", "examples/*.envex.json", "testdata/rigs/*/rig.envex.json"} {
		files, err := filepath.Glob(filepath.Join(dir, pattern))
		require.NoError(t, err)
		require.NotEmpty(t, files, pattern)
		for _, file := range files {
			data, err := os.ReadFile(file) //nolint:gosec // it is found under the module
			require.NoError(t, err)
			name := strings.TrimSuffix(filepath.Base(file), ".envex.json")
			if name == "rig" {
				name = "rigs/" + filepath.Base(filepath.Dir(file))
			}
			list = append(list, Plan{name, data})
		}
	}
	return list
}

// Lines are the lines of a value as JSON, a field each, with the path to it and numbers to four digits: what is short to
// read, and the same on every processor. What is empty has none.
func Lines(t *testing.T, v any) string {
	t.Helper()
	data, err := json.Marshal(v)
	require.NoError(t, err)
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	var tree any
	require.NoError(t, d.Decode(&tree))
	var b strings.Builder
	lines(&b, "", tree)
	return b.String()
}

func lines(b *strings.Builder, path string, v any) {
	switch x := v.(type) {
	case map[string]any:
		keys := make([]string, 0, len(x))
		for k := range x {
			keys = append(keys, k)
		}
		slices.Sort(keys)
		for _, k := range keys {
			lines(b, path+"."+k, x[k])
		}
	case []any:
		if flat, ok := flat(x); ok {
			if flat != "" {
				fmt.Fprintf(b, "%s: %s\n", strings.TrimPrefix(path, "."), flat)
			}
			return
		}
		for i, inner := range x {
			lines(b, fmt.Sprintf("%s[%d]", path, i), inner)
		}
	default:
		if s := word(v); s != "" {
			fmt.Fprintf(b, "%s: %s\n", strings.TrimPrefix(path, "."), s)
		}
	}
}

// flat is a list of words and numbers in one line; false where there is anything else in it.
func flat(list []any) (string, bool) {
	var words []string
	for _, v := range list {
		switch v.(type) {
		case map[string]any, []any:
			return "", false
		}
		words = append(words, word(v))
	}
	return strings.Join(words, ", "), true
}

func word(v any) string {
	switch x := v.(type) {
	case json.Number:
		f, err := x.Float64()
		if err != nil || f == 0 {
			return ""
		}
		return strconv.FormatFloat(f, 'g', 4, 64)
	case bool:
		if !x {
			return ""
		}
		return "true"
	case string:
		return x
	}
	return ""
}
