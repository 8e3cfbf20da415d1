package access

import (
	"crypto/rand"
	"crypto/subtle"
	"slices"
	"strings"
	"time"
)

// A code pairs one device, soon after it was shown.
const (
	codeTime    = 5 * time.Minute
	codeLength  = 8 // of 31 letters and figures: 39 bits
	codeTries   = 10
	codesAtOnce = 8
)

// letters are those that cannot be taken for one another.
const letters = "23456789ABCDEFGHJKMNPQRSTUVWXYZ"

// Code is shown to be typed or scanned on the device that is to be paired.
type Code struct {
	Text  string    `json:"text"`
	Role  Role      `json:"role" enum:"owner,stand"`
	Until time.Time `json:"until"`
}

type code struct {
	Code
	wrong int // how often something else was tried since it was shown
}

// Offer makes a code that pairs one device.
func (b *Book) Offer(role Role) (Code, error) {
	if role != Owner && role != Stand {
		return Code{}, ErrUnknownRole
	}
	var text strings.Builder
	for text.Len() < codeLength {
		var one [1]byte
		_, _ = rand.Read(one[:]) // never fails: crypto/rand ends the program instead
		if i := int(one[0]) & 31; i < len(letters) {
			text.WriteByte(letters[i])
		}
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	now := b.now()
	b.codes = slices.DeleteFunc(b.codes, func(c code) bool { return !c.Until.After(now) })
	if len(b.codes) >= codesAtOnce {
		b.codes = b.codes[1:]
	}
	made := Code{Text: text.String(), Role: role, Until: now.Add(codeTime)}
	b.codes = append(b.codes, code{Code: made})
	return made, nil
}

// Pair lets a device in by a code, which is used up by it. It fails with [ErrWrong] or a [*TooManyError].
func (b *Book) Pair(text, name, from string) (token string, d Device, err error) {
	if err := b.tries.take(from, b.now()); err != nil {
		return "", Device{}, err
	}
	role, ok := b.use(text)
	if !ok {
		return "", Device{}, ErrWrong
	}
	return b.letIn(name, role, "code", "")
}

// use uses a code up; false where there is none of that text. After some wrong ones those that were shown
// are void.
func (b *Book) use(text string) (Role, bool) {
	text = strings.ToUpper(strings.NewReplacer(" ", "", "-", "").Replace(text))
	b.mu.Lock()
	defer b.mu.Unlock()
	now := b.now()
	for i, c := range b.codes {
		if subtle.ConstantTimeCompare([]byte(c.Text), []byte(text)) == 1 && c.Until.After(now) {
			b.codes = slices.Delete(b.codes, i, i+1)
			return c.Role, true
		}
	}
	for i := range b.codes {
		b.codes[i].wrong++
	}
	b.codes = slices.DeleteFunc(b.codes, func(c code) bool { return c.wrong >= codeTries })
	return "", false
}
