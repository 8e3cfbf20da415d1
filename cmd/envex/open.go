package main

import (
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"syscall"

	"github.com/spf13/cobra"

	"envex/about"
	"envex/about/licences"
	"envex/core/reason"
	"envex/store"
)

// openOwn opens the player's own plan in the folder of their data, and the browser; where it is open already, the
// browser is shown that one.
func openOwn(cmd *cobra.Command, browse bool) error {
	folder, err := dataFolder(runtime.GOOS, os.Getenv)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return err
	}
	o := serving{db: filepath.Join(folder, "plan.db"), addr: defaultAddr, networkAddr: defaultNetworkAddr, steps: true}
	show := func(address string) {
		if !browse {
			return
		}
		if err := openBrowser(address); err != nil {
			fmt.Fprintf(cmd.ErrOrStderr(), "The browser did not open (%v): open %s yourself.\n", err, address)
		}
	}
	o.ready = show
	err = o.serve(cmd)
	var owned *store.OwnedError
	if errors.As(err, &owned) && owned.Owner.Address != "" {
		show(owned.Owner.Address)
		_, err = fmt.Fprintf(cmd.OutOrStdout(), "Envex is running already, at %s\n", owned.Owner.Address)
	}
	return err
}

// dataFolder is where a player's own plan is, by the custom of their system: never the folder that Envex is started in.
func dataFolder(system string, env func(string) string) (string, error) {
	set := func(name string) string {
		if dir := env(name); filepath.IsAbs(dir) {
			return dir
		}
		return ""
	}
	switch system {
	case "windows":
		if dir := set("LocalAppData"); dir != "" {
			return filepath.Join(dir, "Envex"), nil
		}
		return "", reason.Errorf("there is no folder for data: LocalAppData is not set")
	case "darwin":
		if home := set("HOME"); home != "" {
			return filepath.Join(home, "Library", "Application Support", "Envex"), nil
		}
	default:
		if dir := set("XDG_DATA_HOME"); dir != "" {
			return filepath.Join(dir, "envex"), nil
		}
		if home := set("HOME"); home != "" {
			return filepath.Join(home, ".local", "share", "envex"), nil
		}
	}
	return "", reason.Errorf("there is no folder for data: HOME is not set")
}

// openBrowser shows an address in the player's browser: the one that BROWSER names, else that of the system.
func openBrowser(address string) error {
	name, args := "xdg-open", []string{address}
	switch runtime.GOOS {
	case "windows":
		name, args = "rundll32", []string{"url.dll,FileProtocolHandler", address}
	case "darwin":
		name = "open"
	}
	if own := os.Getenv("BROWSER"); own != "" {
		name, args = own, []string{address}
	}
	c := exec.Command(name, args...)
	if err := c.Start(); err != nil {
		return err
	}
	go func() { _ = c.Wait() }() // it lives as long as it likes
	return nil
}

// portsTried is how many ports after a busy one are tried.
const portsTried = 20

// listen listens on an address, or, where steps says so, on the next port that is free; it says so then.
func (o *serving) listen(cmd *cobra.Command) (net.Listener, error) {
	listener, err := net.Listen("tcp", o.addr)
	if err == nil || !o.steps ||
		!errors.Is(err, syscall.EADDRINUSE) && !strings.Contains(err.Error(), "in use") &&
			!strings.Contains(err.Error(), "Only one usage") {
		if err != nil {
			return nil, reason.Errorf("cannot listen on %s: %w", o.addr, err)
		}
		return listener, nil
	}
	host, port, err := net.SplitHostPort(o.addr)
	if err != nil {
		return nil, err
	}
	first, err := strconv.Atoi(port)
	if err != nil {
		return nil, err
	}
	for n := first + 1; n <= first+portsTried; n++ {
		if listener, err = net.Listen("tcp", net.JoinHostPort(host, strconv.Itoa(n))); err == nil {
			fmt.Fprintf(cmd.ErrOrStderr(), "Port %d is taken by another program: %d is used.\n", first, n)
			return listener, nil
		}
	}
	return nil, reason.Errorf("cannot listen on %s, nor on the %d ports after it: %w", o.addr, portsTried, err)
}

func versionCommand() *cobra.Command {
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "version", Short: "Print the version", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if asJSON {
				return printJSON(cmd, about.This())
			}
			_, err := fmt.Fprintln(cmd.OutOrStdout(), about.This())
			return err
		},
	}
	asJSON.register(c, "print it as JSON")
	return c
}

func licencesCommand() *cobra.Command {
	var texts bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "licences", Short: "List what ships with Envex, and the licences it is given under", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			list, err := licences.Gathered()
			if err != nil || asJSON {
				return errors.Join(err, printJSON(cmd, list))
			}
			out := cmd.OutOrStdout()
			for _, p := range list.Parts {
				if _, err := fmt.Fprintf(out, "%s\t%s %s\n", p.Licence, p.Name, p.Version); err != nil {
					return err
				}
				if !texts {
					continue
				}
				if _, err := fmt.Fprintf(out, "\n%s\n\n", list.Texts[p.Text]); err != nil {
					return err
				}
			}
			return nil
		},
	}
	c.Flags().BoolVar(&texts, "texts", false, "print the text of each as well")
	asJSON.register(c, "print them as JSON")
	return c
}
