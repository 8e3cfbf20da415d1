package shorthand_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/shorthand"
	"envex/golden"
)

func ids(name string) func() plan.ID {
	n := 0
	return func() plan.ID { n++; return plan.ID(fmt.Sprintf("%s-%d", name, n)) }
}

func read(t testing.TB, text string, p *plan.Plan) *shorthand.Reading {
	t.Helper()
	r, err := shorthand.ReadChain(text, p)
	require.NoError(t, err)
	return r
}

// built is the plan that a chain makes of an empty one; it has to be valid.
func built(t testing.TB, text string) (*plan.Plan, *shorthand.Rigged) {
	t.Helper()
	p := &plan.Plan{}
	made := read(t, text, p).Build(p, ids("new"), "")
	for _, g := range made.Gear {
		p.Put(g)
	}
	p.Put(made.Rig)
	require.Empty(t, p.Validate(), text)
	return p, made
}

func pathWords(p *plan.Plan, nodes []plan.Node) string {
	var list []string
	for _, n := range nodes {
		if n.Split != nil {
			var lanes []string
			for _, l := range n.Split.Lanes {
				lanes = append(lanes, pathWords(p, l.Nodes))
			}
			list = append(
				list,
				fmt.Sprintf(
					"%s%s{%s}%s",
					n.Split.Kind,
					fromWords(p, n.Split.From),
					strings.Join(lanes, " | "),
					n.Split.Join,
				),
			)
			continue
		}
		g, _ := p.FindGear(n.Stop.Gear())
		word := g.Name
		if len(g.Blocks) > 1 {
			word += "/" + n.Stop.Rest()
		}
		if n.Loop > 0 {
			word += fmt.Sprintf("@%d", n.Loop)
		}
		list = append(list, word)
	}
	return strings.Join(list, " ")
}

func fromWords(p *plan.Plan, key plan.Key) string {
	if g, ok := p.FindGear(key.Gear()); ok {
		return " by " + g.Name + " "
	}
	return ""
}

// Every chain of testdata is read as its golden file says.
func TestChainsAreReadAsTheyWere(t *testing.T) {
	files, err := filepath.Glob("testdata/*.rig.txt")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		t.Run(filepath.Base(file), func(t *testing.T) {
			text, err := os.ReadFile(file)
			require.NoError(t, err)
			p, made := built(t, string(text))
			var b strings.Builder
			for _, c := range read(t, string(text), &plan.Plan{}).Chips {
				fmt.Fprintf(&b, "%-28q %s: %s %s x%d", c.Text, c.Name, c.Kind, c.Place, c.Count)
				if c.With >= 0 {
					fmt.Fprintf(&b, " in box %d", c.With)
				}
				if len(c.Left) > 0 {
					fmt.Fprintf(&b, " left %v", c.Left)
				}
				if !c.Sure {
					b.WriteString(" guessed")
				}
				b.WriteString("\n")
			}
			fmt.Fprintf(&b, "path: %s\n", pathWords(p, made.Rig.Path))
			for _, g := range made.Gear {
				fmt.Fprintf(&b, "gear: %s, %s, colour %q", g.Name, g.Circuit, g.Colour)
				if g.Power != nil {
					fmt.Fprintf(&b, ", %g V %g mA", g.Power.Voltage, *g.Power.Current)
				}
				if g.Size != nil {
					fmt.Fprintf(&b, ", %g x %g", g.Size.Width, g.Size.Depth)
				}
				b.WriteString("\n")
			}
			for _, s := range made.Said {
				b.WriteString("said: " + s + "\n")
			}
			file := strings.TrimSuffix(file, ".txt") + ".golden"
			golden.Hold(t, file, b.String())
		})
	}
}

func TestKindsAreKnownByWhatPlayersCallThem(t *testing.T) {
	for words, kind := range map[string]string{
		"comp": "compressor", "Compresor": "compressor", "od": "mid-hump-overdrive", "mid-hump drive": "mid-hump-overdrive",
		"overdirve": "mid-hump-overdrive",
		"trem":      "tremolo", "tremelo": "tremolo", "hall reverb": "hall-reverb", "revreb": "reverb",
		"delays": "tap-delay", "tape echo tap": "tape-echo-tap",
		"one-channel combo with loop": "combo-loop", "combo": "combo-plain", "two channel head": "two-channel-head",
		"A/B box": "ab-box", "cab sim": "cab-simulator",
		"my old light drive pedal": "light-overdrive", "4x12": "closed-cabinet", "volume": "volume",
		"two humbuckers": "two-humbucker",
	} {
		chips := read(t, words, nil).Chips
		require.Len(t, chips, 1, words)
		assert.Equal(t, kind, chips[0].Kind, words)
	}
	assert.True(t, read(t, "hall reverb", nil).Chips[0].Sure)
	assert.False(t, read(t, "revreb", nil).Chips[0].Sure, "a guess is shown as one")
	assert.Equal(t, "Reverb", read(t, "revreb", nil).Chips[0].Name)
}

func TestWhatIsNotUnderstoodIsKept(t *testing.T) {
	p, made := built(t, "tuner, zorbulator mark nine, wobbly chorus > combo")
	g := made.Gear[1]
	assert.Equal(t, "Zorbulator mark nine", g.Name)
	assert.Empty(t, g.Blocks)
	assert.Contains(t, made.Said[0], "not understood")
	chips := read(t, "wobbly chorus", nil).Chips
	assert.Equal(t, []string{"wobbly"}, chips[0].Left)
	assert.Equal(t, "Wobbly chorus", chips[0].Name)
	assert.Equal(t, "Tuner Wobbly chorus Combo/preamp Combo/reverb Combo/power", pathWords(p, made.Rig.Path))
}

