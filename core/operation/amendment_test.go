package operation_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/operation"
	"envex/core/plan"
)

// shore is a plan of one song that asks for one sound.
func shore() *plan.Plan {
	return &plan.Plan{
		Sounds: []plan.Sound{{ID: "home", Name: "Home", Short: "Ho", Tape: "bone", Role: plan.HomeRole}},
		Songs:  []plan.Song{song("a")},
	}
}

func TestAnEditHasOneOfOpsAddAndRemove(t *testing.T) {
	ops := []operation.Op{{Do: operation.Set, Path: key("title"), Was: "Ferry Lights", To: "Harbour Lights"}}
	for name, e := range map[string]operation.Amendment{
		"nothing":        {},
		"ops and add":    {Ops: ops, Add: song("a")},
		"ops and remove": {Ops: ops, Remove: true},
		"add and remove": {Add: song("a"), Remove: true},
		"all":            {Ops: ops, Add: song("a"), Remove: true},
	} {
		e.Kind, e.ID = plan.KindSong, "t"
		_, err := e.On(shore())
		var invalid *operation.InvalidError
		require.ErrorAs(t, err, &invalid, name)
		assert.Equal(t, "an edit has one of ops, add and remove", invalid.Message, name)
	}
	for name, e := range map[string]operation.Amendment{
		"ops": {Kind: plan.KindSong, ID: "t", Ops: ops}, "add": {Kind: plan.KindSong, ID: "t", Add: song("a")},
	} {
		put, err := e.On(shore())
		require.NoError(t, err, name)
		assert.Equal(t, plan.ID("t"), put.AggregateID(), name)
	}
	gone, err := operation.Amendment{Kind: plan.KindSong, ID: "t", Remove: true}.On(shore())
	require.NoError(t, err)
	assert.Nil(t, gone)
}

func TestAnEditIsOfWhatItNames(t *testing.T) {
	_, err := operation.Amendment{Kind: plan.KindSong, ID: "other", Add: song("a")}.On(shore())
	var problems plan.Problems
	require.ErrorAs(t, err, &problems)
	assert.Equal(t, "id", problems[0].Path)

	ops := []operation.Op{{Do: operation.Set, Path: key("title"), Was: "", To: "x"}}
	_, err = operation.Amendment{Kind: plan.KindSong, ID: "other", Ops: ops}.On(shore())
	var conflict *operation.ConflictError
	require.ErrorAs(t, err, &conflict)
	assert.Equal(t, operation.Gone, conflict.Reason)
	assert.Equal(t, "other", conflict.Path)

	_, err = operation.Amendment{Kind: plan.KindSound, ID: "t", Ops: ops}.On(shore())
	require.ErrorAs(t, err, &conflict, "a sound is no song, whatever its id")

	_, err = operation.Amendment{Kind: plan.KindSong, ID: "t", Add: map[string]any{"id": 4}}.On(shore())
	require.ErrorAs(t, err, &problems)
}

func TestEditsAreCarriedOutWholeOrNotAtAll(t *testing.T) {
	p := shore()
	title := func(was, to string) operation.Amendment {
		return operation.Amendment{Kind: plan.KindSong, ID: "t", Ops: []operation.Op{
			{Do: operation.Set, Path: key("title"), Was: was, To: to},
		}}
	}
	next, err := operation.Amend(p, []operation.Amendment{title("Ferry Lights", "One"), title("One", "Two")})
	require.NoError(t, err)
	assert.Equal(t, "Two", next.Songs[0].Title)
	assert.Equal(t, "Ferry Lights", p.Songs[0].Title, "the plan itself stays")

	_, err = operation.Amend(p, []operation.Amendment{title("Ferry Lights", "One"), title("Three", "Two")})
	require.ErrorContains(t, err, "edit 2, song t: ")

	_, err = operation.Amend(p, []operation.Amendment{{Kind: plan.KindSong, ID: "t", Add: song("a")}})
	var conflict *operation.ConflictError
	require.ErrorAs(t, err, &conflict)
	assert.Equal(t, operation.Exists, conflict.Reason)

	more := song("b")
	more.ID = "u"
	next, err = operation.Amend(p, []operation.Amendment{{Kind: plan.KindSong, ID: "u", Add: more}})
	require.NoError(t, err)
	assert.Len(t, next.Songs, 2)

	next, err = operation.Amend(next, []operation.Amendment{{Kind: plan.KindSong, ID: "t", Remove: true}})
	require.NoError(t, err)
	require.Len(t, next.Songs, 1)
	assert.Equal(t, plan.ID("u"), next.Songs[0].ID)

	_, err = operation.Amend(next, []operation.Amendment{{Kind: plan.KindSong, ID: "t", Remove: true}})
	require.NoError(t, err, "what has gone is removed already")

	_, err = operation.Amend(p, []operation.Amendment{{Kind: plan.KindSound, ID: "home", Remove: true}})
	require.ErrorContains(t, err, "edit 1: sound home is still in use: ")

	bad := song("a")
	bad.ID, bad.Tempo.BPM = "u", 4000
	_, err = operation.Amend(p, []operation.Amendment{{Kind: plan.KindSong, ID: "u", Add: bad}})
	var problems plan.Problems
	require.ErrorAs(t, err, &problems, "the plan would not be valid")
}
