package api_test

import (
	"encoding/json"
	"math"
	"net/http"
	"net/url"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/plan"
	"envex/core/signal"
	"envex/core/wav"
)

// renders skips what renders much where the run is to be short, as under the race detector.
func renders(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("rendering takes too long here")
	}
}

func tone(t *testing.T, amplitude float64, seconds int) []byte {
	t.Helper()
	x := make([]float64, seconds*wav.Rate)
	for i := range x {
		x[i] = amplitude * math.Sin(2*math.Pi*220*float64(i)/wav.Rate)
	}
	data, err := wav.Encode(x)
	require.NoError(t, err)
	return data
}

func asWAV(r *http.Request) { r.Header.Set("Content-Type", "audio/wav") }

// bring brings a recording and gives its id.
func (s server) bring(data []byte) api.TakenIn {
	s.t.Helper()
	w := s.send("POST", "/api/recordings", data, asWAV)
	require.Equal(s.t, 200, w.Code, w.Body.String())
	var in api.TakenIn
	require.NoError(s.t, json.Unmarshal(w.Body.Bytes(), &in))
	return in
}

// loadSmall takes a rig of one pedal and an amp, whose sounds are rendered in a moment.
func (s server) loadSmall() {
	s.t.Helper()
	small, err := os.ReadFile("../demo/testdata/small.envex.json")
	require.NoError(s.t, err)
	require.Equal(s.t, http.StatusOK, s.send("POST", "/api/import", small).Code)
}

func TestWhatNothingReachesIsReachedByMovingTheBoost(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	lead := func() (made bool) {
		for _, x := range work[signal.GainMap](s, "/api/gainmap?rig=long").Targets {
			if x.Sound == "lead" {
				return x.Made
			}
		}
		t.Fatal("no target")
		return
	}
	require.False(t, lead())
	placed := work[signal.Placement](s, "/api/boost?rig=long&block=nudge/fx")
	var there *signal.Placed
	for i := range placed.Places {
		x := &placed.Places[i]
		for _, d := range x.Does {
			if d.Sound == "lead" && d.Met && !x.Here {
				there = x
			}
		}
	}
	require.NotNil(t, there, "a place of the boost reaches it")
	for _, r := range s.whole().Rigs {
		if r.Value.ID == "long" {
			r.Value.Path = there.Path
			s.put("/api/rigs/long", r.Version, r.Value)
		}
	}
	assert.True(t, lead())
	refused(t, s.send("GET", "/api/boost?rig=long&block=nowhere/fx&wait_ms=2000", nil), 422)
	refused(t, s.send("GET", "/api/gainmap?rig=nope", nil), 404)
	refused(t, s.send("GET", "/api/signal?rig=long&destination=nope", nil), 404)
}

func TestLevelsAndGainMakeABalance(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadSmall()
	assert.Len(t, work[signal.Report](s, "/api/signal?rig=small").Sounds, 2)
	levels := work[signal.Ladder](s, "/api/levels?rig=small&set_list=set")
	assert.NotEmpty(t, levels.Rungs)
	refused(t, s.send("GET", "/api/levels?rig=small&set_list=nope&wait_ms=2000", nil), 404)
	both, alone := work[signal.Balance](s, "/api/balance?rig=small&set_list=set"), work[signal.Balance](s, "/api/balance?rig=small")
	assert.Equal(t, *signal.BalanceOf(work[signal.GainMap](s, "/api/gainmap?rig=small"), levels), *both)
	assert.GreaterOrEqual(t, len(both.Findings), len(alone.Findings), "the ladder may have its own to say")
	assert.Equal(t, http.StatusOK, s.send("DELETE", "/api/balance?rig=small&set_list=set", nil).Code)
	refused(t, s.send("GET", "/api/balance?rig=small&set_list=nope&wait_ms=2000", nil), 404)
}

func TestAnotherOrderIsMetered(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	var order []plan.Key
	for _, r := range s.whole().Rigs {
		if r.Value.ID == "bare" {
			for _, n := range r.Value.Path {
				order = append(order, n.ID())
			}
		}
	}
	asked := func(order []plan.Key) string {
		list, err := json.Marshal(order)
		require.NoError(t, err)
		return "/api/differ?rig=bare&order=" + url.QueryEscape(string(list))
	}
	assert.Empty(t, work[signal.Difference](s, asked(order)).Sounds, "the same order changes nothing")
	order[0], order[1] = order[1], order[0]
	assert.NotEmpty(t, work[signal.Difference](s, asked(order)).Sounds)
	e := refused(t, s.send("GET", asked(order[1:])+"&wait_ms=2000", nil), 422)
	assert.Contains(t, e.Detail, "leaves out 1 stops")
	e = refused(t, s.send("GET", "/api/differ?rig=bare&order=no&wait_ms=2000", nil), 422)
	assert.Contains(t, e.Detail, "not a list of ids")
}