func TestWhatIsOwnedIsUsedByItsName(t *testing.T) {
	p, _ := built(t, "Amber = mid-hump drive, hall > combo")
	made := read(t, "amber, trem > Combo", p).Build(p, ids("later"), "Small one")
	require.Len(t, made.Gear, 1)
	assert.Equal(t, "Trem", made.Gear[0].Name)
	p.Put(made.Gear[0])
	assert.Equal(t, "Amber Trem Combo/preamp Combo/reverb Combo/power", pathWords(p, made.Rig.Path))
	other := read(t, "Amber = chorus, amber = overdrive > combo", p)
	assert.Empty(t, other.Chips[0].Gear, "it is owned as something else")
	assert.NotEmpty(t, other.Chips[1].Gear)
	assert.Equal(t, "Amber 2", other.Build(p, ids("other"), "").Gear[0].Name)
	again := read(t, "amber, amber > combo", p).Build(p, ids("new"), "")
	assert.Contains(t, again.Said, "Amber is typed twice and stands in its first place.")
}

func TestTwoCircuitsInOneBoxKeepTheirOwnSwitches(t *testing.T) {
	_, made := built(t, "Twins = boost + mid-hump drive + fuzz")
	require.Len(t, made.Gear, 1)
	g := made.Gear[0]
	assert.Equal(t, "Twins", g.Name)
	require.Len(t, g.Footswitches, 3)
	targets := map[plan.Key]bool{}
	for _, f := range g.Footswitches {
		targets[f.Press.Actions[0].Target] = true
		assert.LessOrEqual(t, f.X, g.Size.Width)
	}
	assert.Len(t, targets, 3)
	assert.Equal(t, 210.0, g.Size.Width)
	assert.Equal(t, 32.0, *g.Power.Current)
}

func TestTooMuchTextIsRefused(t *testing.T) {
	_, err := shorthand.ReadChain(strings.Repeat("a", shorthand.MaxText+1), nil)
	assert.Error(t, err)
	_, err = shorthand.ReadChain(strings.Repeat("chorus, ", 500), nil)
	assert.Error(t, err)
	for _, what := range []string{"tuner\x00", "\xff\xfetuner", "tu\x1bner"} {
		_, err = shorthand.ReadChain(what, nil)
		assert.ErrorContains(t, err, "not text", "%q", what)
		_, err = shorthand.ReadSet(what, "", "")
		assert.ErrorContains(t, err, "not text", "%q", what)
	}
}

// keptAll reports the words of a text that stand in no chip. Comments, and the numbers of empty loops, are no words.
func lostWords(text string, r *shorthand.Reading) []string {
	kept := make([]bool, len(text))
	for _, c := range r.Chips {
		for i := c.From; i < c.To; i++ {
			kept[i] = true
		}
	}
	var lost []string
	comment := false
	for i, x := range text {
		if x == '#' && (i == 0 || text[i-1] == ' ' || text[i-1] == '\t' || text[i-1] == '\n') && !kept[i] {
			comment = true
		}
		comment = comment && x != '\n'
		if !comment && !kept[i] && unicode.IsLetter(x) {
			lost = append(lost, text[i:min(len(text), i+10)])
		}
	}
	return lost
}

func FuzzReadChain(f *testing.F) {
	for _, s := range []string{
		"tuner, volume, comp, light drive + mid-hump drive (one box), chorus / tremolo, tape echo tap, hall reverb > one-channel combo with loop: looper",
		"[1 boost][2 fuzz, od][ ] > di | head: hall", "Amber = ", "a = b = c", ": [ ( > |",
		"2 x delay 9V 250mA 120x70 (note", "A/B > x | y > z", "# words\nfuzz # more",
	} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		r, err := shorthand.ReadChain(text, nil)
		if err != nil {
			return
		}
		require.Empty(t, lostWords(text, r), "%q", text)
		p := &plan.Plan{}
		made := r.Build(p, ids("new"), "")
		for _, g := range made.Gear {
			p.Put(g)
		}
		p.Put(made.Rig)
		require.Empty(t, p.Validate(), "%q", text)
	})
}

func TestControllersBelongToTheRigThoughTheyAreInNoPath(t *testing.T) {
	p, made := built(t, "tuner > head with midi > cab\nmidi controller, relay controller")
	require.Len(t, made.Rig.Floor.Places, 2)
	xs := map[float64]bool{}
	for id, at := range made.Rig.Floor.Places {
		assert.Contains(t, made.Rig.GearIn(), id)
		assert.False(t, xs[at.X], "side by side")
		xs[at.X] = true
		g, _ := p.FindGear(id)
		assert.Equal(t, plan.Controller, g.Kind)
	}
}

// A box that is given a name stands where its kind would without one.
func TestANameDoesNotMoveABox(t *testing.T) {
	for text, path := range map[string]string{
		"tuner > Tower = two channel head: Nudge = boost, Drift = tap delay > cab": "Tuner Tower/preamp Nudge Drift Tower/power Cab",
		"tuner > Tower = two channel head: boost, tap delay > cab":                 "Tuner Tower/preamp Boost Tap delay Tower/power Cab",
		"chorus / Flutter = tremolo > Pier = combo":                                "Chorus Pier/preamp Pier/reverb Pier/power",
	} {
		p, made := built(t, text)
		assert.Equal(t, path, pathWords(p, made.Rig.Path), text)
	}
}
