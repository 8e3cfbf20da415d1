package main

import (
	"crypto/tls"
	"encoding/json"
	"net/http"
	"net/http/cookiejar"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/lan"
)

func TestNothingButLoopbackIsServedWithoutAChoice(t *testing.T) {
	db := filepath.Join(t.TempDir(), "x.db")
	for _, addr := range []string{":0", "0.0.0.0:0", "[::]:0", "192.168.1.20:0"} {
		_, err := run_(t, "serve", "--db", db, "--addr", addr)
		require.ErrorContains(t, err, "let other devices in with --lan")
	}
	_, err := run_(t, "serve", "--db", db, "--tls")
	require.ErrorContains(t, err, "say --lan too")
	assert.NoFileExists(t, db, "it was refused before anything was made")
}

// by is the address of the network listener from this machine, where there may be no network.
func by(t *testing.T, db, scheme string) string {
	t.Helper()
	out, err := run_(t, "network", "--db", db)
	require.NoError(t, err)
	if len(lan.Own()) == 0 && lan.Name() == "" {
		t.Skip("this machine is in no network: " + out)
	}
	port := regexp.MustCompile(`:(\d+)( or |\n)`).FindStringSubmatch(out)
	require.NotNil(t, port, out)
	assert.NotContains(t, out, "[::]")
	return scheme + "://127.0.0.1:" + port[1]
}

func TestADeviceIsPairedOverTheNetwork(t *testing.T) {
	db := filepath.Join(t.TempDir(), "x.db")
	_, stop := served(t, "demo", "--db", db, "--lan-addr", "127.0.0.1:0")
	_, err := run_(t, "network", "pair", "--db", db)
	require.ErrorContains(t, err, "let them first")
	out, err := run_(t, "network", "on", "--db", db)
	require.NoError(t, err)
	assert.Contains(t, out, "plain HTTP: on a shared network others can overhear it")
	address := by(t, db, "http")
	status, _ := fetch(t, http.MethodGet, address+"/api/plan", nil)
	assert.Equal(t, http.StatusUnauthorized, status, "by the network it is asked who comes, also on this machine")

	out, err = run_(t, "network", "pair", "--db", db, "--role", "stand")
	require.NoError(t, err)
	code := regexp.MustCompile(`^\S{4}-\S{4}`).FindString(out)
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	phone := &http.Client{Jar: jar}
	answer, err := phone.Post(
		address+"/api/session/pair", "application/json", strings.NewReader(`{"code":"`+code+`","name":"Phone"}`),
	)
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	require.Equal(t, http.StatusOK, answer.StatusCode)
	get := func() int {
		answer, err := phone.Get(address + "/api/plan")
		if err != nil {
			return 0
		}
		require.NoError(t, answer.Body.Close())
		return answer.StatusCode
	}
	assert.Equal(t, http.StatusOK, get())
	out, err = run_(t, "network", "--db", db)
	require.NoError(t, err)
	device := regexp.MustCompile(`(?m)^(\S+)  stand  Phone`).FindStringSubmatch(out)
	require.NotNil(t, device, out)
	_, err = run_(t, "network", "forget", device[1], "--db", db)
	require.NoError(t, err)
	assert.Equal(t, http.StatusUnauthorized, get())
	_, err = run_(t, "network", "off", "--db", db)
	require.NoError(t, err)
	assert.Zero(t, get(), "nobody is there any more")
	require.NoError(t, stop())
	_, err = run_(t, "network", "--db", db)
	require.ErrorContains(t, err, "start it first")
}

func TestTheNetworkIsServedByTLS(t *testing.T) {
	db := filepath.Join(t.TempDir(), "x.db")
	_, stop := served(t, "demo", "--db", db, "--lan-addr", "127.0.0.1:0")
	_, err := run_(t, "network", "on", "--db", db)
	require.NoError(t, err)
	out, err := run_(t, "network", "on", "--tls", "--db", db)
	require.NoError(t, err)
	said := regexp.MustCompile(`([0-9A-F]{2}:){31}[0-9A-F]{2}`).FindString(out)
	address := by(t, db, "https")
	var shown string
	client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{InsecureSkipVerify: true,
		VerifyPeerCertificate: nil, VerifyConnection: func(c tls.ConnectionState) error {
			shown = lan.Fingerprint(tls.Certificate{Certificate: [][]byte{c.PeerCertificates[0].Raw}})
			return nil
		}}}}
	answer, err := client.Get(address + "/api/session")
	require.NoError(t, err)
	var session api.Session
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&session))
	require.NoError(t, answer.Body.Close())
	assert.True(t, session.Secure)
	assert.Equal(t, said, shown, "the fingerprint that is said is the one that is shown")
	require.NoError(t, stop())
}

func TestAPassphraseIsReadFromStandardInput(t *testing.T) {
	db := filepath.Join(t.TempDir(), "x.db")
	_, stop := served(t, "demo", "--db", db)
	c := root()
	c.SetIn(strings.NewReader("nine kelps in a row\n"))
	c.SetOut(&strings.Builder{})
	c.SetArgs([]string{"network", "passphrase", "--db", db})
	require.NoError(t, c.ExecuteContext(t.Context()))
	out, err := run_(t, "network", "--db", db)
	require.NoError(t, err)
	assert.NotContains(t, out, "No passphrase")
	require.NoError(t, stop())
}
