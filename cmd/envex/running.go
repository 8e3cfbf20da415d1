package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"net/url"
	"os"
	"strings"
	"time"

	"envex/api"
	"envex/core/plan"
	"envex/core/reason"
	"envex/store"
)

// book is a plan to read from and to take files into: a database that this program opens, or one that a
// running Envex has open, by way of that.
type book interface {
	Plan() (*plan.Plan, error)
	Import(ctx context.Context, file *plan.Plan, label string, resolve plan.Resolution, dry bool) (api.ImportResult, error)
	Backup(ctx context.Context, to string) (store.Copy, error)
	Restore(ctx context.Context, file string) (api.RestoredPlan, error)
	Close() error
}

// openBook opens a database, or turns to the Envex that has it.
func openBook(ctx context.Context, db string) (book, error) {
	st, err := store.Open(ctx, db, time.Now)
	var owned *store.OwnedError
	switch {
	case err == nil:
		return &opened{st}, nil
	case errors.As(err, &owned) && owned.Owner.Address != "":
		return &running{ctx: ctx, address: owned.Owner.Address, owned: owned}, nil
	}
	return nil, err
}

// existingBook is openBook for a database that must be there, and that may be one that cannot be written to.
func existingBook(ctx context.Context, db string) (book, error) {
	if _, err := os.Stat(db); err != nil {
		return nil, err
	}
	b, err := openBook(ctx, db)
	var only *store.ReadOnlyError
	if !errors.As(err, &only) {
		return b, err
	}
	st, err := store.Look(ctx, db, *only, time.Now)
	if err != nil {
		return nil, err
	}
	return &opened{st}, nil
}

type opened struct{ *store.Store }

func (o *opened) Plan() (*plan.Plan, error) {
	p, _ := o.Store.Plan()
	return p, nil
}

func (o *opened) Import(
	ctx context.Context, file *plan.Plan, label string, resolve plan.Resolution, dry bool,
) (api.ImportResult, error) {
	return api.Import(ctx, o.Store, newID, file, label, resolve, dry)
}

// running is a plan that another Envex serves.
type running struct {
	ctx     context.Context
	address string
	owned   *store.OwnedError
}

// Close leaves the other running.
func (r *running) Close() error { return nil }

// Plan asks the other for its plan.
func (r *running) Plan() (*plan.Plan, error) {
	var data bytes.Buffer
	if err := r.stream(http.MethodGet, "/api/export", nil, &data); err != nil {
		return nil, err
	}
	return plan.Decode(data.Bytes())
}

// Import has the other take a file in.
func (r *running) Import(
	_ context.Context, file *plan.Plan, _ string, resolve plan.Resolution, dry bool,
) (api.ImportResult, error) {
	data, err := plan.Encode(file)
	if err != nil {
		return api.ImportResult{}, err
	}
	query := url.Values{}
	if resolve != "" {
		query.Set("resolve", string(resolve))
	}
	if dry {
		query.Set("dry_run", "true")
	}
	var out api.ImportResult
	return out, r.decode(http.MethodPost, "/api/import?"+query.Encode(), bytes.NewReader(data), &out)
}

// decode is stream of an answer that is JSON.
func (r *running) decode(method, path string, body io.Reader, into any) error {
	var answer bytes.Buffer
	if err := r.stream(method, path, body, &answer); err != nil {
		return err
	}
	if err := json.Unmarshal(answer.Bytes(), into); err != nil {
		return reason.Errorf("read the answer of %s: %w", r.address, err)
	}
	return nil
}

// stream asks the other for something, and writes what it answers. A body that is a file is sent as it is,
// any other as JSON.
func (r *running) stream(method, path string, body io.Reader, into io.Writer) error {
	ctx, cancel := context.WithTimeout(r.ctx, time.Minute)
	defer cancel()
	request, err := http.NewRequestWithContext(ctx, method, r.address+path, body)
	if err != nil {
		return err
	}
	if body != nil {
		request.Header.Set("Content-Type", "application/json")
		if _, file := body.(*os.File); file {
			request.Header.Set("Content-Type", "application/octet-stream")
		}
	}
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		return reason.Errorf("%w, and it does not answer: %w", r.owned, err)
	}
	defer answer.Body.Close()
	if answer.StatusCode/100 == 2 {
		if _, err := io.Copy(into, answer.Body); err != nil {
			return reason.Errorf("read the answer of %s: %w", r.address, err)
		}
		return nil
	}
	data, err := io.ReadAll(io.LimitReader(answer.Body, api.MaxBody))
	if err != nil {
		return reason.Errorf("read the answer of %s: %w", r.address, err)
	}
	return refusal(r.address, answer.StatusCode, data)
}

// refusal is what a problem document says.
func refusal(address string, status int, data []byte) error {
	var refused struct {
		Detail string `json:"detail"`
		Errors []struct {
			Location string `json:"location"`
			Message  string `json:"message"`
		} `json:"errors"`
	}
	if err := json.Unmarshal(data, &refused); err != nil {
		return reason.Errorf("%s answered with status %d", address, status)
	}
	var problems plan.Problems
	for _, p := range refused.Errors {
		problems = append(problems, plan.Problem{Path: p.Location, Message: p.Message})
	}
	if len(problems) > 0 {
		return problems
	}
	return reason.Errorf("%s", strings.TrimSuffix(refused.Detail, "."))
}
