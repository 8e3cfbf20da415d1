package operation_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/operation"
	"envex/core/plan"
)

func key(names ...string) []operation.Step {
	steps := make([]operation.Step, len(names))
	for i, n := range names {
		steps[i] = operation.Step{Key: n}
	}
	return steps
}

func match(id string) map[string]any { return map[string]any{"id": id} }

func section(id, field string) []operation.Step {
	return []operation.Step{{Key: "sections"}, {Match: match(id)}, {Key: field}}
}

func song(ids ...string) plan.Song {
	s := plan.Song{
		ID: "t", Title: "Ferry Lights", Tempo: plan.Tempo{BPM: 104}, Meter: plan.Meter{Beats: 4, Unit: 4},
		Sections: []plan.Section{},
	}
	for _, id := range ids {
		s.Sections = append(s.Sections, plan.Section{ID: plan.ID(id), Label: "label " + id, Sound: "home"})
	}
	return s
}

func TestAnEditIsAppliedToWhateverVersionIsThere(t *testing.T) {
	seen := song("a", "b")
	now := song("x", "a", "b")
	now.Title = "Harbour Lights"
	next, err := operation.Apply(
		now, []operation.Op{{Do: operation.Set, Path: section("b", "label"), Was: seen.Sections[1].Label, To: "Out"}},
	)
	require.NoError(t, err)
	got := next.(plan.Song)
	assert.Equal(t, "Out", got.Sections[2].Label)
	assert.Equal(t, "Harbour Lights", got.Title)
	assert.Equal(t, "label b", now.Sections[2].Label, "the version it was given stays")
}

func TestAConflictGivesBothValuesAndSaysWhere(t *testing.T) {
	_, err := operation.Apply(song("a"), []operation.Op{
		{Do: operation.Set, Path: key("capo"), To: 2.0},
		{Do: operation.Set, Path: section("a", "label"), Was: "Verse", To: "Chorus"},
	})
	var conflict *operation.ConflictError
	require.ErrorAs(t, err, &conflict)
	assert.Equal(
		t,
		operation.ConflictError{
			Op: 1, Path: "sections.a.label", Reason: operation.Changed, Theirs: "label a", Yours: "Chorus",
		},
		*conflict,
	)
	assert.Equal(t, "sections.a.label was changed meanwhile", conflict.Error())
}

func TestAResultThatIsNoAggregateIsRefusedByPath(t *testing.T) {
	_, err := operation.Apply(song("a"), []operation.Op{{Do: operation.Set, Path: section("a", "colour"), To: "red"}})
	var problems plan.Problems
	require.ErrorAs(t, err, &problems)
	assert.Equal(t, "sections[0].colour", problems[0].Path)
	_, err = operation.Apply(song("a"), []operation.Op{{Do: operation.Set, Path: key("id"), Was: "t", To: "u"}})
	require.ErrorContains(t, err, "an id never changes")
}

// edits draws an operation on a song with the sections that are named, and what of the song it touches.
func edits(t *rapid.T, name string, s plan.Song, fresh string) ([]operation.Op, string) {
	pick := func() plan.Section { return rapid.SampledFrom(s.Sections).Draw(t, name+" section") }
	switch rapid.SampledFrom([]string{"title", "label", "bars", "remove", "insert", "move"}).Draw(t, name) {
	case "title":
		return []operation.Op{
			{
				Do: operation.Set, Path: key("title"), Was: s.Title,
				To: rapid.StringMatching(`[A-Z][a-z]{1,8}`).Draw(t, name+" title"),
			},
		}, "title"
	case "label":
		x := pick()
		return []operation.Op{
			{
				Do: operation.Set, Path: section(string(x.ID), "label"), Was: x.Label,
				To: rapid.StringMatching(`[A-Z][a-z]{1,8}`).Draw(t, name+" label"),
			},
		}, "label " + string(x.ID)
	case "bars":
		x := pick()
		return []operation.Op{
			{Do: operation.Set, Path: section(string(x.ID), "bars"), To: rapid.Float64Range(1, 32).Draw(t, name+" bars")},
		}, "bars " + string(x.ID)
	case "remove":
		x := pick()
		was := map[string]any{"id": string(x.ID), "label": x.Label, "sound": string(x.Sound)}
		return []operation.Op{
			{Do: operation.Remove, Path: key("sections"), Element: match(string(x.ID)), Was: was},
		}, "all of " + string(x.ID)
	case "insert":
		at := rapid.IntRange(0, len(s.Sections)).Draw(t, name+" at")
		op := operation.Op{
			Do: operation.Insert, Path: key("sections"), Element: match(fresh),
			Value: map[string]any{"id": fresh, "label": "new", "sound": "home"},
		}
		op.After, op.Before = neighbours(s.Sections, at)
		return []operation.Op{op}, fmt.Sprint("place ", at)
	}
	from := rapid.IntRange(0, len(s.Sections)-1).Draw(t, name+" from")
	rest := append(append([]plan.Section{}, s.Sections[:from]...), s.Sections[from+1:]...)
	to := rapid.IntRange(0, len(rest)).Draw(t, name+" to")
	op := operation.Op{
		Do: operation.Move, Path: key("sections"), Element: match(string(s.Sections[from].ID)), From: &operation.Place{},
	}
	op.From.After, op.From.Before = neighbours(rest, from)
	op.After, op.Before = neighbours(rest, to)
	return []operation.Op{op}, "order"
}

