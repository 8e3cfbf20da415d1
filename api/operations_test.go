package api_test

import (
	"bufio"
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/operation"
	"envex/core/plan"
)

func keys(names ...string) []operation.Step {
	steps := make([]operation.Step, len(names))
	for i, n := range names {
		steps[i] = operation.Step{Key: n}
	}
	return steps
}

func set(was, to any, path ...string) operation.Op {
	return operation.Op{Do: operation.Set, Path: keys(path...), Was: was, To: to}
}

type operations struct {
	Label string                `json:"label"`
	Edits []operation.Amendment `json:"edits"`
}

func editing(label string, kind plan.AggregateKind, id plan.ID, ops ...operation.Op) operations {
	return operations{Label: label, Edits: []operation.Amendment{{Kind: kind, ID: id, Ops: ops}}}
}

func header(name, value string) func(*http.Request) {
	return func(r *http.Request) { r.Header.Set(name, value) }
}

type conflict struct {
	Status   int    `json:"status"`
	Title    string `json:"title"`
	Detail   string `json:"detail"`
	Conflict struct {
		ID     plan.ID `json:"id"`
		Path   string  `json:"path"`
		Reason string  `json:"reason"`
		Theirs any     `json:"theirs"`
		Yours  any     `json:"yours"`
	} `json:"conflict"`
}

func (s server) song(t *testing.T, id plan.ID) plan.Song {
	t.Helper()
	for _, x := range read[api.WholePlan](t, s.send("GET", "/api/plan", nil)).Songs {
		if x.Value.ID == id {
			return x.Value
		}
	}
	require.Fail(t, "no song "+string(id))
	return plan.Song{}
}

func TestOperationsAreAppliedToTheNewestVersion(t *testing.T) {
	s := withDemo(t)
	title := s.song(t, "ferry-lights").Title
	first := read[api.Written](
		t,
		s.send(
			"POST", "/api/operations", editing("Title", plan.KindSong, "ferry-lights", set(title, "Harbour Lights", "title")),
		),
	)
	require.NotZero(t, first.Transaction)
	// This one has not seen the first, and changes something else.
	second := read[api.Written](
		t, s.send("POST", "/api/operations", editing("Tuning", plan.KindSong, "ferry-lights", set(nil, "Open G", "tuning"))),
	)
	assert.Equal(t, first.Version+1, second.Version)
	now := s.song(t, "ferry-lights")
	assert.Equal(t, [2]string{"Harbour Lights", "Open G"}, [2]string{now.Title, now.Tuning})

	w := s.send(
		"POST", "/api/operations",
		editing("Title of Ferry Lights", plan.KindSong, "ferry-lights", set(title, "Quay Lights", "title")),
	)
	require.Equal(t, http.StatusConflict, w.Code)
	assert.Equal(t, "application/problem+json", w.Header().Get("Content-Type"))
	c := read2[conflict](t, w)
	assert.Equal(
		t, `Not done: Title of Ferry Lights. It was changed elsewhere meanwhile, and is "Harbour Lights" now.`, c.Detail,
	)
	assert.Equal(
		t, [3]any{"changed", "Harbour Lights", "Quay Lights"}, [3]any{c.Conflict.Reason, c.Conflict.Theirs, c.Conflict.Yours},
	)
	assert.Equal(t, "Harbour Lights", s.song(t, "ferry-lights").Title)
}

// read2 reads the body of an answer of whatever status.
func read2[T any](t *testing.T, w *httptest.ResponseRecorder) T {
	t.Helper()
	var out T
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out), w.Body.String())
	return out
}

func TestOperationsOnSeveralThingsAreDoneWholeOrNotAtAll(t *testing.T) {
	s := withDemo(t)
	box := plan.Gear{ID: "spare", Name: "Spare", Kind: plan.Pedal}
	both := func(title string) operations {
		return operations{Label: "Two", Edits: []operation.Amendment{
			{Kind: plan.KindGear, ID: box.ID, Add: box},
			{Kind: plan.KindSong, ID: "ferry-lights", Ops: []operation.Op{set(title, "Harbour Lights", "title")}},
		}}
	}
	require.Equal(t, http.StatusConflict, s.send("POST", "/api/operations", both("Other")).Code)
	assert.Equal(t, http.StatusOK, s.send("GET", "/api/uses/spare", nil).Code)
	done := read[api.Written](t, s.send("POST", "/api/operations", both(s.song(t, "ferry-lights").Title)))
	assert.ElementsMatch(t, []plan.ID{"spare", "ferry-lights"}, done.Changed)
	require.Equal(t, http.StatusOK, s.send("POST", "/api/undo", map[string]any{}).Code)
	assert.NotEqual(t, "Harbour Lights", s.song(t, "ferry-lights").Title)

	remove := operations{Label: "Remove", Edits: []operation.Amendment{{Kind: plan.KindGear, ID: "amber", Remove: true}}}
	assert.Equal(t, http.StatusConflict, s.send("POST", "/api/operations", remove).Code, "it is in use")
}

