package disk

import (
	"bytes"
	"os"
	"os/exec"
	"os/signal"
	"path/filepath"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAFileIsWrittenWholeOrLeftAsItWas(t *testing.T) {
	dir := t.TempDir()
	name := filepath.Join(dir, "plan.json")
	require.NoError(t, os.WriteFile(name, []byte("the only copy"), 0o640))
	require.NoError(t, Write(name, []byte("new"), 0o600))
	data, err := os.ReadFile(name)
	require.NoError(t, err)
	assert.Equal(t, "new", string(data))
	info, err := os.Stat(name)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o640), info.Mode().Perm())

	link := filepath.Join(dir, "link.json")
	require.NoError(t, os.Symlink(name, link))
	require.NoError(t, Write(link, []byte("through"), 0o600))
	data, err = os.ReadFile(name)
	require.NoError(t, err)
	assert.Equal(t, "through", string(data))
	where, err := os.Readlink(link)
	require.NoError(t, err)
	assert.Equal(t, name, where)

	list, err := os.ReadDir(dir)
	require.NoError(t, err)
	assert.Len(t, list, 2, "nothing is left beside it")
}

// A disk that fills up while a file is written leaves the old one whole. A limit on the size of files,
// which holds for a whole process, stands in for it.
func TestAFullDiskLeavesTheOnlyCopy(t *testing.T) {
	if name := os.Getenv("ENVEX_WRITE_TO"); name != "" {
		var old syscall.Rlimit
		require.NoError(t, syscall.Getrlimit(syscall.RLIMIT_FSIZE, &old))
		signal.Ignore(syscall.SIGXFSZ)
		require.NoError(t, syscall.Setrlimit(syscall.RLIMIT_FSIZE, &syscall.Rlimit{Cur: 4096, Max: old.Max}))
		require.ErrorContains(t, Write(name, bytes.Repeat([]byte("x"), 1<<20), 0o600), "it is as it was")
		return
	}
	dir := t.TempDir()
	name := filepath.Join(dir, "plan.json")
	require.NoError(t, os.WriteFile(name, []byte("the only copy"), 0o644))
	child := exec.Command(os.Args[0], "-test.run=^"+t.Name()+"$")
	child.Env = append(os.Environ(), "ENVEX_WRITE_TO="+name)
	said, err := child.CombinedOutput()
	require.NoError(t, err, string(said))
	data, err := os.ReadFile(name)
	require.NoError(t, err)
	assert.Equal(t, "the only copy", string(data))
	list, err := os.ReadDir(dir)
	require.NoError(t, err)
	assert.Len(t, list, 1)
	require.ErrorContains(t, Write(filepath.Join(dir, "no", "plan.json"), nil, 0o600), "nothing was written")
}

// A power cut between any two steps leaves the old contents or the new. What was not flushed is lost by
// then, as a disk loses it.
func TestAPowerCutBetweenTwoStepsLeavesOneOfTheTwo(t *testing.T) {
	for cut := range 4 {
		name := filepath.Join(t.TempDir(), "plan.json")
		require.NoError(t, os.WriteFile(name, []byte("old"), 0o644))
		step, flushed := 0, map[string]bool{}
		pulled := func() bool { step++; return step > cut }
		s := system{
			sync: func(f *os.File) error {
				if pulled() {
					panic("the power is gone")
				}
				flushed[f.Name()] = true
				return f.Sync()
			},
			rename: func(from, to string) error {
				if pulled() {
					panic("the power is gone")
				}
				flushed[to] = flushed[from]
				return os.Rename(from, to)
			},
			flushFolder: func(string) error {
				if pulled() {
					panic("the power is gone")
				}
				return nil
			},
		}
		func() {
			defer func() { _ = recover() }()
			_ = s.write(name, []byte("new"), 0o600)
		}()
		flushed[name] = flushed[name] || step <= 2 // what was there before was
		require.True(t, flushed[name], "its name stands for what is on the disk, cut at %d", cut)
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		want := "old"
		if cut >= 2 {
			want = "new"
		}
		assert.Equal(t, want, string(data), "cut at %d", cut)
	}
}
