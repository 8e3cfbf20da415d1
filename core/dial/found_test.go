package dial_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/dial"
	"envex/core/plan"
)

func TestWhatWasFoundGoodIsFoundAgain(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	now := dial.Positions(p, r)
	assert.Contains(t, now, plan.Key("pier/preamp/gain"))
	assert.Contains(t, now, plan.Key("driftwood/volume"), "the guitar's own knobs count")
	assert.NotContains(t, now, plan.Key("amber/fx/on"))

	r.Dialled = []plan.Dialled{{ID: "loft", Name: "Net loft, door shut", Date: "2027-05-02", Values: now}}
	require.Empty(t, p.Validate())
	found, err := dial.FoundOn(p, "long", "")
	require.NoError(t, err)
	require.Len(t, found.Sets, 1)
	assert.Empty(t, found.Sets[0].Moved)
	assert.Equal(t, len(now), found.Sets[0].Same)
	assert.Zero(t, found.Sets[0].Gone+found.Sets[0].Unnoted)

	before := *r
	before.Base = map[plan.Key]plan.Value{}
	for key, v := range r.Base {
		before.Base[key] = v
	}
	r.Base["pier/preamp/gain"] = plan.Number(9)
	r.Base["amber/fx/drive"] = plan.Number(4.5)
	found, err = dial.FoundOn(p, "long", "")
	require.NoError(t, err)
	require.Len(t, found.Sets[0].Moved, 2)
	assert.Equal(t, plan.Key("pier/preamp/gain"), found.Sets[0].Moved[0].Key, "the furthest first")
	assert.Equal(t, 9.0, found.Sets[0].Moved[0].Now)
	back, err := dial.Back(p, "long", "", "loft")
	require.NoError(t, err)
	assert.Equal(t, dial.Positions(p, &before), dial.Positions(p, &back))
	_, err = dial.Back(p, "long", "", "attic")
	assert.ErrorContains(t, err, "nothing was kept")

	// A box that is gone says nothing, and does not stand in the way.
	r.Dialled[0].Values["gone/fx/drive"] = plan.Number(3)
	require.Empty(t, p.Validate())
	found, err = dial.FoundOn(p, "long", "")
	require.NoError(t, err)
	assert.Equal(t, 1, found.Sets[0].Gone)
	_, err = dial.FoundOn(p, "none", "")
	assert.Error(t, err)
}

// What was dialled on amps of a family is where one starts on another of it.
func TestAnUnknownAmpStartsWhereItsFamilyStood(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	r.Dialled = []plan.Dialled{
		{
			ID:     "a",
			Name:   "A",
			Values: map[plan.Key]plan.Value{"pier/preamp/gain": plan.Number(4), "amber/fx/drive": plan.Number(9)},
		},
		{ID: "b", Name: "B", Values: map[plan.Key]plan.Value{"pier/preamp/gain": plan.Number(6.5)}},
		{ID: "c", Name: "C", Values: map[plan.Key]plan.Value{"amber/fx/drive": plan.Number(5)}},
	}
	pier, _ := p.FindGear("pier")
	hired := *pier
	hired.ID, hired.Name = "quayside", "Quayside combo"
	p.Put(hired)
	found, err := dial.FoundOn(p, "bare", "")
	require.NoError(t, err)
	require.Len(t, found.Amps, 1)
	a := found.Amps[0]
	assert.Equal(t, 2, a.Sets, "one is of no amp")
	require.Len(t, a.Knobs, 1, "a drive pedal is no amp")
	assert.Equal(
		t,
		dial.Averaged{Key: "pier/preamp/gain", Name: "Pier combo preamp gain", Mean: 5.3, Low: 4, High: 6.5},
		a.Knobs[0],
	)
	next, err := dial.Start(p, "bare", "", "pier")
	require.NoError(t, err)
	assert.Equal(t, plan.Number(5.3), next.Base["pier/preamp/gain"])
	next, err = dial.Start(p, "bare", "", "quayside")
	require.NoError(t, err)
	assert.NotContains(t, next.Base, plan.Key("quayside/preamp/gain"), "it is not in this rig")
	_, err = dial.Start(p, "bare", "", "amber")
	assert.ErrorContains(t, err, "nothing was kept of an amp like Amber")
	_, err = dial.Start(p, "bare", "", "none")
	assert.Error(t, err)
}

func TestWhatIsWrongWithWhatWasKeptIsSaid(t *testing.T) {
	for path, change := range map[string]func(*plan.Dialled){
		"rigs[0].dialled[0].name":                     func(d *plan.Dialled) { d.Name = "" },
		"rigs[0].dialled[0].date":                     func(d *plan.Dialled) { d.Date = "May" },
		`rigs[0].dialled[0].values["amber/fx/on"]`:    func(d *plan.Dialled) { d.Values["amber/fx/on"] = plan.On(true) },
		`rigs[0].dialled[0].values["amber/fx/drive"]`: func(d *plan.Dialled) { d.Values["amber/fx/drive"] = plan.Number(12) },
	} {
		p := small(t)
		d := plan.Dialled{ID: "a", Name: "A", Values: map[plan.Key]plan.Value{}}
		change(&d)
		p.Rigs[0].Dialled = []plan.Dialled{d}
		problems := p.Validate()
		require.Len(t, problems, 1, path)
		assert.Equal(t, path, problems[0].Path)
	}
}

// At a destination what stands there is compared and set, and the rig elsewhere stays as it is.
func TestFoundAgainAtADestination(t *testing.T) {
	p := night(t)
	r, _ := p.FindRig("long")
	at := slices.IndexFunc(r.Destinations, func(d plan.Destination) bool { return d.Amp == "hired" })
	require.GreaterOrEqual(t, at, 0)
	there := r.Destinations[at].ID
	r.Dialled = []plan.Dialled{
		{
			ID:     "a",
			Name:   "A",
			Values: map[plan.Key]plan.Value{"hired/preamp/drive": plan.Number(1.5), "pier/preamp/gain": plan.Number(2)},
		},
	}
	found, err := dial.FoundOn(p, "long", there)
	require.NoError(t, err)
	assert.Equal(t, 1, found.Sets[0].Gone, "its own amp stays at home")
	require.Len(t, found.Amps, 1)
	assert.Equal(t, plan.ID("hired"), found.Amps[0].Amp)
	for _, next := range []func() (plan.Rig, error){
		func() (plan.Rig, error) { return dial.Back(p, "long", there, "a") },
		func() (plan.Rig, error) { return dial.Start(p, "long", there, "hired") },
	} {
		got, err := next()
		require.NoError(t, err)
		assert.Equal(t, plan.Number(1.5), got.Destinations[at].Base["hired/preamp/drive"])
		assert.Equal(t, r.Base, got.Base)
	}
	_, err = dial.FoundOn(p, "long", "nowhere")
	assert.Error(t, err)
}
