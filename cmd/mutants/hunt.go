package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"
)

// verdict is what the tests said of a mistake.
type verdict int

const (
	lives verdict = iota
	dies
	isNone // it does not compile, so that nobody could make it
)

// hunt plants mistakes and has tests look for them.
type hunt struct {
	n        int
	seed     uint64
	patience time.Duration
	test     func(ctx context.Context, folder, overlay string, patience time.Duration) (verdict, error)
}

// in plants mistakes in one package, until as many as wanted compiled or there are no more.
func (h *hunt) in(ctx context.Context, folder string) ([]mutant, error) {
	all, err := mistakes(folder)
	if err != nil {
		return nil, err
	}
	if len(all) == 0 {
		return nil, fmt.Errorf("no mistake can be planted in %s", folder)
	}
	rand.New(rand.NewPCG(h.seed, 0)).Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	var found []mutant
	for _, m := range all {
		if len(found) == h.n {
			break
		}
		v, err := h.try(ctx, folder, m)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", m.at, err)
		}
		if v != isNone {
			m.died = v == dies
			found = append(found, m)
		}
	}
	return found, nil
}

// try has the tests of a package run with a mistake laid over its source.
func (h *hunt) try(ctx context.Context, folder string, m mutant) (verdict, error) {
	src, err := os.ReadFile(m.file)
	if err != nil {
		return lives, err
	}
	dir, err := os.MkdirTemp("", "mutant")
	if err != nil {
		return lives, err
	}
	defer os.RemoveAll(dir)
	changed, overlay := filepath.Join(dir, "changed.go"), filepath.Join(dir, "overlay.json")
	full, err := filepath.Abs(m.file)
	if err != nil {
		return lives, err
	}
	lay, err := json.Marshal(map[string]any{"Replace": map[string]string{full: changed}})
	if err != nil {
		return lives, err
	}
	text := string(src[:m.from]) + m.new + string(src[m.to:])
	if err := errors.Join(os.WriteFile(changed, []byte(text), 0o600), os.WriteFile(overlay, lay, 0o600)); err != nil {
		return lives, err
	}
	return h.test(ctx, folder, overlay, h.patience)
}

// goTest has the tests of a package run over an overlay.
func goTest(ctx context.Context, folder, overlay string, patience time.Duration) (verdict, error) {
	if out, err := exec.CommandContext(ctx, "go", "vet", "-overlay", overlay, folder).CombinedOutput(); err != nil {
		if ctx.Err() != nil {
			return lives, ctx.Err()
		}
		if _, ok := errors.AsType[*exec.ExitError](err); !ok {
			return lives, fmt.Errorf("%w: %s", err, out)
		}
		return isNone, nil
	}
	run := exec.CommandContext(
		ctx, "go", "test", "-vet=off", "-failfast", "-overlay", overlay, "-timeout", patience.String(), folder,
	)
	out, err := run.CombinedOutput()
	switch {
	case ctx.Err() != nil:
		return lives, ctx.Err()
	case err == nil:
		return lives, nil
	case strings.Contains(string(out), "[build failed]"), strings.Contains(string(out), "[setup failed]"):
		return isNone, nil
	}
	return dies, nil
}
