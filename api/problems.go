package api

import (
	"cmp"
	"context"
	"errors"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"envex/access"
	"envex/core/plan"
	"envex/core/reason"
	"envex/store"
)

// StaleProblem is the problem document of a write that was based on an old version: it
// says both, so that the writer can decide.
type StaleProblem struct {
	huma.ErrorModel
	ID      plan.ID `json:"id"`
	Read    int     `json:"read_version"`
	Current int     `json:"current_version"`
}

// kindOf is the status of an error that has a reason, and its title where it has one of its own.
func kindOf(err error) (status int, title string) {
	is := func(list ...error) bool {
		return slices.ContainsFunc(list, func(x error) bool { return errors.Is(err, x) })
	}
	var (
		stale    *store.StaleError
		movedOn  *store.MovedOnError
		invalid  *store.InvalidTurnError
		readOnly *store.ReadOnlyError
		older    *MovedError
		many     *access.TooManyError
		missing  *plan.NotFoundError
	)
	switch {
	case is(store.ErrReplaced, store.ErrForeign):
		return http.StatusConflict, "Not written"
	case errors.As(err, &readOnly):
		return http.StatusConflict, "Can only be looked at"
	case errors.As(err, &older):
		return http.StatusConflict, "Worked out from an older plan"
	case errors.As(err, &stale):
		return http.StatusConflict, "Changed meanwhile"
	case errors.As(err, &invalid), errors.As(err, &movedOn), is(store.ErrNothing, access.ErrNone, access.ErrTooMany):
		return http.StatusConflict, ""
	case is(store.ErrDiskFull):
		return http.StatusInsufficientStorage, "Disk full"
	case is(store.ErrOtherRequest):
		return http.StatusUnprocessableEntity, "Key used before"
	case errors.As(err, &missing), is(store.ErrNoCopy, store.ErrNoVersion, access.ErrNoDevice):
		return http.StatusNotFound, ""
	case is(access.ErrWrong):
		return http.StatusUnauthorized, ""
	case is(errBusy), errors.As(err, &many):
		return http.StatusTooManyRequests, ""
	}
	return http.StatusUnprocessableEntity, ""
}

// problem puts an error into a problem document (RFC 9457): its reason, where it has one. Paths of fields are given
// under prefix, which says where in the request they stand. What has no reason is logged, and nothing of it is said.
func (s *Server) problem(err error, prefix string) error {
	var (
		known    huma.StatusError
		stale    *store.StaleError
		inUse    *store.InUseError
		problems plan.Problems
	)
	switch {
	case errors.As(err, &known):
		return known
	case errors.As(err, &inUse):
		out := &huma.ErrorModel{
			Status: http.StatusConflict, Title: "Still in use", Detail: "It cannot be removed while it is in use.",
		}
		for _, u := range inUse.Uses {
			out.Errors = append(
				out.Errors, &huma.ErrorDetail{Message: u.String(), Location: string(u.Kind) + "/" + string(u.ID)},
			)
		}
		return out
	case errors.As(err, &problems):
		out := &huma.ErrorModel{Status: http.StatusUnprocessableEntity, Title: "Not valid", Detail: "Nothing was changed."}
		for _, p := range problems {
			out.Errors = append(out.Errors, &huma.ErrorDetail{Message: p.Message, Location: prefix + p.Path})
		}
		return out
	}
	words, ok := reason.Sentence(err)
	switch {
	case !ok && errors.Is(err, context.Canceled): // who asked has gone, or the server stops: nothing went wrong
		return huma.Error503ServiceUnavailable("The request was cancelled. Nothing was changed.")
	case !ok:
		s.log.Error("request failed", "error", err)
		return huma.Error500InternalServerError("Something went wrong inside Envex. Nothing was changed.")
	}
	status, title := kindOf(err)
	out := huma.ErrorModel{Status: status, Title: cmp.Or(title, http.StatusText(status)), Detail: words}
	if errors.As(err, &stale) {
		return &StaleProblem{ErrorModel: out, ID: stale.ID, Read: stale.Read, Current: stale.Current}
	}
	return &out
}

// refusal is problem of an error that left the plan as it was, and says so.
func (s *Server) refusal(err error) error {
	problem := s.problem(err, "")
	var model *huma.ErrorModel
	if errors.As(problem, &model) && model.Status == http.StatusUnprocessableEntity && len(model.Errors) == 0 {
		model.Detail += " Nothing was changed."
	}
	return problem
}