func neighbours(list []plan.Section, at int) (after, before any) {
	if at > 0 {
		after = match(string(list[at-1].ID))
	}
	if at < len(list) {
		before = match(string(list[at].ID))
	}
	return after, before
}

// independent says of two touched things that neither is about the other.
func independent(a, b string) bool {
	if a == b {
		return false
	}
	about := func(s string) (what, id string) {
		n, err := fmt.Sscan(s, &what, &id)
		if n == 1 && err != nil {
			return what, ""
		}
		return what, id
	}
	whatA, idA := about(a)
	whatB, idB := about(b)
	structural := func(w string) bool { return w == "order" || w == "place" || w == "all" }
	if structural(whatA) && structural(whatB) {
		return false // both are about the list itself
	}
	if whatA == "all" || whatB == "all" {
		last := func(s string) string { return s[len(s)-1:] }
		return whatA == "title" || whatB == "title" || last(a) != last(b)
	}
	return idA != idB || whatA != whatB
}

func TestIndependentOperationsCommute(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := song("a", "b", "c", "d", "e")
		x, aboutX := edits(t, "x", s, "n1")
		y, aboutY := edits(t, "y", s, "n2")
		if !independent(aboutX, aboutY) {
			t.Skip()
		}
		xy, err := both(s, x, y)
		require.NoError(t, err)
		yx, err := both(s, y, x)
		require.NoError(t, err)
		require.Equal(t, xy, yx, "%s and %s", aboutX, aboutY)
	})
}

func both(s plan.Song, x, y []operation.Op) (plan.Aggregate, error) {
	one, err := operation.Apply(s, x)
	if err != nil {
		return nil, err
	}
	return operation.Apply(one, y)
}

// The one that comes second to the same thing is refused, or both asked for the same: it never wins in
// silence over a value that its hand has not seen.
func TestTwoHandsOnTheSameThingNeverOverwriteEachOther(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := song("a", "b", "c")
		path, was := key("title"), any(s.Title)
		if id := rapid.SampledFrom([]string{"", "a", "b", "c"}).Draw(t, "section"); id != "" {
			path, was = section(id, "label"), "label "+id
		}
		to := func(hand string) []operation.Op {
			return []operation.Op{{Do: operation.Set, Path: path, Was: was, To: rapid.StringMatching(`[A-C]`).Draw(t, hand)}}
		}
		x, y := to("x"), to("y")
		one, err := operation.Apply(s, x)
		require.NoError(t, err)
		after, err := operation.Apply(one, y)
		if err == nil {
			require.Equal(t, one, after)
			return
		}
		var conflict *operation.ConflictError
		require.ErrorAs(t, err, &conflict)
		require.Equal(t, operation.Changed, conflict.Reason)
		require.Equal(t, x[0].To, conflict.Theirs)
		require.Equal(t, y[0].To, conflict.Yours)
	})
}

func TestApplyingTwiceIsApplyingOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := song("a", "b", "c", "d")
		x, _ := edits(t, "x", s, "n1")
		one, err := operation.Apply(s, x)
		require.NoError(t, err)
		two, err := operation.Apply(one, x)
		require.NoError(t, err)
		require.Equal(t, one, two)
	})
}

func FuzzApply(f *testing.F) {
	f.Add(`[{"do":"set","path":[{"key":"title"}],"was":"Ferry Lights","to":"x"}]`)
	f.Add(`[{"do":"move","path":[{"key":"sections"}],"element":{"id":"a"},"after":{"id":"b"}}]`)
	f.Add(`[{"do":"insert","path":[{"key":"sections"},{"place":0,"of":2},{"key":"x"}],"value":[]}]`)
	f.Add(`[{"do":"remove","path":[],"element":0}]`)
	f.Fuzz(func(t *testing.T, text string) {
		var ops []operation.Op
		if json.Unmarshal([]byte(text), &ops) != nil {
			return
		}
		s := song("a", "b")
		next, err := operation.Apply(s, ops)
		if err == nil && next.AggregateID() != s.ID {
			t.Fatalf("the id became %s", next.AggregateID())
		}
		assert.Equal(t, song("a", "b"), s)
	})
}
