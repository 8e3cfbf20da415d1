package lan_test

import (
	"crypto/tls"
	"net/netip"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/lan"
)

var own = []netip.Addr{netip.MustParseAddr("192.168.1.20"), netip.MustParseAddr("2001:db8::20")}

func TestWhichNamesAreAnswered(t *testing.T) {
	tests := map[string]struct{ here, network bool }{
		"localhost":              {true, true},
		"LOCALHOST:8420":         {true, true},
		"127.0.0.1:8420":         {true, true},
		"127.9.9.9":              {true, true},
		"[::1]:8420":             {true, true},
		"[::1]":                  {true, true},
		"[::ffff:127.0.0.1]:1":   {true, true},
		"192.168.1.20:8421":      {false, true},
		"[2001:db8::20]:8421":    {false, true},
		"192.168.1.21:8421":      {false, false},
		"quay.local:8421":        {false, true},
		"QUAY.local.":            {false, true},
		"a.quay.local":           {false, false},
		".local":                 {false, false},
		"local":                  {false, false},
		"evil.example":           {false, false},
		"evil.example:8420":      {false, false},
		"quay.local.evil":        {false, false},
		"localhost.evil.example": {false, false},
		"[::1].evil.example":     {false, false},
		"[::1":                   {false, false},
		"[quay.local]":           {false, false},
		"127.0.0.1.evil.example": {false, false},
		"localhost:evil":         {false, false},
		"quay.local:99999":       {false, false},
		"":                       {false, false},
		":8420":                  {false, false},
	}
	for header, want := range tests {
		assert.Equal(t, want.here, lan.Here(header), "over loopback, %q", header)
		assert.Equal(t, want.network, lan.Known(header, own), "over the network, %q", header)
	}
}

func TestWhatIsLoopback(t *testing.T) {
	for address, want := range map[string]bool{
		"127.0.0.1:8420": true, "localhost:0": true, "[::1]:8420": true, "127.4.4.4:1": true,
		":8420": false, "0.0.0.0:8420": false, "[::]:8420": false, "192.168.1.20:8420": false, "quay.local:8420": false,
		"8420": false,
	} {
		assert.Equal(t, want, lan.Loopback(address), address)
	}
}

func TestAddressesCanBeTyped(t *testing.T) {
	assert.Equal(
		t, []string{"http://192.168.1.20:8421", "http://[2001:db8::20]:8421", "http://quay.local:8421"},
		lan.Addresses("http", 8421, own, "quay.local"),
	)
	assert.Equal(t, []string{}, lan.Addresses("https", 8421, nil, ""))
	for _, ip := range lan.Own() {
		assert.False(t, ip.IsLoopback() || ip.IsUnspecified())
	}
}

func TestACertificateIsKeptWhileItHolds(t *testing.T) {
	path := filepath.Join(t.TempDir(), "plan.db.certificate")
	now := time.Date(2027, 6, 12, 20, 0, 0, 0, time.UTC)
	get := func() tls.Certificate {
		c, err := lan.Certificate(path, now, own, "quay.local")
		require.NoError(t, err)
		return c
	}
	c := get()
	require.NoError(t, c.Leaf.VerifyHostname("quay.local"))
	require.NoError(t, c.Leaf.VerifyHostname("192.168.1.20"))
	assert.Regexp(t, `^([0-9A-F]{2}:){31}[0-9A-F]{2}$`, lan.Fingerprint(c))
	assert.Equal(t, lan.Fingerprint(c), lan.Fingerprint(get()))
	info, err := os.Stat(path)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	now = now.AddDate(0, 0, 370)
	assert.NotEqual(t, lan.Fingerprint(c), lan.Fingerprint(get()), "it is made anew before it lapses")
	require.NoError(t, os.WriteFile(path, []byte("no certificate"), 0o600))
	get()
	_, err = lan.Certificate(filepath.Join(path, "x"), now, own, "")
	require.Error(t, err)
	assert.Empty(t, lan.Fingerprint(tls.Certificate{}))
}

func FuzzHost(f *testing.F) {
	for _, seed := range []string{"localhost:8420", "[::1].evil.example", "quay.local", "[::ffff:127.0.0.1%eth0]:1"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, header string) {
		if lan.Here(header) {
			assert.True(t, lan.Known(header, nil), "what is loopback is known everywhere")
		}
	})
}
