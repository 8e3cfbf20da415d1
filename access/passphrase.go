package access

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"
)

const (
	minPassphrase = 10
	maxPassphrase = 200
)

// The cost of a hash: the second recommended option of RFC 9106, section 4, with half its memory, since
// the server keeps to 300 MB.
const (
	argonTime    = 3
	argonKiB     = 32 * 1024
	argonLanes   = 2
	argonKeySize = 32
	argonSalt    = 16
)

// hash writes a passphrase as argon2id does, with a salt of its own.
func hash(text string) string {
	salt := make([]byte, argonSalt)
	_, _ = rand.Read(salt) // never fails: crypto/rand ends the program instead
	key := argon2.IDKey([]byte(text), salt, argonTime, argonKiB, argonLanes, argonKeySize)
	b64 := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf(
		"$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, argonKiB, argonTime, argonLanes, b64(salt), b64(key),
	)
}

// matches reports whether a passphrase is the one that was hashed.
func matches(hashed, text string) bool {
	parts := strings.Split(hashed, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	var kib, time uint32
	var lanes uint8
	if n, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=%d", &kib, &time, &lanes); n != 3 || err != nil || kib > 1<<17 ||
		time == 0 || time > 10 || lanes == 0 {
		return false
	}
	salt, err := base64.RawStdEncoding.DecodeString(parts[4])
	if err != nil {
		return false
	}
	want, err := base64.RawStdEncoding.DecodeString(parts[5])
	if err != nil || len(want) == 0 {
		return false
	}
	key := argon2.IDKey([]byte(text), salt, time, kib, lanes, uint32(len(want)))
	return subtle.ConstantTimeCompare(key, want) == 1
}
