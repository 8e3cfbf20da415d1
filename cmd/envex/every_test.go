package main

import (
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// needed are flags without which a command has nothing to do.
var needed = map[string][]string{
	"boost": {"--block", "Nudge"}, "whatif": {"--kind", "boost"}, "import": {"--db", "plan.db"},
	"edit": {
		"--operations",
		"-",
	}, "standin": {"--box", "Amber"}, "hired": {"--without", "loop"}, "part": {"--part", "Organ", "--wav", "-"}, "presets": {"--gear", "Echo", "--notes", "1/8."},
}

// takesFile are the commands that read a file first.
func takesFile(t *testing.T) []string {
	var names []string
	for _, c := range root().Commands() {
		if strings.Contains(c.Use, "FILE") && !strings.Contains(c.Use, "BEFORE") && c.Name() != "meter" &&
			c.Name() != "fit" {
			names = append(names, c.Name())
		}
		assert.NotEmpty(t, c.Short, c.Name())
	}
	require.Greater(t, len(names), 15)
	return names
}

// Whatever is wrong with a file, every command says so, prints nothing else and ends.
func TestEveryCommandRefusesAFileThatIsNone(t *testing.T) {
	onItsOwn(t)
	dir := t.TempDir()
	write := func(name, text string) string {
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
		return path
	}
	whole, err := os.ReadFile(demoFile)
	require.NoError(t, err)
	bad := map[string]string{
		"missing":       filepath.Join(dir, "nowhere.json"),
		"no JSON":       write("no.json", "this is no JSON"),
		"empty":         write("empty.json", ""),
		"torn":          write("torn.json", string(whole[:4000])),
		"another shape": write("other.json", `{"format":"other","version":1}`),
		"newer":         write("newer.json", `{"format":"envex","version":999}`),
		"not sound":     write("bad.json", strings.Replace(string(whole), `"bpm": 104`, `"bpm": 4000`, 1)),
		"a folder":      dir,
	}
	for _, name := range takesFile(t) {
		for what, file := range bad {
			t.Run(name+" "+what, func(t *testing.T) {
				flags := append([]string{}, needed[name]...)
				for i, f := range flags {
					if f == "plan.db" {
						flags[i] = filepath.Join(t.TempDir(), f)
					}
				}
				out, err := run_(t, append([]string{name, file}, flags...)...)
				if name == "check" && what == "not sound" {
					require.Error(t, err)
					return
				}
				require.Error(t, err)
				assert.NotContains(t, err.Error(), "runtime error")
				assert.Empty(t, out, "nothing is printed of a file that is refused")
			})
		}
	}
}

func TestEveryCommandRefusesWhatItDoesNotKnow(t *testing.T) {
	onItsOwn(t)
	for _, name := range takesFile(t) {
		_, err := run_(t, name)
		require.Error(t, err, "%s without a file", name)
		_, err = run_(t, name, demoFile, "--no-such-flag")
		require.ErrorContains(t, err, "unknown flag", name)
		_, err = run_(t, name, demoFile, demoFile, demoFile)
		require.Error(t, err, "%s with three files", name)
		for _, c := range root().Commands() {
			if c.Name() != name {
				continue
			}
			for _, flag := range []string{"rig", "show", "setlist", "sound", "destination"} {
				if c.Flags().Lookup(flag) == nil {
					continue
				}
				args := append([]string{name, demoFile, "--" + flag, "nowhere at all"}, needed[name]...)
				if flag == "destination" || flag == "sound" || flag == "setlist" {
					if c.Flags().Lookup("rig") != nil {
						args = append(args, "--rig", "Long board")
					}
				}
				if flag == "rig" && c.Flags().Lookup("show") != nil {
					args = append(args, "--show", "quay-12")
				}
				_, err := run_(t, args...)
				assert.ErrorContains(t, err, "nowhere at all", "%s --%s", name, flag)
			}
		}
	}
	_, err := run_(t, "fly")
	require.ErrorContains(t, err, `unknown command "fly"`)
}

func TestHelpNamesEveryCommandOfTheReadme(t *testing.T) {
	readme, err := os.ReadFile("../../README.md")
	require.NoError(t, err)
	for _, c := range root().Commands() {
		assert.Contains(t, string(readme), "`envex "+c.Name(), "the README has a line for it")
	}
}

// What a command says in words has the figures that it gives as JSON.
func TestWhatIsSaidInWords(t *testing.T) {
	onItsOwn(t)
	for name, x := range map[string]struct {
		args []string
		says []string
	}{
		"cables": {
			[]string{"cables", demoFile, "--rig", "Bare board"},
			[]string{
				"Flutter output > Pier combo input: 9.00 m, mono, instrument level", "28.20 m in all",
				"instrument level is assumed",
			},
		},
		"kinds": {[]string{"kinds"}, []string{"boost", "Louder, and nothing else.", "volume"}},
		"check": {[]string{"check", demoFile}, []string{"is sound", "5 shows"}},
		"repairs": {
			[]string{"repairs", demoFile, "--rig", "Long board", "--setlist", "Quay set"},
			[]string{
				"Long board: reach 71 of 76", "Press Nudge and Amber under one shoe: reach 72 of 76", "breaks Low Tide Cumbia",
			},
		},
		"compare": {
			[]string{"compare", demoFile, "--rig", "Long board", "--with", "Bare board"},
			[]string{"Lead: It is made without delay.", "Bare board has no recipe for it"},
		},
		"midi": {[]string{"midi", demoFile, "--rig", "Long board"}, []string{"channel 3: Echo"}},
		"floor": {
			[]string{"floor", demoFile, "--rig", "Long board", "--fit"},
			[]string{
				"Long board fits on Long plank, 800 × 400 mm", "Lantern", "footwork of the night", "was 48.02",
				"weight in the hand",
			},
		},
		"drawn": {
			[]string{"floor", demoFile, "--rig", "Carry-on board", "--svg"}, []string{`width="440mm"`, ">Amber</text>"},
		},
		"printed": {
			[]string{"floor", demoFile, "--rig", "Carry-on board", "--print", "letter"},
			[]string{"size: letter landscape", "Print at 100 %"},
		},
		"boards": {
			[]string{"boards", smallFile}, []string{"on 12 boards", "250 × 130 mm", "the smallest that keeps every sound"},
		},
		"power": {
			[]string{"power", demoFile, "--rig", "Long board"},
			[]string{"12 boxes draw 547 mA", "Silt", "232 h left", "proven the best"},
		},
	} {
		t.Run(name, func(t *testing.T) {
			out, err := run_(t, x.args...)
			require.NoError(t, err)
			for _, words := range x.says {
				assert.Contains(t, out, words)
			}
		})
	}
}

// What a file would not do is said without the parts of the program that the error came through.
func TestErrorsAreSaidWithoutTheNamesOfPackages(t *testing.T) {
	_, err := run_(t, "import", demoFile, "--db", filepath.Join(t.TempDir(), "none", "plan.db"))
	require.Error(t, err)
	assert.NotContains(t, wordsOf(err), "store:")
	assert.Contains(t, wordsOf(err), "no such file or directory")
	_, err = run_(t, "reach", demoFile, "--rig", "nope", "--setlist", "Quay set")
	require.Error(t, err)
	assert.Contains(t, wordsOf(err), `there is no rig "nope"`)
	assert.Equal(t, "out of luck", wordsOf(errors.New("out of luck")))
}
