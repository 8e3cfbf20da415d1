// Package worked keeps what was worked out in a folder, so that it need not be worked out again when the program starts
// anew: a file each, the oldest of which go when there are too many. It may be deleted at any time, and several
// programs may use it at once.
package worked

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

// Folder is where results are kept.
type Folder struct {
	dir   string
	mark  string
	most  int64
	mu    sync.Mutex
	since int64 // bytes written since it was last looked through
}

const (
	ending   = ".figures"
	usual    = 64 << 20 // bytes of all files
	largest  = 16 << 20 // bytes of one result, unpacked
	lookEach = usual / 16
)

// Open is a folder, made where it is not there. The mark says which program worked things out: results of another are
// not found. It fails where the folder cannot be made.
func Open(dir, mark string) (*Folder, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("worked: %w", err)
	}
	return &Folder{dir: dir, mark: mark, most: usual}, nil
}

func (f *Folder) path(key string) string {
	sum := sha256.Sum256([]byte(f.mark + "\n" + key))
	return filepath.Join(f.dir, hex.EncodeToString(sum[:])+ending)
}

// Get is what was kept under a key; false where nothing was, or it cannot be read.
func (f *Folder) Get(key string) ([]byte, bool) {
	path := f.path(key)
	data, err := os.ReadFile(path)
	if err != nil {
		return nil, false
	}
	z, err := gzip.NewReader(bytes.NewReader(data))
	if err != nil {
		return nil, f.drop(path)
	}
	out, err := io.ReadAll(io.LimitReader(z, largest+1))
	if err != nil || len(out) > largest {
		return nil, f.drop(path)
	}
	now := time.Now()
	_ = os.Chtimes(path, now, now) // it is used: where that cannot be noted, it goes sooner
	return out, true
}

// drop takes away what cannot be read; it is worked out again.
func (f *Folder) drop(path string) bool {
	_ = os.Remove(path) // another program may have
	return false
}

// Put keeps a result under a key. What is too large is not kept. It fails where nothing can be written.
func (f *Folder) Put(key string, data []byte) error {
	if len(data) > largest {
		return nil
	}
	var packed bytes.Buffer
	z := gzip.NewWriter(&packed)
	_, err := z.Write(data)
	if err := errors.Join(err, z.Close()); err != nil {
		return fmt.Errorf("worked: %w", err)
	}
	// Under another name first, so that nobody reads half of it.
	part, err := os.CreateTemp(f.dir, "part-*")
	if err != nil {
		return fmt.Errorf("worked: %w", err)
	}
	_, err = part.Write(packed.Bytes())
	if err = errors.Join(err, part.Close()); err == nil {
		err = os.Rename(part.Name(), f.path(key))
	}
	if err != nil {
		return errors.Join(fmt.Errorf("worked: %w", err), os.Remove(part.Name()))
	}
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.since += int64(packed.Len()); f.since >= min(lookEach, f.most) {
		f.since = 0
		return f.tidy()
	}
	return nil
}

// tidy removes the oldest files until the others fit, and what a program that ended left half written.
func (f *Folder) tidy() error {
	entries, err := os.ReadDir(f.dir)
	if err != nil {
		return fmt.Errorf("worked: %w", err)
	}
	var files []os.FileInfo
	all := int64(0)
	for _, e := range entries {
		info, err := e.Info()
		if err != nil {
			continue // it went in between
		}
		switch {
		case strings.HasPrefix(e.Name(), "part-") && time.Since(info.ModTime()) > time.Hour:
			_ = os.Remove(filepath.Join(f.dir, e.Name())) // another program may have
		case strings.HasSuffix(e.Name(), ending):
			files = append(files, info)
			all += info.Size()
		}
	}
	slices.SortFunc(files, func(a, b os.FileInfo) int { return a.ModTime().Compare(b.ModTime()) })
	for _, x := range files {
		if all <= f.most {
			break
		}
		_ = os.Remove(filepath.Join(f.dir, x.Name())) // another program may have
		all -= x.Size()
	}
	return nil
}
