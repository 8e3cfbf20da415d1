package main

import (
	"database/sql"
	"encoding/json"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/plan"
)

func TestABackupOfARunningPlanIsRestored(t *testing.T) {
	dir := t.TempDir()
	db, kept := filepath.Join(dir, "one.db"), filepath.Join(dir, "kept.db")
	address, stop := served(t, "demo", "--db", db)
	out, err := run_(t, "backup", "--db", db, "-o", kept)
	require.NoError(t, err)
	assert.Contains(t, out, "14 songs")
	song := theSong(t, address, "tin-cabana")
	song.Value.Tempo.BPM = 128
	status, body := fetch(t, http.MethodPut, address+"/api/songs/tin-cabana", song)
	require.Equal(t, http.StatusOK, status, string(body))

	out, err = run_(t, "restore", kept, "--db", db)
	require.NoError(t, err)
	assert.Contains(t, out, "1 brought back, 0 removed")
	assert.NotEqual(t, 128.0, theSong(t, address, "tin-cabana").Value.Tempo.BPM, "the running one knows at once")
	brought, err := filepath.Glob(db + ".copies/kept-*.db")
	require.NoError(t, err)
	assert.Empty(t, brought, "what was brought for it has gone again")
	status, _ = fetch(t, http.MethodPost, address+"/api/undo", map[string]any{})
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, 128.0, theSong(t, address, "tin-cabana").Value.Tempo.BPM, "and it is undone as anything else")
	_, err = run_(t, "restore", demoFile, "--db", db)
	require.ErrorContains(t, err, "no SQLite database")
	require.NoError(t, stop())
	days, err := filepath.Glob(db + ".copies/day-*.db")
	require.NoError(t, err)
	assert.Len(t, days, 1, "there is a copy of today")

	// The same of one that nobody has open, into a new one.
	_, err = run_(t, "backup", "--db", db, "-o", kept, "--json")
	require.NoError(t, err)
	fresh := filepath.Join(dir, "fresh.db")
	_, err = run_(t, "restore", kept, "--db", fresh)
	require.NoError(t, err)
	before, err := run_(t, "export", "--db", db)
	require.NoError(t, err)
	after, err := run_(t, "export", "--db", fresh)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	_, err = run_(t, "backup", "--db", filepath.Join(dir, "none.db"), "-o", kept)
	require.ErrorContains(t, err, "no such file")
	assert.NoFileExists(t, filepath.Join(dir, "none.db"))
	_, err = run_(t, "backup", "--db", db)
	require.ErrorContains(t, err, "-o FILE")
	_, err = run_(t, "backup", "--db", db, "-o", filepath.Join(dir, "no", "folder.db"))
	require.ErrorContains(t, err, "no such file")
}

// sick is a database with a song whose newest version is broken.
func sick(t *testing.T) string {
	t.Helper()
	db := filepath.Join(t.TempDir(), "plan.db")
	_, err := run_(t, "import", demoFile, "--db", db)
	require.NoError(t, err)
	file, err := sql.Open("sqlite", "file:"+db)
	require.NoError(t, err)
	_, err = file.Exec(`UPDATE aggregates SET doc = '{"id":' WHERE id = 'tin-cabana'`)
	require.NoError(t, err)
	require.NoError(t, file.Close())
	return db
}

func TestADoctorSaysWhatIsWrongAndBringsBackTheRest(t *testing.T) {
	db := sick(t)
	before, err := os.ReadFile(db)
	require.NoError(t, err)
	out, err := run_(t, "doctor", "--db", db)
	require.ErrorContains(t, err, "is damaged")
	assert.Contains(
		t, out, "song Tin Cabana: what stands of it cannot be read; version 1 of 1 is the newest that is sound.",
	)
	fresh := filepath.Join(filepath.Dir(db), "new.db")
	out, err = run_(t, "doctor", "--db", db, "--repair", "-o", fresh)
	require.NoError(t, err)
	assert.Contains(t, out, "What is sound was written to "+fresh)
	after, err := os.ReadFile(db)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	out, err = run_(t, "doctor", "--db", fresh)
	require.NoError(t, err)
	assert.Contains(t, out, "is sound: ")
	_, err = run_(t, "doctor", "--db", db, "--repair", "-o", fresh)
	require.ErrorContains(t, err, "is there already: say another name")
	_, err = run_(t, "doctor", "--db", db, "--repair")
	require.ErrorContains(t, err, "say --repair -o NEW.db")
	out, err = run_(t, "doctor", "--db", db, "--json")
	require.Error(t, err)
	assert.Contains(t, out, `"state": "older"`)
	_, err = run_(t, "import", demoFile, "--db", db)
	require.ErrorContains(t, err, "See envex doctor")
}

