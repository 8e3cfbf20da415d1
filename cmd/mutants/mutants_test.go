package main

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const source = `package p

import "strings"

type T struct{ N [3]int }

// Late is whether it is too late.
func Late(a, b int, ok bool) bool {
	for i := 0; i < 3; i++ {
		if i == 1 {
			continue
		}
	}
	if a+b >= 7 && !ok {
		return strings.Repeat("a"+"b", 2) == ""
	}
	return true
}
`

func folder(t *testing.T, test string) string {
	dir := t.TempDir()
	for name, text := range map[string]string{"go.mod": "module p\n\ngo 1.26\n", "p.go": source, "p_test.go": test} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
	}
	return dir
}

func TestMistakesAreThoseAHandMakes(t *testing.T) {
	all, err := mistakesIn("p.go", []byte(source))
	require.NoError(t, err)
	var said []string
	for _, m := range all {
		said = append(said, m.old+" "+m.new)
		assert.Equal(t, m.old, source[m.from:m.to])
	}
	assert.Equal(t, []string{
		"0 1", "< <=", "3 4", "++ --", "== !=", "1 2", "continue break", "&& ||", ">= >", "+ -", "7 8", "! ", "== !=",
		"2 3", "true false",
	}, said)
	_, err = mistakesIn("p.go", []byte("package"))
	assert.ErrorContains(t, err, "read p.go")
}

func TestWhatTestsFindDiesAndTheRestIsNamed(t *testing.T) {
	dir := folder(t, "package p\n")
	h := hunt{n: 4, seed: 1, test: func(_ context.Context, _, overlay string, _ time.Duration) (verdict, error) {
		changed, err := os.ReadFile(filepath.Join(filepath.Dir(overlay), "changed.go"))
		require.NoError(t, err)
		assert.NotEqual(t, source, string(changed), "something is planted")
		switch {
		case strings.Contains(string(changed), "return false"):
			return isNone, nil
		case strings.Contains(string(changed), "a+b"):
			return dies, nil
		}
		return lives, nil
	}}
	h.n = 100
	var out strings.Builder
	require.NoError(t, h.all(t.Context(), []string{dir}, 0.5, &out))
	assert.Contains(
		t, out.String(), "seed 1\n"+dir+": 13 of 14 died\n  lives: "+filepath.Join(dir, "p.go")+":14: - for +\n",
	)
	assert.ErrorContains(
		t, h.all(t.Context(), []string{dir}, 0.99, &out), "13 of 14 mistakes were found: fewer than 99 of 100",
	)
	h.n = 3
	found, err := h.in(t.Context(), dir)
	require.NoError(t, err)
	again, err := h.in(t.Context(), dir)
	require.NoError(t, err)
	assert.Len(t, found, 3)
	assert.Equal(t, found, again, "a seed plants the same")
	assert.ErrorContains(t, h.all(t.Context(), nil, 0, &out), "name the packages")
	assert.ErrorContains(t, h.all(t.Context(), []string{t.TempDir()}, 0, &out), "no mistake can be planted")
}

func TestGoLooksForAMistake(t *testing.T) {
	dir := folder(
		t,
		"package p\n\nimport \"testing\"\n\nfunc TestLate(t *testing.T) {\n\tif Late(4, 3, false) {\n\t\tt.Fatal()\n\t}\n}\n",
	)
	t.Chdir(dir)
	at := func(old string) mutant {
		all, err := mistakes(".")
		require.NoError(t, err)
		for _, m := range all {
			if m.old == old {
				return m
			}
		}
		t.Fatalf("no %s", old)
		return mutant{}
	}
	h := hunt{patience: time.Minute, test: goTest}
	try := func(m mutant) verdict {
		v, err := h.try(t.Context(), ".", m)
		require.NoError(t, err)
		return v
	}
	assert.Equal(t, dies, try(at(">=")))
	assert.Equal(t, lives, try(at("3")))
	broken := at("!")
	broken.new = "-"
	assert.Equal(t, isNone, try(broken))
}
