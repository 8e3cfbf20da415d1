package page

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"envex/core/paper"
	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
)

func TestHowAChangeTurnsOutHasItsOwnMark(t *testing.T) {
	p := demo.Plan()
	for name, x := range map[string]struct {
		change        reach.Change
		mark, trouble string
	}{
		"in time": {reach.Change{Verdict: reach.InTime, SlackS: 2}, "", ""},
		"by hand": {reach.Change{Verdict: reach.ByHand}, "", ""},
		"tight":   {reach.Change{Verdict: reach.Tight, SlackS: 0.123}, "◇", "Tight: 0.12 s in hand"},
		"late":    {reach.Change{Verdict: reach.Late, SlackS: -0.304}, "▲", "Late by 0.30 s"},
		"impossible": {
			reach.Change{Verdict: reach.Impossible, Reason: "No switch takes Rotor to on."}, "⊗",
			"Cannot be made: No switch takes Rotor to on.",
		},
	} {
		t.Run(name, func(t *testing.T) {
			var s step
			s.came(p, x.change)
			assert.Equal(t, x.mark, s.Mark)
			assert.Equal(t, x.trouble, s.Trouble)
		})
	}
	var s step
	s.came(
		p,
		reach.Change{
			Hands:   []reach.Hand{{Action: "Driftwood pickup to bridge"}, {Action: "Guitar to Bulkhead"}},
			Presses: []reach.Press{{Switch: "echo/p", Act: "hold Echo preset: Echo preset C", Gesture: "hold"}},
		},
	)
	assert.Equal(t, []string{"Driftwood pickup to bridge", "Guitar to Bulkhead"}, s.Hands)
	assert.Equal(t, []string{"hold Echo preset: Echo preset C"}, s.Presses)
}

func TestTheStepsAreTheNightInOrder(t *testing.T) {
	p := demo.Plan()
	steps, songs, err := stepsOf(p, &p.Shows[0])
	require.NoError(t, err)
	l, _ := p.FindSetList("quay-set")
	require.Len(t, songs, len(l.Entries))
	at := 0
	for i, e := range l.Entries {
		song, _ := p.FindSong(e.Song)
		assert.Equal(t, at+1, songs[i].Number, "the list of songs leads to the first section of each")
		for k, sec := range song.Sections {
			s := steps[at]
			assert.Equal(t, at+1, s.Number)
			assert.Equal(t, song.Title, s.Song)
			assert.Equal(t, sec.Label, s.Section)
			sound, _ := p.FindSound(sec.Sound)
			assert.Equal(t, []string{sound.Name, sound.Short, sound.Tape}, []string{s.Sound, s.Short, s.Tape})
			assert.Equal(t, sec.Singing, s.Singing)
			if sec.Bars == nil {
				assert.Equal(t, "open", s.Bars)
			}
			last := k == len(song.Sections)-1
			assert.Equal(t, last && i < len(l.Entries)-1, s.NextSong)
			if at > 0 {
				assert.True(
					t,
					strings.HasPrefix(steps[at-1].Next, sec.Label) || strings.HasPrefix(steps[at-1].Next, song.Title+", "+sec.Label),
					steps[at-1].Next,
				)
			}
			at++
		}
	}
	assert.Empty(t, steps[at-1].Next)
	assert.Empty(t, steps[0].Presses, "the first sound of the night is set up before it")
}

func TestADestinationsNightIsPlayedOnWhatStandsThere(t *testing.T) {
	p := demo.Plan()
	_, text := parsed(t, must(Gig(p, "pilot-19"))(t))
	assert.Contains(t, text, "Hired head preamp channel", "its own footswitch")
	_, own := parsed(t, must(Gig(p, "quay-12"))(t))
	assert.NotContains(t, own, "Hired head preamp channel")
	assert.Contains(t, text, "The pilots' yard")
}

// With no script the page is the whole set, one section under the other, and every control has a name.
func TestThePageIsReadableWithoutItsScript(t *testing.T) {
	root, err := html.Parse(strings.NewReader(string(must(Gig(demo.Plan(), "quay-12"))(t))))
	require.NoError(t, err)
	for n := range root.Descendants() {
		if n.Type != html.ElementNode {
			continue
		}
		attributes := map[string]string{}
		for _, a := range n.Attr {
			attributes[a.Key] = a.Val
		}
		switch n.Data {
		case "section", "main", "nav", "article", "table":
			if n.Parent.Data != "div" && n.Data != "section" || attributes["class"] == "step" {
				assert.NotEmpty(t, attributes["aria-label"], "%s is named", n.Data)
			}
		case "button":
			require.NotNil(t, n.FirstChild)
			assert.NotEmpty(t, strings.TrimSpace(n.FirstChild.Data))
			assert.Equal(t, "button", attributes["type"])
		case "select":
			assert.Equal(t, "songs", attributes["id"], "its label is for it")
		case "link", "img", "iframe", "object", "form":
			assert.Fail(t, "the page stands alone", n.Data)
		}
		_, hidden := attributes["hidden"]
		assert.True(t, !hidden || attributes["id"] == "sleepy", "nothing that is to be read is hidden")
	}
}

func TestATapeNobodyKnowsIsBone(t *testing.T) {
	assert.Equal(t, colour("bone"), colour("crimson"))
	assert.NotEqual(t, colour("bone"), colour("sky"))
	for _, name := range plan.Tapes() {
		assert.Regexp(t, `^#[0-9a-f]{6}$`, string(colour(name)))
	}
}

func TestAShowsPickStandsOnEverythingThatGoesToTheGig(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("carry")
	r.Swaps = []plan.Swap{{ID: "slot", Name: "Colour", Boxes: []plan.SwapBox{{Gear: "slap"}, {Gear: "flutter"}}}}
	s, _ := p.FindShow("deck-13")
	s.Picks = []plan.Pick{{Swap: "slot", Gear: "flutter"}}
	require.Empty(t, p.Validate())
	gig, err := Gig(p, "deck-13")
	require.NoError(t, err)
	assert.Contains(t, string(gig), "Flutter")
	assert.NotContains(t, string(gig), "Slap")
	for _, kind := range []paper.Kind{paper.PatchList, paper.FloorSheet} {
		drawn, err := Drawing(p, "deck-13", kind)
		require.NoError(t, err)
		assert.Contains(t, string(drawn), "Flutter", kind)
		assert.NotContains(t, string(drawn), "Slap", kind)
	}
}