func TestAKnobIsFoundForASoundThatIsOff(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadSmall()
	assert.True(t, work[signal.Tuning](s, "/api/tune?rig=small&sound=clean").Met)
	found := work[signal.Tuning](s, "/api/tune?rig=small&sound=lead")
	assert.False(t, found.Met)
	require.NotEmpty(t, found.Repairs)
	assert.NotEmpty(t, found.Repairs[found.Best].Words)
	refused(t, s.send("GET", "/api/tune?rig=small&sound=nope&wait_ms=2000", nil), 422)
}

func TestTwoSoundsAreHeardAtTheSameLoudness(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	for name, ask := range map[string]string{
		"two sounds": "&sound=home&with=crunch",
		"settings":   `&sound=crunch&values=` + url.QueryEscape(`{"amber/fx/drive":9}`),
		"a change":   "&sound=crunch&set_list=quay-set&position=1",
	} {
		heard := work[api.Listening](s, "/api/listen?rig=long&matched=true"+ask)
		var loud []float64
		for _, c := range heard.Clips {
			w := s.send("GET", "/api/clips/"+c.ID, nil)
			require.Equal(t, 200, w.Code, name)
			assert.Equal(t, "audio/wav", w.Header().Get("Content-Type"))
			channels, err := wav.Decode(w.Body.Bytes())
			require.NoError(t, err)
			m := signal.Meter(channels...)
			assert.LessOrEqual(t, m.TruePeak, -0.99, name)
			loud = append(loud, *m.LUFS)
		}
		if len(loud) == 2 {
			assert.InDelta(t, loud[0], loud[1], 0.6, name)
		}
	}
	refused(t, s.send("GET", "/api/clips/clip99999", nil), 404)
	refused(t, s.send("GET", "/api/listen?rig=long&sound=crunch&values=no&wait_ms=2000", nil), 422)
	refused(t, s.send("GET", "/api/listen?rig=long&sound=crunch&set_list=quay-set&position=5000&wait_ms=2000", nil), 422)
}

func TestWhatIsHeardAgainIsRenderedAgainWhereItWasDropped(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	path := "/api/listen?rig=long&sound=home"
	first := work[api.Listening](s, path)
	assert.Equal(t, first, work[api.Listening](s, path), "kept")
	long := tone(t, 0.1, 170)
	for range 6 { // more than is kept
		s.bring(long)
	}
	refused(t, s.send("GET", "/api/clips/"+first.Clips[0].ID, nil), 404)
	again := work[api.Listening](s, path)
	assert.Equal(t, 200, s.send("GET", "/api/clips/"+again.Clips[0].ID, nil).Code)
}

func TestRecordingsAreBroughtAndMetered(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	on, off := s.bring(tone(t, 0.5, 3)), s.bring(tone(t, 0.25, 3))
	require.NotNil(t, on.Meter.LUFS)
	var pair struct {
		DB float64 `json:"on_over_off_db"`
	}
	s.get("/api/recordings/compare?on="+on.ID+"&off="+off.ID, &pair)
	assert.InDelta(t, 6, pair.DB, 0.05)
	silent := s.bring(tone(t, 0, 3))
	assert.Nil(t, silent.Meter.LUFS)
	refused(t, s.send("GET", "/api/recordings/compare?on="+on.ID+"&off="+silent.ID, nil), 422)
	refused(t, s.send("GET", "/api/recordings/compare?on="+on.ID+"&off=nope", nil), 404)

	phrase := work[api.Listening](s, "/api/listen?rig=long&sound=home")
	own := work[api.Listening](s, "/api/listen?rig=long&sound=home&dry="+on.ID)
	assert.NotEqual(t, phrase.Clips[0].LUFS, own.Clips[0].LUFS)
	e := refused(t, s.send("GET", "/api/listen?rig=long&sound=home&dry=nope&wait_ms=2000", nil), 422)
	assert.Contains(t, e.Detail, "upload it again")

	refused(t, s.send("POST", "/api/recordings", []byte("{}")), 415)
	e = refused(t, s.send("POST", "/api/recordings", []byte("no audio"), asWAV), 422)
	assert.Contains(t, e.Detail, "Nothing was changed.")
	refused(t, s.send("POST", "/api/recordings", make([]byte, wav.MaxBytes+1), asWAV), 413)
	e = refused(t, s.send("POST", "/api/recordings", tone(t, 0.1, 181), asWAV), 422)
	assert.Contains(t, e.Detail, "It lasts 181 s: the limit is 180 s")
}

func TestALevelThatWasMeasuredBeatsTheModel(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	loud := func() float64 {
		for _, x := range work[signal.Report](s, "/api/signal?rig=bare").Sounds {
			if x.Sound == "crunch" {
				return x.OverHome
			}
		}
		return math.NaN()
	}
	modelled := loud()
	for _, r := range s.whole().Rigs {
		if r.Value.ID == "bare" {
			r.Value.Levels = []plan.Level{{Block: "amber/fx", OnOver: 12}}
			s.put("/api/rigs/bare", r.Version, r.Value)
		}
	}
	assert.Greater(t, loud(), modelled+1)
}
