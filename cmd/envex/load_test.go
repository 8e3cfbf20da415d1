package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// Two hundred clients write without a pause, each to a thing of its own: none of them is ever refused, and
// all that was acknowledged is there. ENVEX_LOAD says for how long; then how long a write takes is held to
// too.
func TestTwoHundredClientsWriteAtOnce(t *testing.T) {
	long, err := time.ParseDuration(os.Getenv("ENVEX_LOAD"))
	if err != nil {
		long = 3 * time.Second
	}
	db := filepath.Join(t.TempDir(), "load.db")
	address, stop := served(t, "demo", "--db", db)
	const clients = 200
	client := &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: clients}}
	send := func(body map[string]any) (int, string) {
		data, err := json.Marshal(body)
		if err != nil {
			return 0, err.Error()
		}
		answer, err := client.Post(address+"/api/operations", "application/json", bytes.NewReader(data))
		if err != nil {
			return 0, err.Error()
		}
		defer answer.Body.Close()
		var text bytes.Buffer
		_, err = text.ReadFrom(answer.Body)
		if err != nil {
			return 0, err.Error()
		}
		return answer.StatusCode, text.String()
	}
	var edits []any
	for i := range 100 {
		for _, half := range []string{"a", "b"} {
			id := fmt.Sprint("box", half, i)
			edits = append(
				edits, map[string]any{"kind": "gear", "id": id, "add": plan.Gear{ID: plan.ID(id), Name: "Box", Kind: plan.Pedal}},
			)
		}
	}
	for _, half := range [][]any{edits[:100], edits[100:]} {
		status, said := send(map[string]any{"label": "Add boxes", "edits": half})
		require.Equal(t, http.StatusOK, status, said)
	}
	took := make([][]time.Duration, clients)
	last := make([]string, clients)
	var failed sync.Map
	var all sync.WaitGroup
	begun := time.Now()
	for c := range clients {
		all.Go(func() {
			id := fmt.Sprint("box", []string{"a", "b"}[c%2], c/2)
			was := ""
			for n := 0; time.Since(begun) < long; n++ {
				to := fmt.Sprint("turn ", n)
				op := map[string]any{"do": "set", "path": []any{map[string]any{"key": "notes"}}, "to": to}
				if was != "" {
					op["was"] = was
				}
				at := time.Now()
				status, said := send(
					map[string]any{"label": "Turn", "edits": []any{map[string]any{"kind": "gear", "id": id, "ops": []any{op}}}},
				)
				took[c] = append(took[c], time.Since(at))
				if status != http.StatusOK {
					failed.Store(c, said)
					return
				}
				was = to
			}
			last[c] = was
		})
	}
	all.Wait()
	failed.Range(func(c, said any) bool { return assert.Fail(t, "refused", "client %v: %v", c, said) })
	times := slices.Concat(took...)
	slices.Sort(times)
	p95 := times[len(times)*95/100]
	t.Logf(
		"%d writes in %v, half within %v, 95 of 100 within %v, the longest %v", len(times),
		time.Since(begun).Round(time.Millisecond), times[len(times)/2].Round(time.Millisecond), p95.Round(time.Millisecond),
		times[len(times)-1].Round(time.Millisecond),
	)
	if os.Getenv("ENVEX_LOAD") != "" {
		assert.Less(t, p95, time.Second)
	}
	require.NoError(t, stop())
	out, err := run_(t, "export", "--db", db)
	require.NoError(t, err)
	p, err := plan.Decode([]byte(out))
	require.NoError(t, err)
	for c := range clients {
		g, _ := p.FindGear(plan.ID(fmt.Sprint("box", []string{"a", "b"}[c%2], c/2)))
		require.Equal(t, last[c], g.Notes, "client %d", c)
	}
}
