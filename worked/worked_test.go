package worked

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func folder(t require.TestingT, dir, mark string) *Folder {
	f, err := Open(dir, mark)
	require.NoError(t, err)
	return f
}

func TestWhatWasKeptIsThere(t *testing.T) {
	dir := t.TempDir()
	rapid.Check(t, func(rt *rapid.T) {
		kept := map[string][]byte{}
		f := folder(rt, dir, fmt.Sprint(rapid.Int().Draw(rt, "program")))
		for range rapid.IntRange(1, 8).Draw(rt, "times") {
			key := rapid.StringN(0, 30, -1).Draw(rt, "key")
			kept[key] = rapid.SliceOf(rapid.Byte()).Draw(rt, "data")
			require.NoError(rt, f.Put(key, kept[key]))
		}
		for key, data := range kept {
			got, ok := f.Get(key)
			require.True(rt, ok)
			require.True(rt, bytes.Equal(data, got))
		}
	})
}

func TestAnotherProgramFindsNothing(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, folder(t, dir, "one").Put("a", []byte("figures")))
	_, ok := folder(t, dir, "another").Get("a")
	assert.False(t, ok)
	got, ok := folder(t, dir, "one").Get("a")
	assert.True(t, ok)
	assert.Equal(t, "figures", string(got))
	_, ok = folder(t, dir, "one").Get("b")
	assert.False(t, ok)
}

func TestWhatIsDamagedIsNotThere(t *testing.T) {
	f := folder(t, t.TempDir(), "one")
	for name, harm := range map[string]func([]byte) []byte{
		"empty":   func([]byte) []byte { return nil },
		"cut":     func(b []byte) []byte { return b[:len(b)-6] },
		"changed": func(b []byte) []byte { b[len(b)-5]++; return b },
		"other":   func([]byte) []byte { return []byte("this is something else altogether") },
	} {
		require.NoError(t, f.Put(name, []byte("figures of a rig")))
		data, err := os.ReadFile(f.path(name))
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(f.path(name), harm(data), 0o600))
		_, ok := f.Get(name)
		assert.False(t, ok, name)
		_, err = os.Stat(f.path(name))
		assert.True(t, os.IsNotExist(err), "it is taken away")
	}
}

func TestTheOldestGo(t *testing.T) {
	f := folder(t, t.TempDir(), "one")
	f.most = 40_000
	r := rand.New(rand.NewPCG(1, 1))
	noise := func() []byte {
		b := make([]byte, 9000)
		for i := range b {
			b[i] = byte(r.Uint32())
		}
		return b
	}
	old := time.Now().Add(-time.Hour)
	require.NoError(t, os.WriteFile(filepath.Join(f.dir, "part-left"), []byte("half"), 0o600))
	require.NoError(t, os.Chtimes(filepath.Join(f.dir, "part-left"), old.Add(-time.Hour), old.Add(-time.Hour)))
	for i := range 12 {
		key := fmt.Sprint(i)
		require.NoError(t, f.Put(key, noise()))
		at := old.Add(time.Duration(i) * time.Minute)
		require.NoError(t, os.Chtimes(f.path(key), at, at))
		f.Get("0") // which is used again and again
	}
	require.NoError(t, f.tidy())
	for key, there := range map[string]bool{"0": true, "1": false, "5": false, "11": true} {
		_, ok := f.Get(key)
		assert.Equal(t, there, ok, key)
	}
	_, err := os.Stat(filepath.Join(f.dir, "part-left"))
	assert.True(t, os.IsNotExist(err))
}

func TestWhatIsTooLargeIsNotKept(t *testing.T) {
	f := folder(t, t.TempDir(), "one")
	require.NoError(t, f.Put("a", make([]byte, largest+1)))
	_, ok := f.Get("a")
	assert.False(t, ok)
}

func TestAFolderThatCannotBeMadeIsSaid(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	_, err := Open(filepath.Join(file, "in"), "one")
	assert.Error(t, err)
	f := folder(t, t.TempDir(), "one")
	require.NoError(t, os.RemoveAll(f.dir))
	assert.Error(t, f.Put("a", []byte("x")))
}

func TestSeveralProgramsAtOnceConcurrent(t *testing.T) {
	dir := t.TempDir()
	var all sync.WaitGroup
	for n := range 4 {
		f := folder(t, dir, "one")
		all.Go(func() {
			for i := range 50 {
				key := fmt.Sprint(i % 7)
				assert.NoError(t, f.Put(key, bytes.Repeat([]byte(key), 1000+n)))
				if got, ok := f.Get(key); ok {
					assert.Equal(t, key[0], got[len(got)-1])
				}
			}
		})
	}
	all.Wait()
}
