package main

import (
	"context"
	"crypto/rand"
	"encoding/base32"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"envex/api"
	"envex/core/plan"
	"envex/demo"
	"envex/store"
	"envex/web"
)

const defaultAddr = "127.0.0.1:8420"

// newID is a fresh opaque id: 80 random bits.
func newID() plan.ID {
	var b [10]byte
	_, _ = rand.Read(b[:]) // never fails: crypto/rand ends the program instead
	return plan.ID(strings.ToLower(base32.StdEncoding.EncodeToString(b[:])))
}

func serveCommand() *cobra.Command {
	var db, addr string
	var verbose bool
	c := &cobra.Command{
		Use: "serve", Short: "Serve the application from a database file", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return serve(cmd, db, addr, verbose, false)
		},
	}
	c.Flags().StringVar(&db, "db", "envex.db", "database file, made when it does not exist")
	c.Flags().StringVar(&addr, "addr", defaultAddr, "address to listen on; loopback unless you say otherwise")
	c.Flags().BoolVar(&verbose, "verbose", false, "log every request")
	return c
}

func demoCommand() *cobra.Command {
	var db, addr string
	c := &cobra.Command{
		Use: "demo", Short: "Serve the application with the demo data, in a fresh database each time", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if db != "" {
				return serve(cmd, db, addr, false, true)
			}
			dir, err := os.MkdirTemp("", "envex-demo-")
			if err != nil {
				return err
			}
			return errors.Join(serve(cmd, filepath.Join(dir, "demo.db"), addr, false, true), os.RemoveAll(dir))
		},
	}
	c.Flags().StringVar(&db, "db", "", "keep the demo in this database file instead of a fresh one")
	c.Flags().StringVar(&addr, "addr", defaultAddr, "address to listen on")
	return c
}

func serve(cmd *cobra.Command, db, addr string, verbose, withDemo bool) error {
	ctx := cmd.Context()
	level := slog.LevelInfo
	if verbose {
		level = slog.LevelDebug
	}
	log := slog.New(slog.NewTextHandler(cmd.ErrOrStderr(), &slog.HandlerOptions{Level: level}))
	st, err := store.Open(ctx, db, time.Now)
	if err != nil {
		return err
	}
	if withDemo {
		if err := loadDemo(ctx, st); err != nil {
			return errors.Join(err, st.Close())
		}
	}
	files, err := web.Files()
	if err != nil {
		return errors.Join(err, st.Close())
	}
	handler := api.New(api.Options{Context: ctx, Store: st, NewID: newID, Demo: demo.File, Web: files, Log: log})
	listener, err := net.Listen("tcp", addr)
	if err != nil {
		return errors.Join(fmt.Errorf("cannot listen on %s: %w", addr, err), st.Close())
	}
	if _, err := fmt.Fprintf(cmd.OutOrStdout(), "Envex is at http://%s\n", listener.Addr()); err != nil {
		return errors.Join(err, st.Close())
	}
	return errors.Join(run(ctx, listener, handler), st.Close())
}

// run serves until the context ends, then lets requests finish.
func run(ctx context.Context, listener net.Listener, handler http.Handler) error {
	server := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute}
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	grace, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
	defer cancel()
	return server.Shutdown(grace)
}

// loadDemo takes the demo in where it is not there yet; what was changed in it stays.
func loadDemo(ctx context.Context, st *store.Store) error {
	file, err := plan.Decode(demo.File)
	if err != nil {
		return fmt.Errorf("the demo file: %w", err)
	}
	_, err = api.Import(ctx, st, newID, file, "Load the demo", plan.KeepOwn, false)
	return err
}
