// Package access keeps who may reach a plan from other devices on the same network: a passphrase, devices
// that were paired, and how often somebody may try.
package access

import (
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"slices"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"envex/core/reason"
	"envex/disk"
)

// Role is what a device may do.
type Role string

// The roles.
const (
	Owner Role = "owner" // everything
	Stand Role = "stand" // reads, and writes notes and faults of shows
)

// How long a device stays paired: without being seen, and altogether.
const (
	idleTime = 30 * 24 * time.Hour
	fullTime = 180 * 24 * time.Hour
)

const (
	maxDevices = 50
	maxName    = 60
	seenEvery  = time.Hour // how exactly it is kept when a device was seen
)

// Device is one that was let in.
type Device struct {
	ID       string    `json:"id"`
	Name     string    `json:"name"`
	Role     Role      `json:"role" enum:"owner,stand"`
	PairedAt time.Time `json:"paired_at"`
	SeenAt   time.Time `json:"seen_at"`
	By       string    `json:"by" enum:"passphrase,code" doc:"What it was let in by."`
}

// record is a device as it is kept: its token is kept as a digest, from which it cannot be had back.
type record struct {
	Device
	Digest string `json:"digest"`
	gone   chan struct{}
}

// Errors of those who are not let in.
var (
	ErrWrong       = reason.Errorf("that is not right, or it has expired: look at the owner's screen again")
	ErrNone        = reason.Errorf("no passphrase has been set")
	ErrShort       = reason.Errorf("the passphrase is too short: take %d characters at least", minPassphrase)
	ErrLong        = reason.Errorf("the passphrase is too long: take %d characters at most", maxPassphrase)
	ErrTooMany     = reason.Errorf("there are too many devices: forget one first")
	ErrNoDevice    = reason.Errorf("there is no such device")
	ErrUnknownRole = reason.Errorf("a device is an owner or a stand")
)

// Book is who may reach a plan. It is kept in a file beside the database, so that a copy of the database
// lets nobody in.
type Book struct {
	path  string
	now   func() time.Time
	tries *tries

	mu         sync.Mutex
	passphrase string // as argon2id writes it; "" where none is set
	devices    []*record
	codes      []code

	hashing sync.Mutex // a hash takes much memory: one at a time
}

type file struct {
	Passphrase string    `json:"passphrase,omitempty"`
	Devices    []*record `json:"devices"`
}

// Open reads the file at path, where there is one.
func Open(path string, now func() time.Time) (*Book, error) {
	b := &Book{path: path, now: now, tries: newTries()}
	data, err := os.ReadFile(path)
	if errors.Is(err, fs.ErrNotExist) {
		return b, nil
	}
	if err != nil {
		return nil, fmt.Errorf("access: %w", err)
	}
	var f file
	if err := json.Unmarshal(data, &f); err != nil {
		return nil, fmt.Errorf("access: %s cannot be read: %w. Remove it, and pair your devices anew", path, err)
	}
	b.passphrase, b.devices = f.Passphrase, slices.DeleteFunc(f.Devices, func(d *record) bool { return d == nil })
	for _, d := range b.devices {
		d.gone = make(chan struct{})
	}
	return b, nil
}

// save writes what is kept. The lock is held.
func (b *Book) save(passphrase string, devices []*record) error {
	data, err := json.MarshalIndent(file{Passphrase: passphrase, Devices: devices}, "", "  ")
	if err == nil {
		err = disk.Write(b.path, append(data, '\n'), 0o600)
	}
	if err != nil {
		return fmt.Errorf("access: %w", err)
	}
	b.passphrase, b.devices = passphrase, devices
	return nil
}

// SetPassphrase sets the passphrase by which a device becomes an owner. Devices that were let in by an
// earlier one are forgotten.
func (b *Book) SetPassphrase(text string) error {
	switch n := utf8.RuneCountInString(text); {
	case n < minPassphrase:
		return ErrShort
	case n > maxPassphrase:
		return ErrLong
	}
	b.hashing.Lock()
	hashed := hash(text)
	b.hashing.Unlock()
	b.mu.Lock()
	defer b.mu.Unlock()
	var kept, gone []*record
	for _, d := range b.devices {
		if d.By == "passphrase" {
			gone = append(gone, d)
		} else {
			kept = append(kept, d)
		}
	}
	if err := b.save(hashed, kept); err != nil {
		return err
	}
	for _, d := range gone {
		close(d.gone)
	}
	return nil
}

