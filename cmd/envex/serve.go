package main

import (
	"context"
	"crypto/rand"
	"encoding/base32"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"envex/about"
	"envex/access"
	"envex/api"
	"envex/core/plan"
	"envex/core/reason"
	"envex/demo"
	"envex/store"
	"envex/web"
	"envex/worked"
)

// memoryLimit is where the server begins to clean up harder, in bytes: it is to keep to 300 MB.
const memoryLimit = 256 << 20

const defaultAddr = "127.0.0.1:8420"

// newID is a fresh opaque id: 80 random bits.
func newID() plan.ID {
	var b [10]byte
	_, _ = rand.Read(b[:]) // never fails: crypto/rand ends the program instead
	return plan.ID(strings.ToLower(base32.StdEncoding.EncodeToString(b[:])))
}

// serving is how the application is served.
type serving struct {
	db, addr, networkAddr string
	verbose, lan, tls     bool
	cache                 string
	noCache               bool
	demo                  bool

	steps bool                 // over ports that are busy
	ready func(address string) // once it is served; nothing where it is nil
}

func (o *serving) register(c *cobra.Command) {
	c.Flags().StringVar(&o.addr, "addr", defaultAddr, "loopback address to listen on")
	c.Flags().BoolVar(&o.lan, "lan", false, "let other devices on this network in, by a passphrase or a pairing")
	c.Flags().BoolVar(&o.tls, "tls", false, "with --lan: by TLS, with a certificate that is made here")
	c.Flags().StringVar(&o.networkAddr, "lan-addr", defaultNetworkAddr, "address to listen on for other devices")
	c.Flags().StringVar(
		&o.cache, "cache", "", "folder where what was worked out stays for the next start; in that of the user when absent",
	)
	c.Flags().BoolVar(&o.noCache, "no-cache", false, "keep nothing of what was worked out for the next start")
	c.MarkFlagsMutuallyExclusive("cache", "no-cache")
}

// worked is where what is worked out stays from one start to the next: nil where it does not, or the user has no such
// folder. It fails where a folder was named and cannot be made.
func (o *serving) worked(log *slog.Logger) (api.Worked, error) {
	if o.noCache {
		return nil, nil
	}
	dir := o.cache
	if dir == "" {
		own, err := os.UserCacheDir()
		if err != nil {
			log.Info("what is worked out is not kept for the next start", "why", err)
			return nil, nil
		}
		dir = filepath.Join(own, "envex")
	}
	mark, err := thisProgram()
	if err != nil {
		return nil, err
	}
	folder, err := worked.Open(dir, mark)
	switch {
	case err != nil && o.cache == "":
		log.Info("what is worked out is not kept for the next start", "why", err)
		return nil, nil
	case err != nil:
		return nil, reason.Errorf("%s is no folder that can be written to: %w", dir, err)
	}
	return folder, nil
}

// thisProgram tells this program from every other that works things out: it does so otherwise after a change.
func thisProgram() (string, error) {
	path, err := os.Executable()
	if err != nil {
		return "", fmt.Errorf("which program this is: %w", err)
	}
	info, err := os.Stat(path)
	if err != nil {
		return "", fmt.Errorf("which program this is: %w", err)
	}
	return fmt.Sprintf("%s %d %d", about.This().Version, info.Size(), info.ModTime().UnixNano()), nil
}

func serveCommand() *cobra.Command {
	var o serving
	c := &cobra.Command{
		Use: "serve", Short: "Serve the application from a database file", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error { return o.serve(cmd) },
	}
	o.register(c)
	c.Flags().StringVar(&o.db, "db", "envex.db", "database file, made when it does not exist")
	c.Flags().BoolVar(&o.verbose, "verbose", false, "log every request")
	return c
}

func demoCommand() *cobra.Command {
	o := serving{demo: true}
	c := &cobra.Command{
		Use: "demo", Short: "Serve the application with the demo data, in a fresh database each time", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if o.db != "" {
				return o.serve(cmd)
			}
			dir, err := os.MkdirTemp("", "envex-demo-")
			if err != nil {
				return err
			}
			o.db = filepath.Join(dir, "demo.db")
			return errors.Join(o.serve(cmd), os.RemoveAll(dir))
		},
	}
	o.register(c)
	c.Flags().StringVar(&o.db, "db", "", "keep the demo in this database file instead of a fresh one")
	return c
}

