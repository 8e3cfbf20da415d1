package api

import (
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"envex/core/plan"
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

// problem puts an error into a problem document (RFC 9457). Paths of fields are given
// under prefix, which says where in the request they stand.
func (s *Server) problem(err error, prefix string) error {
	var (
		stale    *store.StaleError
		inUse    *store.ErrInUse
		movedOn  *store.MovedOnError
		invalid  *store.InvalidTurnError
		older    *MovedError
		readOnly *store.ReadOnlyError
		unusable *store.UnusableError
		problems plan.Problems
		known    huma.StatusError
	)
	switch {
	case errors.As(err, &known):
		return known
	case errors.Is(err, store.ErrReplaced), errors.Is(err, store.ErrForeign):
		return &huma.ErrorModel{Status: http.StatusConflict, Title: "Not written", Detail: sentence(err.Error())}
	case errors.As(err, &readOnly):
		return &huma.ErrorModel{
			Status: http.StatusConflict, Title: "Can only be looked at", Detail: sentence(readOnly.Error()),
		}
	case errors.Is(err, store.ErrDiskFull):
		return &huma.ErrorModel{
			Status: http.StatusInsufficientStorage, Title: "Disk full", Detail: sentence(store.ErrDiskFull.Error()),
		}
	case errors.Is(err, store.ErrOtherRequest):
		return &huma.ErrorModel{
			Status: http.StatusUnprocessableEntity, Title: "Key used before", Detail: sentence(store.ErrOtherRequest.Error()),
		}
	case errors.As(err, &older):
		return moved(older)
	case errors.As(err, &invalid):
		return huma.Error409Conflict(sentence(invalid.Error()))
	case errors.As(err, &stale):
		return &StaleProblem{
			ErrorModel: huma.ErrorModel{
				Status: http.StatusConflict, Title: "Changed meanwhile", Detail: sentence(stale.Error()),
			},
			ID: stale.ID, Read: stale.Read, Current: stale.Current,
		}
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
	case errors.As(err, &movedOn):
		return huma.Error409Conflict(sentence(movedOn.Error()))
	case errors.As(err, &unusable):
		return huma.Error422UnprocessableEntity(sentence(unusable.Error()))
	case errors.Is(err, store.ErrNoCopy):
		return huma.Error404NotFound(sentence(err.Error()))
	case errors.Is(err, store.ErrNothing):
		return huma.Error409Conflict(sentence(err.Error()))
	case errors.As(err, &problems):
		out := &huma.ErrorModel{Status: http.StatusUnprocessableEntity, Title: "Not valid", Detail: "Nothing was changed."}
		for _, p := range problems {
			out.Errors = append(out.Errors, &huma.ErrorDetail{Message: p.Message, Location: prefix + p.Path})
		}
		return out
	}
	s.log.Error("request failed", "error", err)
	return huma.Error500InternalServerError("Something went wrong inside Envex. Nothing was changed.")
}

// sentence gives a message a capital and a full stop.
func sentence(text string) string {
	text = plan.Plainly(text)
	if text == "" {
		return text
	}
	first := text[0]
	if first >= 'a' && first <= 'z' {
		first -= 'a' - 'A'
	}
	return string(first) + text[1:] + "."
}
