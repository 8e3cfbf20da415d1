// Package disk writes files whole: a name stands for the old contents or for the new, and never for a part,
// also when the disk is full or the power fails in between.
package disk

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
)

// system is what a file is written with. Tests let the power fail between two of its steps.
type system struct {
	sync        func(*os.File) error
	rename      func(from, to string) error
	flushFolder func(name string) error
}

var machine = system{sync: (*os.File).Sync, rename: os.Rename, flushFolder: flushFolder}

// Write writes a file into another one beside it, which is flushed and then takes its name. One that is
// there keeps its rights; a new one gets those of mode. What is no regular file, such as a terminal or a
// pipe, is written to as it is.
func Write(name string, data []byte, mode os.FileMode) error { return machine.write(name, data, mode) }

func (s system) write(name string, data []byte, mode os.FileMode) error {
	if info, err := os.Stat(name); err == nil {
		if !info.Mode().IsRegular() {
			return os.WriteFile(name, data, mode)
		}
		mode = info.Mode().Perm()
	}
	if target, err := filepath.EvalSymlinks(name); err == nil {
		name = target
	}
	f, err := os.CreateTemp(filepath.Dir(name), "."+filepath.Base(name)+".*")
	if err != nil {
		return fmt.Errorf("write %s: %w; nothing was written", name, err)
	}
	if err := s.fill(f, data, mode); err != nil {
		return errors.Join(fmt.Errorf("write %s: %w; it is as it was", name, err), os.Remove(f.Name()))
	}
	if err := s.rename(f.Name(), name); err != nil {
		return errors.Join(fmt.Errorf("write %s: %w; it is as it was", name, err), os.Remove(f.Name()))
	}
	return s.flushFolder(filepath.Dir(name))
}

func (s system) fill(f *os.File, data []byte, mode os.FileMode) error {
	_, err := f.Write(data)
	return errors.Join(err, f.Chmod(mode), s.sync(f), f.Close())
}

// Settle gives a file that was written its name, once all of it is on the disk.
func Settle(from, to string) error {
	f, err := os.OpenFile(from, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	if err := errors.Join(machine.sync(f), f.Close()); err != nil {
		return err
	}
	if err := machine.rename(from, to); err != nil {
		return err
	}
	return machine.flushFolder(filepath.Dir(to))
}

// flushFolder has the new name of a file survive a loss of power. Not every system can flush a folder;
// the file itself is flushed.
func flushFolder(name string) error {
	d, err := os.Open(name)
	if err != nil {
		return fmt.Errorf("write: %w", err)
	}
	_ = d.Sync()
	return d.Close()
}