// HasPassphrase reports whether one has been set.
func (b *Book) HasPassphrase() bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.passphrase != ""
}

// Enter lets a device in as an owner by the passphrase, and gives the token that it shows from then on.
// from is where it comes from; it fails with [ErrWrong], [ErrNone] or a [*TooManyError].
func (b *Book) Enter(passphrase, name, from string) (token string, d Device, err error) {
	if err := b.tries.take(from, b.now()); err != nil {
		return "", Device{}, err
	}
	b.mu.Lock()
	want := b.passphrase
	b.mu.Unlock()
	switch {
	case want == "":
		return "", Device{}, ErrNone
	case utf8.RuneCountInString(passphrase) > maxPassphrase:
		return "", Device{}, ErrWrong
	}
	b.hashing.Lock()
	right := matches(want, passphrase)
	b.hashing.Unlock()
	if !right {
		return "", Device{}, ErrWrong
	}
	return b.letIn(name, Owner, "passphrase", want)
}

// letIn keeps a device. A passphrase that was changed in between lets nobody in.
func (b *Book) letIn(name string, role Role, by, passphrase string) (string, Device, error) {
	token := rand.Text() + rand.Text() // 260 bits
	b.mu.Lock()
	defer b.mu.Unlock()
	now := b.now().UTC().Truncate(time.Second)
	kept := slices.DeleteFunc(slices.Clone(b.devices), func(d *record) bool { return lapsed(d, now) })
	switch {
	case by == "passphrase" && b.passphrase != passphrase:
		return "", Device{}, ErrWrong
	case len(kept) >= maxDevices:
		return "", Device{}, ErrTooMany
	}
	d := &record{
		Device: Device{
			ID: strings.ToLower(rand.Text()[:12]), Name: plain(name), Role: role, PairedAt: now, SeenAt: now, By: by,
		},
		Digest: digest(token), gone: make(chan struct{}),
	}
	if err := b.save(b.passphrase, append(kept, d)); err != nil {
		return "", Device{}, err
	}
	return token, d.Device, nil
}

// plain is a name as it is shown: of a length that can be, and of characters that can be seen.
func plain(name string) string {
	name = strings.TrimSpace(strings.Map(func(r rune) rune {
		if r < ' ' || r == 0x7f || r == utf8.RuneError {
			return -1
		}
		return r
	}, name))
	if runes := []rune(name); len(runes) > maxName {
		name = string(runes[:maxName])
	}
	if name == "" {
		return "A device"
	}
	return name
}

func digest(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

func lapsed(d *record, now time.Time) bool {
	return now.Sub(d.SeenAt) > idleTime || now.Sub(d.PairedAt) > fullTime
}

// Known is the device that has a token; false where none has, or it was not seen for too long. gone is
// closed when it is forgotten.
func (b *Book) Known(token string) (d Device, gone <-chan struct{}, ok bool) {
	want := digest(token)
	b.mu.Lock()
	defer b.mu.Unlock()
	now := b.now().UTC().Truncate(time.Second)
	for i, r := range b.devices {
		if subtle.ConstantTimeCompare([]byte(r.Digest), []byte(want)) != 1 || lapsed(r, now) {
			continue
		}
		if now.Sub(r.SeenAt) >= seenEvery {
			seen := *r
			seen.SeenAt = now
			devices := slices.Clone(b.devices)
			devices[i] = &seen
			_ = b.save(b.passphrase, devices) // it is tried again when it is seen again
			return seen.Device, seen.gone, true
		}
		return r.Device, r.gone, true
	}
	return Device{}, nil, false
}

// Devices are those that are let in, the latest last.
func (b *Book) Devices() []Device {
	b.mu.Lock()
	defer b.mu.Unlock()
	list := []Device{}
	for _, d := range b.devices {
		if !lapsed(d, b.now()) {
			list = append(list, d.Device)
		}
	}
	return list
}

// Forget lets a device in no more. What it has open is closed.
func (b *Book) Forget(id string) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	i := slices.IndexFunc(b.devices, func(d *record) bool { return d.ID == id })
	if i < 0 {
		return ErrNoDevice
	}
	gone := b.devices[i]
	if err := b.save(b.passphrase, slices.Delete(slices.Clone(b.devices), i, i+1)); err != nil {
		return err
	}
	close(gone.gone)
	return nil
}
