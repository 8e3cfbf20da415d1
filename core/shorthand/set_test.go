package shorthand_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/shorthand"
	"envex/golden"
)

func songWords(p *plan.Plan) string {
	var b strings.Builder
	name := map[plan.ID]string{}
	for _, s := range p.Sounds {
		name[s.ID] = s.Name
		fmt.Fprintf(&b, "sound %s %s: %s, %s", s.Name, s.Short, s.Role, s.Tape)
		if s.Targets.DirtMin != nil {
			fmt.Fprintf(&b, ", dirt from %g", *s.Targets.DirtMin)
		}
		if s.Targets.DirtMax != nil {
			fmt.Fprintf(&b, ", dirt to %g", *s.Targets.DirtMax)
		}
		if s.Targets.LoudnessLU != nil {
			fmt.Fprintf(&b, ", %+g LU", *s.Targets.LoudnessLU)
		}
		for _, e := range s.Targets.Effects {
			fmt.Fprintf(&b, ", %s", e.Effect)
		}
		b.WriteString("\n")
	}
	for _, l := range p.SetLists {
		fmt.Fprintf(&b, "set %s\n", l.Name)
		for _, e := range l.Entries {
			s, _ := p.FindSong(e.Song)
			fmt.Fprintf(&b, "%s, %g in %d/%d, segue %v\n", s.Title, s.Tempo.BPM, s.Meter.Beats, s.Meter.Unit, e.Segue)
			for _, sec := range s.Sections {
				fmt.Fprintf(&b, "  %s: %s", sec.Label, name[sec.Sound])
				if sec.Bars != nil {
					fmt.Fprintf(&b, ", %g bars", *sec.Bars)
				}
				if sec.Singing {
					b.WriteString(", singing")
				}
				if sec.Rest > 0 {
					fmt.Fprintf(&b, ", rest %g", sec.Rest)
				}
				b.WriteString("\n")
			}
		}
	}
	return b.String()
}

func TestSetsAreReadAsTheyWere(t *testing.T) {
	files, err := filepath.Glob("testdata/*.set.txt")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		t.Run(filepath.Base(file), func(t *testing.T) {
			text, err := os.ReadFile(file)
			require.NoError(t, err)
			d, err := shorthand.ReadSet(string(text), "Quay", "verse clean 16, chorus crunch 8 (sing)")
			require.NoError(t, err)
			p, said := shorthand.Songs(d, &plan.Plan{}, ids("new"))
			require.Empty(t, p.Validate())
			got := songWords(
				p,
			) + "said " + strings.Join(
				said,
				"\nsaid ",
			) + "\nleft " + strings.Join(
				d.Left,
				"\nleft ",
			) + "\n"
			file := strings.TrimSuffix(file, ".txt") + ".golden"
			golden.Hold(t, file, got)
		})
	}
}

func TestSoundsThatAreThereAreUsed(t *testing.T) {
	first, err := shorthand.ReadSet("Low Tide 96: clean, chorus crunch", "", "")
	require.NoError(t, err)
	p, _ := shorthand.Songs(first, &plan.Plan{}, ids("a"))
	next, err := shorthand.ReadSet("Nine Gulls: CRUNCH, out clean, solo lead", "", "")
	require.NoError(t, err)
	q, said := shorthand.Songs(next, p, ids("b"))
	made := 0
	for _, s := range q.Sounds {
		if _, there := p.FindSound(s.ID); !there {
			made++
			assert.Equal(t, "Lead", s.Name)
			assert.Equal(t, plan.LeadRole, s.Role)
		}
	}
	assert.Equal(t, 1, made)
	assert.Contains(t, said, "Lead is new: a lead sound.")
}

func TestEverySoundGetsItsOwnLettersAndTape(t *testing.T) {
	var have []plan.Sound
	short, tape := map[string]bool{}, map[string]bool{}
	for _, name := range []string{
		"Clean", "Crunch", "Clear", "Click", "Cling", "Lead", "Loud", "Lull", "C", "Clean trem", "Cl", "Clan",
	} {
		s := shorthand.SoundOf(name, have)
		s.ID = plan.ID(strings.ReplaceAll(name, " ", "-"))
		assert.False(t, short[s.Short], "%s has %s", name, s.Short)
		assert.False(t, tape[s.Tape], "%s has %s", name, s.Tape)
		short[s.Short], tape[s.Tape] = true, true
		have = append(have, s)
		p := plan.Plan{Sounds: have}
		require.Empty(t, p.Validate(), name)
	}
	homes := 0
	for _, s := range have {
		if s.Role == plan.HomeRole {
			homes++
		}
	}
	assert.Equal(t, 1, homes)
}

func FuzzReadSet(f *testing.F) {
	for _, s := range []string{
		"Ferry Lights 104: clean, verse clean x2 (sing), chorus crunch (sing), solo lead 16, out crunch",
		"& Low Tide\n3. Nine Gulls @ 132 6/8: intro clean 4 | verse trem 16 (sing, rest 2)",
		"title,bpm\nx,100", "1\tTin Cabana\t128\tAm", "---", ":", "a: b: c", "x: , , |",
	} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		d, err := shorthand.ReadSet(text, "", "verse clean")
		if err != nil {
			return
		}
		p, _ := shorthand.Songs(d, &plan.Plan{}, ids("new"))
		require.Empty(t, p.Validate(), "%q", text)
	})
}