func TestOperationsThatAreNoneAreNamedByTheirPath(t *testing.T) {
	s := withDemo(t)
	for want, body := range map[string]operations{
		"body.edits[0].ops[0]: there is no act": editing(
			"x", plan.KindSong, "ferry-lights", operation.Op{Do: operation.Set, Path: []operation.Step{}},
		),
		"body.edits[0].value.colour: ": editing(
			"x", plan.KindSong, "ferry-lights", set(nil, "red", "colour"),
		),
		"body.edits[0].value.tempo.bpm: ": editing(
			"x", plan.KindSong, "ferry-lights", set(104, 9000, "tempo", "bpm"),
		),
		"body.edits[0].ops[0]: an edit has one of": {
			Label: "x", Edits: []operation.Amendment{{Kind: plan.KindSong, ID: "ferry-lights"}},
		},
		"body.edits[0].value.id: the id is not": {
			Label: "x",
			Edits: []operation.Amendment{{Kind: plan.KindGear, ID: "y", Add: plan.Gear{ID: "z", Name: "Z", Kind: plan.Pedal}}},
		},
		"body.edits[0].value.sections[0].sound: there is no sound": editing(
			"x", plan.KindSong, "ferry-lights",
			operation.Op{
				Do: operation.Set,
				Path: []operation.Step{
					{Key: "sections"}, {Match: map[string]any{"id": string(s.song(t, "ferry-lights").Sections[0].ID)}}, {Key: "sound"},
				},
				Was: string(s.song(t, "ferry-lights").Sections[0].Sound), To: "nowhere",
			},
		),
	} {
		p := refused(t, s.send("POST", "/api/operations", body), http.StatusUnprocessableEntity)
		require.NotEmpty(t, p.Errors)
		where, words, _ := strings.Cut(want, ": ")
		if strings.Contains(want, "no act") {
			words = "set needs a path"
		}
		assert.Equal(t, where, p.Errors[0].Location)
		assert.Contains(t, p.Errors[0].Message, words)
	}
	gone := s.send("POST", "/api/operations", editing("Title", plan.KindSong, "nowhere", set("a", "b", "title")))
	require.Equal(t, http.StatusConflict, gone.Code)
	assert.Contains(t, read2[conflict](t, gone).Detail, "was removed elsewhere meanwhile")
}

func TestAWriteThatChangesNothingIsNoTransaction(t *testing.T) {
	s := withDemo(t)
	title := s.song(t, "ferry-lights").Title
	before := read[struct{ Transactions []any }](t, s.send("GET", "/api/history", nil)).Transactions
	done := read[api.Written](
		t, s.send("POST", "/api/operations", editing("Title", plan.KindSong, "ferry-lights", set("Other", title, "title"))),
	)
	assert.Zero(t, done.Transaction)
	assert.Len(t, read[struct{ Transactions []any }](t, s.send("GET", "/api/history", nil)).Transactions, len(before))
}

func TestAnAnswerCarriesWhatIsNewSinceWhatTheRequestKnew(t *testing.T) {
	s := withDemo(t)
	known := read[api.WholePlan](t, s.send("GET", "/api/plan", nil))
	require.False(t, known.Partial)
	s.send("POST", "/api/operations", editing("Notes", plan.KindSong, "tin-cabana", set(nil, "loud", "notes")))
	w := s.send(
		"POST", "/api/operations", editing("Tuning", plan.KindSong, "ferry-lights", set(nil, "Open G", "tuning")),
		header("Envex-Since", known.At),
	)
	news := read[api.Written](t, w).Plan
	require.NotNil(t, news)
	assert.True(t, news.Partial)
	assert.Empty(t, news.Gear)
	assert.Empty(t, news.Keys)
	require.Len(t, news.Songs, 2, "what others wrote comes along")
	assert.Equal(t, "Tuning", news.Undo.Label)
	require.NotNil(t, news.Order)
	assert.Len(t, news.Order.Gear, len(known.Gear))

	box := plan.Gear{
		ID: "spare", Name: "Spare", Kind: plan.Pedal,
		Controls: []plan.Control{{ID: "tone", Name: "tone", Kind: plan.Knob, Access: plan.SlowHand}},
	}
	add := operations{Label: "Add", Edits: []operation.Amendment{{Kind: plan.KindGear, ID: "spare", Add: box}}}
	news = read[api.Written](t, s.send("POST", "/api/operations", add, header("Envex-Since", news.At))).Plan
	require.Len(t, news.Gear, 1)
	require.Len(t, news.Keys, 1)
	assert.Equal(t, plan.Key("spare/tone"), news.Keys[0].Key)
	at := news.At
	require.Equal(t, http.StatusOK, s.send("POST", "/api/undo", map[string]any{}).Code)
	news = read2[*api.WholePlan](t, s.send("GET", "/api/plan?since="+at, nil))
	assert.NotContains(t, news.Order.Gear, plan.ID("spare"))
	assert.Equal(t, "Add", news.Redo.Label)

	whole := read[api.WholePlan](t, s.send("GET", "/api/plan?since=another.7", nil))
	assert.False(t, whole.Partial, "a state of another server says nothing here")
	assert.Equal(t, whole.At, s.send("GET", "/api/order?rig=long", nil).Header().Get("Envex-Plan"))
}

