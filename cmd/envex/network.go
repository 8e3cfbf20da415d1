package main

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"strings"
	"sync"
	"time"

	"envex/api"
	"envex/core/reason"
	"envex/lan"
)

// defaultNetworkAddr is where other devices reach the server: every network this machine is in.
const defaultNetworkAddr = ":8421"

// network is the listener that other devices reach. It is closed until the owner opens it.
type network struct {
	addr        string
	certificate string // the file that keeps it
	handler     http.Handler
	log         *slog.Logger

	mu          sync.Mutex
	server      *http.Server
	listener    net.Listener
	fingerprint string // of the certificate; "" while it is plain HTTP
}

// State says where the server is reached.
func (n *network) State() api.NetworkState {
	n.mu.Lock()
	defer n.mu.Unlock()
	if n.server == nil {
		return api.NetworkState{Addresses: []string{}}
	}
	scheme := "http"
	if n.fingerprint != "" {
		scheme = "https"
	}
	port := 0
	if a, ok := n.listener.Addr().(*net.TCPAddr); ok {
		port = a.Port
	}
	return api.NetworkState{
		On: true, Secure: n.fingerprint != "", Fingerprint: n.fingerprint,
		Addresses: lan.Addresses(scheme, port, lan.Own(), lan.Name()),
	}
}

// Open lets other devices reach the server, by TLS where it is to be secure.
func (n *network) Open(secure bool) error {
	n.mu.Lock()
	defer n.mu.Unlock()
	if n.server != nil && secure == (n.fingerprint != "") {
		return nil
	}
	var certificate tls.Certificate
	if secure {
		var err error
		if certificate, err = lan.Certificate(n.certificate, time.Now(), lan.Own(), lan.Name()); err != nil {
			return err
		}
	}
	n.shut()
	listener, err := net.Listen("tcp", n.addr)
	if err != nil {
		return reason.Errorf("cannot listen on %s: %w", n.addr, err)
	}
	n.listener, n.fingerprint = listener, lan.Fingerprint(certificate)
	n.server = newServer(n.handler)
	n.server.BaseContext = func(net.Listener) context.Context { return api.OverNetwork(context.Background()) }
	n.server.ErrorLog = slog.NewLogLogger(n.log.Handler(), slog.LevelDebug) // a device that turns a certificate down is no fault
	if secure {
		n.server.TLSConfig = &tls.Config{Certificates: []tls.Certificate{certificate}, MinVersion: tls.VersionTLS12}
	}
	go func(server *http.Server) {
		serve := server.Serve
		if secure {
			serve = func(l net.Listener) error { return server.ServeTLS(l, "", "") }
		}
		if err := serve(listener); !errors.Is(err, http.ErrServerClosed) && !errors.Is(err, net.ErrClosed) {
			n.log.Error("the network was lost", "error", err)
		}
	}(n.server)
	return nil
}

// Close lets no other device reach the server any more.
func (n *network) Close() error {
	n.mu.Lock()
	defer n.mu.Unlock()
	n.shut()
	return nil
}

// end is Close that waits for the answers that are under way.
func (n *network) end() {
	n.mu.Lock()
	defer n.mu.Unlock()
	<-n.shut()
}

// shut closes the listener at once, and what came by it after the answers that are under way, of which one
// may be to whoever asked for this. The lock is held.
func (n *network) shut() (ended chan struct{}) {
	ended = make(chan struct{})
	if n.server == nil {
		close(ended)
		return ended
	}
	_ = n.listener.Close() // it is to go, however it goes
	go func(server *http.Server) {
		defer close(ended)
		ctx, cancel := context.WithTimeout(context.Background(), time.Second)
		defer cancel()
		if server.Shutdown(ctx) != nil {
			_ = server.Close() // streams do not end by themselves
		}
	}(n.server)
	n.server, n.listener, n.fingerprint = nil, nil, ""
	return ended
}

// onlyHere refuses an address that others could reach: that is another choice.
func onlyHere(addr string) error {
	if lan.Loopback(addr) {
		return nil
	}
	return reason.Errorf(
		"--addr %s can be reached by whoever is on the same network, and who comes there is not asked who they are. Leave --addr as it is, and let other devices in with --lan: they are asked for a passphrase or a pairing",
		addr,
	)
}

// sayNetwork says where other devices reach the server, and what to mind.
func sayNetwork(state api.NetworkState, code string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "Other devices reach it at %s\n", strings.Join(state.Addresses, " or "))
	if len(state.Addresses) == 0 {
		b.Reset()
		b.WriteString("This machine is in no network that other devices could reach it by.\n")
	}
	if state.Secure {
		fmt.Fprintf(
			&b, "They show a certificate nobody vouches for. Compare its SHA-256 fingerprint: %s\n", state.Fingerprint,
		)
	} else {
		b.WriteString(
			"What is sent there is plain HTTP: on a shared network others can overhear it, the passphrase too. With --tls they cannot.\n",
		)
	}
	if code != "" {
		fmt.Fprintf(&b, "Pair a stand within five minutes: open /pair there and type %s-%s\n", code[:4], code[4:])
	}
	return b.String()
}
