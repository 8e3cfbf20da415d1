package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
)

// twoPlayers is the demo with a second player, on the carry-on board, who plays Crunch in the first section of the first song.
func twoPlayers(t *testing.T) *plan.Plan {
	t.Helper()
	p := demo.Plan()
	second := plan.PartOf{Band: p.Bands[0].ID, Part: p.Bands[0].Parts[0].ID}
	r, _ := p.FindRig("carry")
	r.Player = &second
	p.Songs[0].Sections[0].Others = []plan.OtherPlayer{{PartOf: second, Sound: "crunch", Singing: true}}
	s, _ := p.FindShow("quay-12")
	s.Others = []plan.ShowRig{{Rig: "carry"}}
	require.Empty(t, p.Validate())
	return p
}

func TestEachPlayerHasTheSoundsOfTheirOwn(t *testing.T) {
	p := twoPlayers(t)
	own, _ := p.FindRig("long")
	assert.Same(t, p, p.PlayedBy(own), "songs name the sounds of this one")
	there, err := p.At("carry", "")
	require.NoError(t, err)
	assert.Equal(t, plan.ID("crunch"), there.Songs[0].Sections[0].Sound)
	assert.True(t, there.Songs[0].Sections[0].Singing)
	assert.Equal(
		t,
		p.Songs[0].Sections[1].Sound,
		there.Songs[0].Sections[1].Sound,
		"where nothing is said it is that of the song",
	)
	assert.Equal(t, plan.ID("home"), p.Songs[0].Sections[0].Sound, "the plan stays")
	again, err := there.At("carry", "")
	require.NoError(t, err)
	assert.Equal(t, there.Songs, again.Songs)
	r, _ := p.FindRig("carry")
	assert.Equal(t, p.Bands[0].Parts[0].Name, p.Player(r))
	assert.Empty(t, p.Player(own))
}

func TestAShowIsAsEachOfItsRigsPlaysIt(t *testing.T) {
	p := twoPlayers(t)
	s, _ := p.FindShow("quay-12")
	assert.Equal(t, []plan.ID{"long", "carry"}, s.Rigs())
	on := s.On("carry")
	assert.Equal(t, []plan.ID{"carry", "long"}, on.Rigs())
	assert.Equal(t, s.Destination, on.Others[0].Destination)
	assert.Same(t, s, s.On("long"))
	q, err := p.ShowOn("quay-12", "carry")
	require.NoError(t, err)
	x, _ := q.FindShow("quay-12")
	assert.Equal(t, plan.ID("carry"), x.Rig)
	was, _ := p.FindShow("quay-12")
	assert.Equal(t, plan.ID("long"), was.Rig)
	_, err = p.ShowOn("nope", "carry")
	require.Error(t, err)
	_, err = p.ShowOn("quay-12", "nope")
	require.Error(t, err)
}

func TestWhatIsWrongWithPlayersIsSaid(t *testing.T) {
	for want, spoil := range map[string]func(p *plan.Plan){
		`there is no band "nope"`:                 func(p *plan.Plan) { p.Songs[0].Sections[0].Others[0].Band = "nope" },
		`has no part "nope"`:                      func(p *plan.Plan) { p.Songs[0].Sections[0].Others[0].Part = "nope" },
		`there is no sound "nope"`:                func(p *plan.Plan) { p.Songs[0].Sections[0].Others[0].Sound = "nope" },
		`there is no recipe "nope" of that sound`: func(p *plan.Plan) { p.Songs[0].Sections[0].Others[0].Recipe = "nope" },
		"one player plays one sound in a section": func(p *plan.Plan) {
			s := &p.Songs[0].Sections[0]
			s.Others = append(s.Others, s.Others[0])
		},
		`there is no rig "nope"`:            func(p *plan.Plan) { p.Shows[0].Others = []plan.ShowRig{{Rig: "nope"}} },
		"Long board is at the show already": func(p *plan.Plan) { p.Shows[0].Others = []plan.ShowRig{{Rig: p.Shows[0].Rig}} },
		`has no destination "nope"`: func(p *plan.Plan) {
			p.Shows[0].Others = []plan.ShowRig{{Rig: "carry", Destination: "nope"}}
		},
	} {
		p := twoPlayers(t)
		spoil(p)
		assert.Contains(t, p.Validate().Error(), want)
	}
}

func TestABandGoesWhereItsPlayersGo(t *testing.T) {
	p := twoPlayers(t)
	bundle, err := p.Bundle("quay-12")
	require.NoError(t, err)
	require.Empty(t, bundle.Validate())
	_, ok := bundle.FindRig("carry")
	assert.True(t, ok)
	assert.NotEmpty(t, bundle.Bands)
}