func TestWhatWasWorkedOutFromAnOlderPlanIsRefusedWithTheReason(t *testing.T) {
	s := withDemo(t)
	from := s.send("GET", "/api/order?rig=long", nil).Header().Get("Envex-Plan")
	take := func() *httptest.ResponseRecorder {
		return s.send(
			"POST", "/api/operations", editing("Take", plan.KindRig, "long", set("Long board", "Longer board", "name")),
			header("Envex-Computed-From", from),
		)
	}
	// A show is only written down, and gear of another rig is not in it.
	s.send("POST", "/api/operations", editing("Notes", plan.KindShow, "quay-12", set(nil, "x", "after")))
	s.send(
		"POST", "/api/operations",
		operations{
			Label: "Add",
			Edits: []operation.Amendment{
				{Kind: plan.KindGear, ID: "spare", Add: plan.Gear{ID: "spare", Name: "Spare", Kind: plan.Pedal}},
			},
		},
	)
	require.Equal(t, http.StatusOK, take().Code)

	for what, edit := range map[string]operations{
		"Long board": editing("x", plan.KindRig, "long", set("Longer board", "Long board", "name")),
		"Amber":      editing("x", plan.KindGear, "amber", set(nil, "x", "notes")),
		"Tin Cabana": editing("x", plan.KindSong, "tin-cabana", set(nil, "x", "notes")),
	} {
		from = s.send("GET", "/api/order?rig=long", nil).Header().Get("Envex-Plan")
		require.Equal(t, http.StatusOK, s.send("POST", "/api/operations", edit).Code, what)
		p := refused(t, take(), http.StatusConflict)
		assert.Equal(t, what+" has changed since this was worked out: look again.", p.Detail)
	}
	from = "another.3"
	assert.Contains(t, refused(t, take(), http.StatusConflict).Detail, "before Envex was started anew")
}

func TestARepairIsCarriedOutOnceHoweverOftenItIsTaken(t *testing.T) {
	s := withDemo(t)
	places := map[plan.ID]plan.Placement{"echo": {X: 630, Y: 0}}
	body := map[string]any{
		"rig": "long", "label": "Echo nearer",
		"edits": []any{map[string]any{"kind": "place", "words": "Echo nearer", "places": places}},
	}
	from := s.send("GET", "/api/reach?rig=long&set_list=quay-set", nil).Header().Get("Envex-Plan")
	require.Equal(t, http.StatusOK, s.send("POST", "/api/edits", body, header("Envex-Computed-From", from)).Code)
	assert.Contains(
		t, refused(t, s.send("POST", "/api/edits", body, header("Envex-Computed-From", from)), http.StatusConflict).Detail,
		"Long board has changed",
	)
	assert.Contains(t, refused(t, s.send("POST", "/api/edits", body), http.StatusConflict).Detail, "that way already")
}

// Many hands on one song at once: every edit of a field of its own is there in the end.
func TestHandsOnDifferentFieldsAllHoldConcurrent(t *testing.T) {
	s := withDemo(t)
	sections := s.song(t, "ferry-lights").Sections
	var group sync.WaitGroup
	for _, x := range sections {
		group.Go(func() {
			path := []operation.Step{{Key: "sections"}, {Match: map[string]any{"id": string(x.ID)}}, {Key: "label"}}
			w := s.send(
				"POST", "/api/operations",
				editing(
					"Label", plan.KindSong, "ferry-lights",
					operation.Op{Do: operation.Set, Path: path, Was: x.Label, To: x.Label + "!"},
				),
			)
			assert.Equal(t, http.StatusOK, w.Code, w.Body.String())
		})
	}
	group.Wait()
	for i, x := range s.song(t, "ferry-lights").Sections {
		assert.Equal(t, sections[i].Label+"!", x.Label)
	}
}

func TestPagesHearOfWrites(t *testing.T) {
	s := withDemo(t)
	web := httptest.NewServer(s)
	defer web.Close()
	ctx, stop := context.WithTimeout(t.Context(), 20*time.Second)
	defer stop()
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, web.URL+"/api/events", nil)
	require.NoError(t, err)
	w, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	defer w.Body.Close()
	assert.Equal(t, "text/event-stream", w.Header.Get("Content-Type"))
	lines := bufio.NewScanner(w.Body)
	next := func() string {
		for lines.Scan() {
			if at, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				return at
			}
		}
		require.NoError(t, lines.Err())
		return ""
	}
	first := next()
	assert.Equal(t, read[api.WholePlan](t, s.send("GET", "/api/plan", nil)).At, first)
	done := read[api.Written](
		t,
		s.send(
			"POST", "/api/operations", editing("Tuning", plan.KindSong, "ferry-lights", set(nil, "Open G", "tuning")),
			header("Envex-Since", first),
		),
	)
	assert.Equal(t, done.Plan.At, next())
	require.Equal(t, http.StatusOK, s.send("POST", "/api/undo", map[string]any{}).Code)
	assert.NotEqual(t, done.Plan.At, next())
}
