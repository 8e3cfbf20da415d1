package main

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"

	classifier "github.com/google/licenseclassifier/v2"
	"github.com/google/licenseclassifier/v2/assets"

	"envex/about/licences"
)

// shipped is a part whose licence is looked for in a folder.
type shipped struct{ name, version, folder string }

// gather finds the licences of everything that ships with the program built in a folder.
func gather(root string) (licences.List, error) {
	parts, err := everything(root)
	if err != nil {
		return licences.List{}, err
	}
	knows, err := assets.DefaultClassifier()
	if err != nil {
		return licences.List{}, fmt.Errorf("read the texts of licences: %w", err)
	}
	var list licences.List
	known := map[string]int{}
	for _, p := range parts {
		id, text, err := licenceIn(knows, p.folder)
		if err != nil {
			return licences.List{}, fmt.Errorf("%s %s: %w", p.name, p.version, err)
		}
		at, ok := known[text]
		if !ok {
			at = len(list.Texts)
			known[text] = at
			list.Texts = append(list.Texts, text)
		}
		list.Parts = append(list.Parts, licences.Part{Name: p.name, Version: p.version, Licence: id, Text: at})
	}
	return list, nil
}

func everything(root string) ([]shipped, error) {
	modules, err := modulesOf(root)
	if err != nil {
		return nil, err
	}
	packages, err := packagesOf(root)
	if err != nil {
		return nil, err
	}
	all := append(modules, packages...)
	slices.SortFunc(all, func(a, b shipped) int {
		return cmp.Or(cmp.Compare(a.name, b.name), cmp.Compare(a.version, b.version))
	})
	return slices.Compact(all), nil
}

// modulesOf are the modules that the program is linked from on any system it is released for, and Go itself.
func modulesOf(root string) ([]shipped, error) {
	found := map[shipped]bool{}
	for _, system := range []string{"linux", "darwin", "windows"} {
		list := exec.Command(
			"go", "list", "-deps", "-tags", "nomsgpack", "-f",
			"{{with .Module}}{{if not .Main}}{{.Path}}\t{{.Version}}\t{{.Dir}}{{end}}{{end}}",
			"./cmd/envex",
		)
		list.Dir, list.Env = root, append(os.Environ(), "GOOS="+system, "CGO_ENABLED=0")
		out, err := list.Output()
		if err != nil {
			return nil, fmt.Errorf("list modules for %s: %w", system, err)
		}
		for line := range strings.Lines(string(out)) {
			if f := strings.Split(strings.TrimSpace(line), "\t"); len(f) == 3 {
				found[shipped{f[0], f[1], f[2]}] = true
			}
		}
	}
	var all []shipped
	for x := range found {
		all = append(all, x)
	}
	goroot, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, fmt.Errorf("find Go: %w", err)
	}
	return append(
		all, shipped{"Go standard library", "of the compiler it was built by", strings.TrimSpace(string(goroot))},
	), nil
}

// packagesOf are the packages that are installed for the pages, without those that only build or test them.
func packagesOf(root string) ([]shipped, error) {
	data, err := os.ReadFile(filepath.Join(root, "package-lock.json"))
	if err != nil {
		return nil, fmt.Errorf("read what is installed: %w", err)
	}
	var lock struct {
		Packages map[string]struct {
			Version  string
			Dev      bool
			Link     bool
			Optional bool
			Peer     bool
		}
	}
	if err := json.Unmarshal(data, &lock); err != nil {
		return nil, fmt.Errorf("read what is installed: %w", err)
	}
	var all []shipped
	for at, p := range lock.Packages {
		i := strings.LastIndex(at, "node_modules/")
		if i < 0 || p.Dev || p.Link || p.Peer {
			continue
		}
		folder := filepath.Join(root, filepath.FromSlash(at))
		if _, err := os.Stat(folder); p.Optional && errors.Is(err, os.ErrNotExist) {
			continue // for another system
		}
		all = append(all, shipped{at[i+len("node_modules/"):], p.Version, folder})
	}
	return all, nil
}

// licenceIn finds the licence that lies in a folder: its SPDX identifiers, and its text.
func licenceIn(knows *classifier.Classifier, folder string) (id, text string, err error) {
	entries, err := os.ReadDir(folder)
	if err != nil {
		return "", "", err
	}
	for _, e := range entries {
		name := strings.ToUpper(e.Name())
		if e.IsDir() || !strings.HasPrefix(name, "LICENSE") && !strings.HasPrefix(name, "LICENCE") &&
			!strings.HasPrefix(name, "COPYING") {
			continue
		}
		data, err := read(filepath.Join(folder, e.Name()))
		if err != nil {
			return "", "", err
		}
		var ids []string
		for _, m := range knows.Match(data).Matches {
			if m.MatchType == "License" && !slices.Contains(ids, m.Name) {
				ids = append(ids, m.Name)
			}
		}
		if len(ids) > 0 {
			return strings.Join(ids, " AND "), strings.TrimSpace(strings.ReplaceAll(string(data), "\r\n", "\n")), nil
		}
	}
	return named(folder)
}

// named is the licence that a package without a text of it names.
func named(folder string) (id, text string, err error) {
	data, err := read(filepath.Join(folder, "package.json"))
	if err != nil {
		return "", "", errors.New("no licence that is known lies in its folder")
	}
	var about struct{ License string }
	if err := json.Unmarshal(data, &about); err != nil || about.License == "" {
		return "", "", errors.New("no licence that is known lies in its folder, and it names none")
	}
	return about.License, about.License, nil
}

// read reads a file that is no larger than a licence is.
func read(name string) ([]byte, error) {
	f, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return io.ReadAll(io.LimitReader(f, 1<<20))
}