func (o *serving) serve(cmd *cobra.Command) error {
	ctx := cmd.Context()
	if err := onlyHere(o.addr); err != nil {
		return err
	}
	if o.tls && !o.lan {
		return reason.Errorf("--tls is for other devices: say --lan too")
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(memoryLimit)
	}
	level := slog.LevelInfo
	if o.verbose {
		level = slog.LevelDebug
	}
	log := slog.New(slog.NewTextHandler(cmd.ErrOrStderr(), &slog.HandlerOptions{Level: level}))
	st, rescue, err := toServe(ctx, o.db)
	if err != nil {
		return err
	}
	if why := st.ReadOnly(); why != nil {
		log.Warn("the plan can only be looked at", "database", why.Of, "why", why.Why)
	} else if o.demo {
		if err := loadDemo(ctx, st); err != nil {
			return errors.Join(err, st.Close())
		}
	}
	return errors.Join(o.serveStore(cmd, st, rescue, log), st.Close())
}

// serveStore serves an open plan until the context ends.
func (o *serving) serveStore(cmd *cobra.Command, st *store.Store, rescue *api.Rescue, log *slog.Logger) error {
	ctx := cmd.Context()
	files, err := web.Files()
	if err != nil {
		return err
	}
	book, err := access.Open(o.db+".devices", time.Now)
	if err != nil {
		return err
	}
	scratch, err := os.MkdirTemp("", "envex-sounds-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(scratch)
	results, err := o.worked(log)
	if err != nil {
		return err
	}
	others := &network{addr: o.networkAddr, certificate: o.db + ".certificate", log: log}
	handler := api.New(
		api.Options{
			Context: ctx, Store: st, NewID: newID, Demo: demo.File, Web: files, Log: log, Rescue: rescue, Access: book,
			Network: others, Scratch: scratch, Worked: results,
		},
	)
	others.handler = handler
	listener, err := o.listen(cmd)
	if err != nil {
		return err
	}
	address := "http://" + listener.Addr().String()
	if err := announce(st, address); err != nil {
		return errors.Join(err, listener.Close())
	}
	said := fmt.Sprintf("Envex is at %s\n", address)
	if o.lan {
		if err := others.Open(o.tls); err != nil {
			return errors.Join(err, listener.Close())
		}
		code, err := book.Offer(access.Stand)
		if err != nil {
			return errors.Join(err, listener.Close())
		}
		said += sayNetwork(others.State(), code.Text)
	}
	if _, err := io.WriteString(cmd.OutOrStdout(), said); err != nil {
		return errors.Join(err, listener.Close())
	}
	if o.ready != nil {
		o.ready(address)
	}
	copied := make(chan struct{})
	go func() {
		defer close(copied)
		copyDaily(ctx, st, log)
	}()
	err = run(ctx, listener, handler)
	others.end()
	<-copied
	return err
}

// copyDaily makes a copy of each day that the server runs, until the context ends.
func copyDaily(ctx context.Context, st *store.Store, log *slog.Logger) {
	hour := time.NewTicker(time.Hour)
	defer hour.Stop()
	for {
		if err := st.DailyCopy(ctx); err != nil && ctx.Err() == nil {
			log.Error("no copy of today was made", "error", err)
		}
		select {
		case <-hour.C:
		case <-ctx.Done():
			return
		}
	}
}

// announce says in the lock file where a plan is served; one that is only looked at has no lock.
func announce(st *store.Store, address string) error {
	if st.ReadOnly() != nil {
		return nil
	}
	return st.Announce(address)
}

// run serves until the context ends, then lets requests finish.
func run(ctx context.Context, listener net.Listener, handler http.Handler) error {
	server := newServer(handler)
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	grace, cancel := context.WithTimeout(context.WithoutCancel(ctx), 3*time.Second)
	defer cancel()
	if server.Shutdown(grace) != nil {
		return server.Close() // what trickles in does not hold it up
	}
	return nil
}

func newServer(handler http.Handler) *http.Server {
	return &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute}
}

// loadDemo takes the demo in where it is not there yet; what was changed in it stays.
func loadDemo(ctx context.Context, st *store.Store) error {
	file, err := plan.Decode(demo.File)
	if err != nil {
		return reason.Errorf("the demo file: %w", err)
	}
	_, err = api.Import(ctx, st, newID, file, "Load the demo", plan.KeepOwn, false)
	return err
}
