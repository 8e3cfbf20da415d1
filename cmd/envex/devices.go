package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"envex/api"
	"envex/core/reason"
	"envex/store"
)

// networkCommand speaks to an Envex that is running about the devices that may reach it.
func networkCommand() *cobra.Command {
	var db string
	c := &cobra.Command{
		Use: "network", Short: "List and manage the devices that may reach a running Envex",
		Long: "Speaks to the Envex that has the database open. Without a word more it lists the devices.",
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return askDevices(cmd, db, http.MethodGet, "/api/devices", nil)
		},
	}
	c.PersistentFlags().StringVar(&db, "db", "envex.db", "database file")
	var secure bool
	on := &cobra.Command{
		Use: "on", Short: "Serve on the local network too", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return askDevices(cmd, db, http.MethodPut, "/api/network", map[string]bool{"on": true, "secure": secure})
		},
	}
	on.Flags().BoolVar(&secure, "tls", false, "by TLS, with a certificate that is made here")
	off := &cobra.Command{
		Use: "off", Short: "Stop serving on the network", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return askDevices(cmd, db, http.MethodPut, "/api/network", map[string]bool{"on": false})
		},
	}
	passphrase := &cobra.Command{
		Use: "passphrase", Short: "Set the passphrase that makes a device an owner, from standard input", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			text, err := io.ReadAll(io.LimitReader(cmd.InOrStdin(), 1000))
			if err != nil {
				return err
			}
			return askDevices(
				cmd, db, http.MethodPut, "/api/passphrase",
				map[string]string{"passphrase": strings.TrimRight(string(text), "\r\n")},
			)
		},
	}
	forget := &cobra.Command{
		Use: "forget ID", Short: "Revoke the access of a device", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return askDevices(cmd, db, http.MethodDelete, "/api/devices/"+args[0], nil)
		},
	}
	c.AddCommand(on, off, pairCommand(&db), passphrase, forget)
	return c
}

func pairCommand(db *string) *cobra.Command {
	var role string
	c := &cobra.Command{
		Use: "pair", Short: "Make a pairing code for one device", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			var p api.Pairing
			if err := askRunning(cmd, *db, http.MethodPost, "/api/pairings", map[string]string{"role": role}, &p); err != nil {
				return err
			}
			if _, err := fmt.Fprintf(
				cmd.OutOrStdout(), "%s-%s pairs one device as %s until %s\n", p.Code[:4], p.Code[4:], p.Role,
				p.Until.Local().Format("15:04:05"),
			); err != nil {
				return err
			}
			for _, l := range p.Links {
				if _, err := fmt.Fprintln(cmd.OutOrStdout(), l); err != nil {
					return err
				}
			}
			return nil
		},
	}
	c.Flags().StringVar(&role, "role", "stand", "stand (reads, and writes notes and faults of shows) or owner")
	return c
}

// askDevices asks the running Envex something, and prints who may reach it then.
func askDevices(cmd *cobra.Command, db, method, path string, body any) error {
	var d api.Devices
	if err := askRunning(cmd, db, method, path, body, &d); err != nil {
		return err
	}
	_, err := io.WriteString(cmd.OutOrStdout(), deviceList(d))
	return err
}

func deviceList(d api.Devices) string {
	var b strings.Builder
	if d.Network.On {
		b.WriteString(sayNetwork(d.Network, ""))
	} else {
		b.WriteString("Other devices cannot reach it.\n")
	}
	if !d.Passphrase {
		b.WriteString("No passphrase has been set: devices are paired by a code.\n")
	}
	for _, x := range d.Devices {
		fmt.Fprintf(&b, "%s  %-6s %s, seen %s\n", x.ID, x.Role, x.Name, x.SeenAt.Local().Format(time.DateTime))
	}
	return b.String()
}

// askRunning asks the Envex that has a database open.
func askRunning(cmd *cobra.Command, db, method, path string, body, into any) error {
	var owned *store.OwnedError
	if err := store.Held(db); !errors.As(err, &owned) || owned.Owner.Address == "" {
		return reason.Errorf("no Envex has %s open: start it first, with envex serve --db %s", db, db)
	}
	var data io.Reader
	if body != nil {
		text, err := json.Marshal(body)
		if err != nil {
			return err
		}
		data = bytes.NewReader(text)
	}
	return (&running{ctx: cmd.Context(), address: owned.Owner.Address, owned: owned}).decode(method, path, data, into)
}
