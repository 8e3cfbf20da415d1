package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/plan"
)

// served runs a serving command until the test stops it, and gives its address and how to stop it.
func served(t *testing.T, args ...string) (address string, stop func() error) {
	t.Helper()
	ctx, cancel := context.WithCancel(t.Context())
	read, write := io.Pipe()
	c := root()
	c.SetOut(write)
	c.SetErr(&bytes.Buffer{})
	if !slices.Contains(args, "--cache") && !slices.Contains(args, "--no-cache") {
		args = append(args, "--no-cache") // nothing that was worked out before is found, nor left behind
	}
	c.SetArgs(append(args, "--addr", "127.0.0.1:0"))
	ended := make(chan error, 1)
	go func() {
		err := c.ExecuteContext(ctx)
		_ = write.CloseWithError(io.EOF)
		ended <- err
	}()
	line, err := bufio.NewReader(read).ReadString('\n')
	require.NoError(t, err)
	address, said := strings.CutPrefix(strings.TrimSpace(line), "Envex is at ")
	require.True(t, said, line)
	return address, func() error {
		cancel()
		select {
		case err := <-ended:
			return err
		case <-time.After(20 * time.Second):
			return fmt.Errorf("it did not end")
		}
	}
}

func fetch(t *testing.T, method, address string, body any) (int, []byte) {
	t.Helper()
	var data io.Reader
	if body != nil {
		text, err := json.Marshal(body)
		require.NoError(t, err)
		data = bytes.NewReader(text)
	}
	r, err := http.NewRequestWithContext(t.Context(), method, address, data)
	require.NoError(t, err)
	r.Header.Set("Content-Type", "application/json")
	answer, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	text, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	return answer.StatusCode, text
}

func theSong(t *testing.T, address, id string) api.Versioned[plan.Song] {
	t.Helper()
	status, body := fetch(t, http.MethodGet, address+"/api/plan", nil)
	require.Equal(t, http.StatusOK, status)
	var all api.WholePlan
	require.NoError(t, json.Unmarshal(body, &all))
	for _, s := range all.Songs {
		if s.Value.ID == plan.ID(id) {
			return s
		}
	}
	require.Fail(t, "no such song")
	return api.Versioned[plan.Song]{}
}

func TestWhatWasChangedIsThereAfterARestart(t *testing.T) {
	db := filepath.Join(t.TempDir(), "kept.db")
	address, stop := served(t, "demo", "--db", db)
	song := theSong(t, address, "tin-cabana")
	song.Value.Tempo.BPM = 128
	status, body := fetch(t, http.MethodPut, address+"/api/songs/tin-cabana", song)
	require.Equal(t, http.StatusOK, status, string(body))
	require.NoError(t, stop())

	address, stop = served(t, "demo", "--db", db)
	assert.Equal(
		t, 128.0, theSong(t, address, "tin-cabana").Value.Tempo.BPM, "loading the demo again leaves what was changed",
	)
	status, body = fetch(t, http.MethodPost, address+"/api/undo", map[string]any{})
	require.Equal(t, http.StatusOK, status, string(body))
	require.NoError(t, stop())

	address, stop = served(t, "serve", "--db", db)
	assert.Equal(t, 126.0, theSong(t, address, "tin-cabana").Value.Tempo.BPM, "undo reaches over a restart")
	require.NoError(t, stop())
}

func TestASecondProgramIsToldWhoHasTheDatabaseOrGoesThroughIt(t *testing.T) {
	db := filepath.Join(t.TempDir(), "one.db")
	address, stop := served(t, "demo", "--db", db)
	_, err := run_(t, "serve", "--db", db, "--addr", "127.0.0.1:0")
	require.ErrorContains(t, err, "at "+address+": close it there first")

	// A song by import, which the running one knows at once, and does not let its sounds be removed.
	file := filepath.Join(t.TempDir(), "set.csv")
	require.NoError(t, os.WriteFile(file, []byte("title,bpm,sections\nHalyard,96,Verse:Crunch:8\n"), 0o600))
	out, err := run_(t, "import", file, "--db", db)
	require.NoError(t, err)
	assert.Contains(t, out, "Halyard, 96 bpm")
	out, err = run_(t, "export", "--db", db)
	require.NoError(t, err)
	p, err := plan.Decode([]byte(out))
	require.NoError(t, err)
	require.Equal(t, "Halyard", p.Songs[len(p.Songs)-1].Title)
	assert.Equal(t, "Halyard", theSong(t, address, string(p.Songs[len(p.Songs)-1].ID)).Value.Title)
	// What is there with other content is asked about in the same words.
	changed := filepath.Join(t.TempDir(), "changed.json")
	require.NoError(t, os.WriteFile(changed, []byte(strings.Replace(out, `"Halyard"`, `"Windlass"`, 1)), 0o600))
	_, err = run_(t, "import", changed, "--db", db)
	require.ErrorContains(t, err, "nothing was changed: say --on-conflict")
	require.NoError(t, stop())
	_, err = run_(t, "import", changed, "--db", db, "--on-conflict", "replace")
	require.NoError(t, err, "it was given back")
}