func TestADamagedDatabaseIsServedToBeLookedAt(t *testing.T) {
	db := sick(t)
	before, err := os.ReadFile(db)
	require.NoError(t, err)
	address, stop := served(t, "serve", "--db", db)
	var c api.DatabaseCondition
	_, body := fetch(t, http.MethodGet, address+"/api/condition", nil)
	require.NoError(t, json.Unmarshal(body, &c))
	assert.Equal(t, db, c.Database)
	require.Len(t, c.Report.Things, 1)
	assert.Equal(t, "Tin Cabana", c.Report.Things[0].Name)
	song := theSong(t, address, "tin-cabana")
	status, body := fetch(t, http.MethodPut, address+"/api/songs/tin-cabana", song)
	require.Equal(t, http.StatusConflict, status)
	assert.Contains(t, string(body), "Nothing is written: the database is damaged")
	status, body = fetch(t, http.MethodGet, address+"/api/export", nil)
	require.Equal(t, http.StatusOK, status)
	_, err = plan.Decode(body)
	require.NoError(t, err)
	var fresh struct{ Path string }
	for _, name := range []string{"plan-repaired.db", "plan-repaired-2.db"} {
		status, body = fetch(t, http.MethodPost, address+"/api/repair", nil)
		require.Equal(t, http.StatusOK, status, string(body))
		require.NoError(t, json.Unmarshal(body, &fresh))
		assert.Equal(t, filepath.Join(filepath.Dir(db), name), fresh.Path)
	}
	require.NoError(t, stop())
	after, err := os.ReadFile(db)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	address, stop = served(t, "serve", "--db", fresh.Path)
	theSong(t, address, "tin-cabana")
	status, _ = fetch(t, http.MethodPost, address+"/api/repair", nil)
	assert.Equal(t, http.StatusConflict, status)
	require.NoError(t, stop())
}

// Rights are those of somebody else: who may do everything is not stopped by them.
func TestADatabaseThatCannotBeWrittenToIsLookedAtAndExported(t *testing.T) {
	onItsOwn(t)
	if os.Getuid() != 0 {
		t.Skip("needs the right to become another user")
	}
	dir := t.TempDir()
	for up := dir; len(up) > len(os.TempDir()); up = filepath.Dir(up) {
		require.NoError(t, os.Chmod(up, 0o755))
	}
	db, program := filepath.Join(dir, "plan.db"), filepath.Join(dir, "envex")
	_, err := run_(t, "import", demoFile, "--db", db)
	require.NoError(t, err)
	require.NoError(t, os.Chmod(db, 0o444))
	build := exec.Command("go", "build", "-o", program, ".")
	text, err := build.CombinedOutput()
	require.NoError(t, err, string(text))
	as := func(args ...string) *exec.Cmd {
		c := exec.Command(program, args...)
		c.Dir = "/"
		c.Env = []string{"TMPDIR=/tmp", "HOME=/tmp"}
		c.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: 65534, Gid: 65534}}
		return c
	}
	out, err := as("export", "--db", db).Output()
	require.NoError(t, err)
	_, err = plan.Decode(out)
	require.NoError(t, err)
	said, err := as("import", filepath.Join(dir, "none.json"), "--db", db).CombinedOutput()
	require.Error(t, err)
	assert.Contains(t, string(said), db+" cannot be written to")

	serve := as("serve", "--db", db, "--addr", "127.0.0.1:0", "--no-cache")
	var log strings.Builder
	serve.Stderr = &log
	pipe, err := serve.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, serve.Start())
	defer func() {
		_ = serve.Process.Signal(syscall.SIGTERM)
		_ = serve.Wait()
	}()
	line := make([]byte, 200)
	n, err := pipe.Read(line)
	require.NoError(t, err)
	address := strings.TrimPrefix(strings.TrimSpace(string(line[:n])), "Envex is at ")
	song := theSong(t, address, "tin-cabana")
	song.Value.Tempo.BPM = 99
	status, body := fetch(t, http.MethodPut, address+"/api/songs/tin-cabana", song)
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, string(body), "cannot be written to by you")
}

func TestSignalsOfAClosedTerminalLeaveTheFileWhole(t *testing.T) {
	dir := t.TempDir()
	program, db := filepath.Join(dir, "envex"), filepath.Join(dir, "plan.db")
	text, err := exec.Command("go", "build", "-o", program, ".").CombinedOutput()
	require.NoError(t, err, string(text))
	for _, signal := range []os.Signal{syscall.SIGHUP, syscall.SIGTERM, os.Interrupt} {
		serve := exec.Command(program, "demo", "--db", db, "--addr", "127.0.0.1:0", "--no-cache")
		pipe, err := serve.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, serve.Start())
		line := make([]byte, 200)
		n, err := pipe.Read(line)
		require.NoError(t, err)
		address := strings.TrimPrefix(strings.TrimSpace(string(line[:n])), "Envex is at ")
		song := theSong(t, address, "tin-cabana")
		song.Value.Tempo.BPM = float64(90 + time.Now().Nanosecond()%30)
		status, _ := fetch(t, http.MethodPut, address+"/api/songs/tin-cabana", song)
		require.Equal(t, http.StatusOK, status)
		require.NoError(t, serve.Process.Signal(signal))
		require.NoError(t, serve.Wait())
		assert.NoFileExists(t, db+"-wal", "all of it is in the file, %s", signal)
		out, err := run_(t, "export", "--db", db)
		require.NoError(t, err)
		p, err := plan.Decode([]byte(out))
		require.NoError(t, err)
		kept, _ := p.FindSong("tin-cabana")
		assert.Equal(t, song.Value.Tempo.BPM, kept.Tempo.BPM)
	}
}
