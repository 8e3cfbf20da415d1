package api_test

import (
	"bytes"
	"fmt"
	"math"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/plan"
	"envex/core/wav"
)

// Fifty large files at once: each is answered, and the server takes no more memory than its budget. It is
// looked at from outside, in a process of its own.
func TestFiftyLargeUploadsAtOnceStayWithinTheBudget(t *testing.T) {
	if testing.Short() {
		t.Skip("takes much memory of whoever watches")
	}
	if name := os.Getenv("ENVEX_SERVE_AT"); name != "" {
		s := start(t)
		live := httptest.NewServer(s)
		defer live.Close()
		require.NoError(t, os.WriteFile(name, []byte(live.URL), 0o600))
		<-t.Context().Done()
		return
	}
	at := filepath.Join(t.TempDir(), "address")
	child := exec.Command(os.Args[0], "-test.run=^"+t.Name()+"$")
	child.Env = append(os.Environ(), "ENVEX_SERVE_AT="+at, "GOMEMLIMIT=256MiB")
	require.NoError(t, child.Start())
	defer func() {
		_ = child.Process.Kill()
		_ = child.Wait()
	}()
	var url string
	require.Eventually(t, func() bool {
		data, err := os.ReadFile(at)
		url = string(data)
		return err == nil && url != ""
	}, 30*time.Second, 20*time.Millisecond)

	tone := func(seconds int) []byte {
		x := make([]float64, seconds*wav.Rate)
		for i := range x {
			x[i] = 0.3 * math.Sin(float64(i)*0.05)
		}
		data, err := wav.Encode(x, x)
		require.NoError(t, err)
		return data
	}
	deep := func(n int) []byte {
		return []byte(`{"format":"envex","version":1,"gear":[` + strings.Repeat(`{"id":"x","name":"y"},`, n) + `{}]}`)
	}
	long, short, wide, narrow := tone(170), tone(3), deep(400_000), deep(20_000)
	var all sync.WaitGroup
	answers := make([]int, 50)
	for i := range answers {
		all.Go(func() {
			path, kind, body, want := "/api/recordings", "audio/wav", short, http.StatusOK
			switch {
			case i < 2:
				body = long
			case i < 4:
				path, kind, body, want = "/api/import", "application/json", wide, http.StatusUnprocessableEntity
			case i%2 == 1:
				path, kind, body, want = "/api/import", "application/json", narrow, http.StatusUnprocessableEntity
			}
			answer, err := http.Post(url+path, kind, bytes.NewReader(body))
			if err != nil {
				return
			}
			_ = answer.Body.Close()
			if answer.StatusCode == want {
				answers[i] = want
			}
		})
	}
	all.Wait()
	assert.NotContains(t, answers, 0, "each is answered")
	assert.Less(t, peakMB(t, child.Process.Pid), 300.0)
}

// peakMB is the most memory that a process has had.
func peakMB(t *testing.T, pid int) float64 {
	t.Helper()
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		t.Skip("this system does not say")
	}
	_, rest, ok := strings.Cut(string(data), "VmHWM:")
	require.True(t, ok)
	kb, err := strconv.ParseFloat(strings.Fields(rest)[0], 64)
	require.NoError(t, err)
	t.Logf("%.0f MB at most", kb/1024)
	return kb / 1024
}

func TestALargeBodyIsRefusedInWordsAndAGoodOneIsRead(t *testing.T) {
	s := start(t)
	unknown := func(r *http.Request) { r.ContentLength = -1 }
	refused(
		t, s.send(http.MethodPost, "/api/import", bytes.Repeat([]byte("x"), api.MaxBody+1), unknown),
		http.StatusRequestEntityTooLarge,
	)
	var p plan.Plan
	for i := range 20 {
		p.Gear = append(
			p.Gear,
			plan.Gear{ID: plan.ID(fmt.Sprint("g", i)), Name: "Box", Kind: plan.Pedal, Notes: strings.Repeat("long ", 3500)},
		)
	}
	file, err := plan.Encode(&p)
	require.NoError(t, err)
	w := s.send(http.MethodPost, "/api/import", file)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	var all api.WholePlan
	s.get("/api/plan", &all)
	assert.Len(t, all.Gear, 20)
}