func TestTheDemoWithoutAFileIsFreshEachTimeAndLeavesNothingBehind(t *testing.T) {
	t.Setenv("TMPDIR", t.TempDir())
	address, stop := served(t, "demo")
	status, _ := fetch(t, http.MethodGet, address+"/api/page?show=quay-12", nil)
	assert.Equal(t, http.StatusOK, status)
	status, body := fetch(t, http.MethodGet, address+"/api/nothing", nil)
	assert.Equal(t, http.StatusNotFound, status)
	assert.Contains(t, string(body), "There is nothing at /api/nothing.")
	require.NoError(t, stop())
	left, err := os.ReadDir(os.Getenv("TMPDIR"))
	require.NoError(t, err)
	assert.Empty(t, left)
}

func TestServingSaysWhyItCannot(t *testing.T) {
	_, err := run_(t, "serve", "--db", filepath.Join(t.TempDir(), "x.db"), "--addr", "127.0.0.1:99999")
	require.ErrorContains(t, err, "cannot listen on 127.0.0.1:99999")
	damaged := filepath.Join(t.TempDir(), "damaged.db")
	require.NoError(
		t, os.WriteFile(damaged, []byte("this was never a database, and is long enough to be looked at twice"), 0o600),
	)
	_, err = run_(t, "serve", "--db", damaged, "--addr", "127.0.0.1:0")
	require.ErrorContains(t, err, "damaged.db")
	_, err = run_(t, "serve", "--db", filepath.Join(t.TempDir(), "no", "such", "folder.db"), "--addr", "127.0.0.1:0")
	require.Error(t, err)
}

func TestABodyThatTricklesInDoesNotHoldUpStopping(t *testing.T) {
	address, stop := served(t, "demo", "--db", filepath.Join(t.TempDir(), "x.db"))
	conn, err := net.Dial("tcp", strings.TrimPrefix(address, "http://"))
	require.NoError(t, err)
	defer conn.Close()
	_, err = fmt.Fprintf(
		conn, "POST /api/import HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: 500000\r\n\r\n{",
		strings.TrimPrefix(address, "http://"),
	)
	require.NoError(t, err)
	status, _ := fetch(t, http.MethodGet, address+"/api/session", nil)
	require.Equal(t, http.StatusOK, status)
	begun := time.Now()
	require.NoError(t, stop(), "it ends as it should")
	assert.Less(t, time.Since(begun), 10*time.Second)
}

func TestNewIDsAreOpaqueAndApart(t *testing.T) {
	seen := map[plan.ID]bool{}
	for range 1000 {
		id := newID()
		assert.Regexp(t, `^[a-z2-7]{16}$`, string(id))
		assert.False(t, seen[id])
		seen[id] = true
	}
}

func TestABundleOfAShowOrARigIsAPlanOfItsOwn(t *testing.T) {
	for _, args := range [][]string{{"--rig", "Carry-on board"}, {"--show", "Upper deck"}} {
		db := filepath.Join(t.TempDir(), "all.db")
		_, err := run_(t, "import", demoFile, "--db", db)
		require.NoError(t, err)
		out, err := run_(t, append([]string{"export", "--db", db}, args...)...)
		require.NoError(t, err)
		p, err := plan.Decode([]byte(out))
		require.NoError(t, err)
		_, ok := p.FindRig("carry")
		assert.True(t, ok)
		assert.Empty(t, p.Validate(), "it stands alone")
	}
}

// What is worked out stays in the folder that is named, and nowhere where nothing is to stay.
func TestWhatIsWorkedOutStaysWhereItIsTold(t *testing.T) {
	onItsOwn(t)
	dir := t.TempDir()
	cache := filepath.Join(dir, "cache")
	ask := func(args ...string) {
		address, stop := served(t, append([]string{"serve", "--db", filepath.Join(dir, "plan.db")}, args...)...)
		defer func() { assert.NoError(t, stop()) }()
		require.Eventually(t, func() bool {
			status, body := fetch(t, http.MethodGet, address+"/api/signal?rig=small&wait_ms=2000", nil)
			return status == http.StatusOK && strings.Contains(string(body), `"state":"done"`)
		}, time.Minute, 10*time.Millisecond)
	}
	_, err := run_(t, "import", smallFile, "--db", filepath.Join(dir, "plan.db"))
	require.NoError(t, err)
	ask("--no-cache")
	assert.NoDirExists(t, cache)
	ask("--cache", cache)
	kept, err := os.ReadDir(cache)
	require.NoError(t, err)
	assert.Len(t, kept, 1)
	ask("--cache", cache)
	again, err := os.ReadDir(cache)
	require.NoError(t, err)
	assert.Len(t, again, 1)

	_, err = run_(t, "serve", "--db", filepath.Join(dir, "plan.db"), "--addr", "127.0.0.1:0", "--cache", smallFile)
	assert.ErrorContains(t, err, "is no folder that can be written to")
	_, err = run_(t, "serve", "--db", filepath.Join(dir, "plan.db"), "--cache", cache, "--no-cache")
	assert.Error(t, err)
}
