package access_test

import (
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/access"
)

const words = "nine kelps in a row"

// clock is a time that a test moves.
type clock struct{ at time.Time }

func (c *clock) now() time.Time          { return c.at }
func (c *clock) pass(time time.Duration) { c.at = c.at.Add(time) }

func book(t *testing.T) (*access.Book, *clock, string) {
	t.Helper()
	c := &clock{time.Date(2027, 6, 12, 20, 0, 0, 0, time.UTC)}
	path := filepath.Join(t.TempDir(), "plan.db.devices")
	b, err := access.Open(path, c.now)
	require.NoError(t, err)
	return b, c, path
}

func TestADeviceIsLetInByThePassphrase(t *testing.T) {
	b, c, path := book(t)
	_, _, err := b.Enter(words, "Laptop", "a")
	require.ErrorIs(t, err, access.ErrNone)
	require.ErrorIs(t, b.SetPassphrase("short"), access.ErrShort)
	require.ErrorIs(t, b.SetPassphrase(strings.Repeat("x", 201)), access.ErrLong)
	require.NoError(t, b.SetPassphrase(words))
	_, _, err = b.Enter(words+"!", "Laptop", "a")
	require.ErrorIs(t, err, access.ErrWrong)
	token, d, err := b.Enter(words, " Lap\x00top ", "a")
	require.NoError(t, err)
	assert.Equal(t, "Laptop", d.Name)
	assert.Equal(t, access.Owner, d.Role)
	_, _, ok := b.Known(token)
	assert.True(t, ok)
	_, _, ok = b.Known("")
	assert.False(t, ok)
	_, _, ok = b.Known(strings.ToLower(token))
	assert.False(t, ok)

	kept, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.NotContains(t, string(kept), token, "a token cannot be had from the file")
	assert.NotContains(t, string(kept), words)
	assert.Contains(t, string(kept), "$argon2id$v=19$m=32768,t=3,p=2$")
	info, err := os.Stat(path)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())

	again, err := access.Open(path, c.now)
	require.NoError(t, err)
	known, gone, ok := again.Known(token)
	require.True(t, ok, "it is known after a restart")
	assert.Equal(t, d, known)
	require.NoError(t, again.SetPassphrase("another passphrase"))
	_, _, ok = again.Known(token)
	assert.False(t, ok, "a new passphrase forgets those of the old one")
	<-gone
}

func TestACodePairsOneDeviceForAWhile(t *testing.T) {
	b, c, _ := book(t)
	offer, err := b.Offer(access.Stand)
	require.NoError(t, err)
	assert.Regexp(t, `^[2-9A-HJKMNP-Z]{8}$`, offer.Text)
	_, d, err := b.Pair(strings.ToLower(offer.Text[:4]+"-"+offer.Text[4:]), "Phone", "a")
	require.NoError(t, err)
	assert.Equal(t, access.Stand, d.Role)
	_, _, err = b.Pair(offer.Text, "Another", "a")
	require.ErrorIs(t, err, access.ErrWrong, "it is used up")
	offer, err = b.Offer(access.Owner)
	require.NoError(t, err)
	c.pass(5 * time.Minute)
	_, _, err = b.Pair(offer.Text, "Late", "a")
	require.ErrorIs(t, err, access.ErrWrong)
	_, err = b.Offer("roadie")
	require.ErrorIs(t, err, access.ErrUnknownRole)

	offer, err = b.Offer(access.Owner)
	require.NoError(t, err)
	for i := range 10 {
		_, _, err = b.Pair("22222222", "Guess", string(rune('b'+i)))
		require.ErrorIs(t, err, access.ErrWrong)
	}
	_, _, err = b.Pair(offer.Text, "Phone", "z")
	require.ErrorIs(t, err, access.ErrWrong, "after ten wrong ones what was shown is void")
}

func TestTriesAreLimited(t *testing.T) {
	b, c, _ := book(t)
	require.NoError(t, b.SetPassphrase(words))
	for range 5 {
		_, _, err := b.Enter("not the passphrase", "x", "a")
		require.ErrorIs(t, err, access.ErrWrong)
	}
	_, _, err := b.Enter(words, "x", "a")
	var many *access.TooManyError
	require.ErrorAs(t, err, &many, "also the right one waits")
	assert.Equal(t, 20, many.Seconds())
	_, _, err = b.Pair("22222222", "x", "a")
	require.ErrorAs(t, err, &many, "codes and passphrases are one")
	_, _, err = b.Enter(words, "x", "b")
	require.NoError(t, err, "another is let in meanwhile")
	c.pass(20 * time.Second)
	_, _, err = b.Enter(words, "x", "a")
	require.NoError(t, err)

	many = nil
	// Many addresses together are limited too.
	for i := 0; !errors.As(err, &many); i++ {
		_, _, err = b.Pair("22222222", "x", strings.Repeat("y", i))
		require.Error(t, err)
		require.Less(t, i, 50)
	}
}

func TestADeviceIsForgotten(t *testing.T) {
	b, c, path := book(t)
	pair := func(name string) (string, access.Device) {
		offer, err := b.Offer(access.Stand)
		require.NoError(t, err)
		token, d, err := b.Pair(offer.Text, name, name)
		require.NoError(t, err)
		return token, d
	}
	token, d := pair("Phone")
	other, _ := pair("")
	_, gone, ok := b.Known(token)
	require.True(t, ok)
	require.NoError(t, b.Forget(d.ID))
	<-gone
	_, _, ok = b.Known(token)
	assert.False(t, ok)
	require.ErrorIs(t, b.Forget(d.ID), access.ErrNoDevice)
	require.Len(t, b.Devices(), 1)
	assert.Equal(t, "A device", b.Devices()[0].Name)

	// One that is seen stays, for half a year; one that is not goes after a month.
	for range 8 {
		c.pass(20 * 24 * time.Hour)
		_, _, ok = b.Known(other)
		require.True(t, ok)
	}
	c.pass(21 * 24 * time.Hour)
	_, _, ok = b.Known(other)
	assert.False(t, ok)
	token, _ = pair("Tablet")
	c.pass(31 * 24 * time.Hour)
	_, _, ok = b.Known(token)
	assert.False(t, ok)
	assert.Empty(t, b.Devices())

	require.NoError(t, os.WriteFile(path, []byte("{"), 0o600))
	_, err := access.Open(path, c.now)
	require.ErrorContains(t, err, "Remove it, and pair your devices anew")
}

func TestThereAreOnlySoManyDevices(t *testing.T) {
	b, c, _ := book(t)
	var err error
	for i := 0; err == nil; i++ {
		require.LessOrEqual(t, i, 50)
		offer, offered := b.Offer(access.Stand)
		require.NoError(t, offered)
		_, _, err = b.Pair(offer.Text, "x", "a")
		c.pass(time.Minute)
	}
	require.ErrorIs(t, err, access.ErrTooMany)
}

func FuzzPassphraseFile(f *testing.F) {
	f.Add([]byte(`{"passphrase":"$argon2id$v=19$m=8,t=1,p=1$AAAA$AAAA","devices":[]}`), "x")
	f.Add([]byte(`{"passphrase":"$argon2id$v=19$m=99999999,t=1,p=1$AAAA$AAAA","devices":[null]}`), "x")
	f.Fuzz(func(t *testing.T, data []byte, text string) {
		path := filepath.Join(t.TempDir(), "devices")
		require.NoError(t, os.WriteFile(path, data, 0o600))
		b, err := access.Open(path, time.Now)
		if err != nil {
			return
		}
		b.Devices()
		_, _, _ = b.Enter(text, text, text)
		_, _, _ = b.Known(text)
	})
}
