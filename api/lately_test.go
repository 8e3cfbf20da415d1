package api_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
)

// pedal switches a pedal in the recipe of a sound, and brings answers to what is shown.
func (s server) pedal(on bool, since string, shown ...string) (plan api.WholePlan, bytes int) {
	s.t.Helper()
	key := func(k string) map[string]any { return map[string]any{"key": k} }
	body := map[string]any{"label": "Amber", "edits": []any{map[string]any{
		"kind": "rig", "id": "long", "ops": []any{map[string]any{
			"do": "set", "was": !on, "to": on,
			"path": []any{
				key("recipes"), map[string]any{"match": map[string]any{"id": "long-crunch"}}, key("values"), key("amber/fx/on"),
			},
		}},
	}}}
	w := s.send("POST", "/api/operations", body, with("Envex-Since", since, "Envex-Shown", strings.Join(shown, " ")))
	require.Equal(s.t, 200, w.Code, w.Body.String())
	var out api.Written
	require.NoError(s.t, json.Unmarshal(w.Body.Bytes(), &out))
	return *out.Plan, w.Body.Len()
}

// changed is an answer with what became different in it.
func changed(t *testing.T, before map[string]any, parts []api.ChangedPart) map[string]any {
	t.Helper()
	for _, p := range parts {
		var to any
		require.NoError(t, json.Unmarshal(p.To, &to))
		if p.Index == nil {
			before[p.Field] = to
		} else {
			before[p.Field].([]any)[*p.Index] = to
		}
	}
	return before
}

func TestAnEditBringsWhatBecameDifferentInAnAnswer(t *testing.T) {
	s := start(t)
	s.loadDemo()
	questions := []string{"/api/reach?rig=long&set_list=quay-set", "/api/order?rig=long", "/api/uses/amber"}
	alone := func(question string) (answer map[string]any) {
		s.get(question, &answer)
		return answer
	}
	first, whole := s.pedal(false, "nothing", questions...)
	have, tags := map[string]map[string]any{}, map[string]string{}
	for _, a := range first.Answers {
		require.Empty(t, a.Since, "nothing was told before")
		have[a.Question], tags[a.Question] = alone(a.Question), a.Tag
	}
	at := first.At
	asked := func() (list []string) {
		for _, q := range questions {
			list = append(list, q+"#"+tags[q])
		}
		return list
	}
	shorter := 0
	for i, on := range []bool{true, false, true} {
		news, bytes := s.pedal(on, at, asked()...)
		require.Len(t, news.Answers, len(questions))
		for _, a := range news.Answers {
			if a.Since == "" {
				var answer map[string]any
				require.NoError(t, json.Unmarshal(a.Body, &answer))
				have[a.Question] = answer
			} else {
				shorter++
				assert.Equal(t, tags[a.Question], a.Since)
				assert.Empty(t, a.Body)
				have[a.Question] = changed(t, have[a.Question], a.Changed)
			}
			tags[a.Question] = a.Tag
			assert.Equal(t, alone(a.Question), have[a.Question], "%s, edit %d", a.Question, i)
		}
		assert.Less(t, bytes, whole/2)
		at = news.At
	}
	assert.Positive(t, shorter)

	tags[questions[0]] = "other"
	unknown, _ := s.pedal(false, at, asked()[:1]...)
	for _, a := range unknown.Answers {
		assert.Empty(t, a.Since, "%s: what the client has is not known here", a.Question)
		assert.NotEmpty(t, a.Body)
	}
	bare, _ := s.pedal(true, unknown.At, questions...)
	for _, a := range bare.Answers {
		assert.Empty(t, a.Since, "%s: a client that says nothing has nothing", a.Question)
	}
}
