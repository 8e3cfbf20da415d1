package api

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"reflect"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"envex/access"
	"envex/core/plan"
	"envex/core/reason"
	"envex/lan"
)

// caller is who a request comes from.
type caller struct {
	role    access.Role // "" for one that was not let in
	device  access.Device
	gone    <-chan struct{} // closed when its device is forgotten; nil for this machine
	token   string
	from    string // its address
	network bool   // it came over the network, not from this machine
	secure  bool
}

type (
	callerKey  struct{}
	networkKey struct{}
)

// OverNetwork marks the requests of a listener that other devices on the network reach. Who comes by
// another one is this machine itself, and may do everything.
func OverNetwork(ctx context.Context) context.Context {
	return context.WithValue(ctx, networkKey{}, true)
}

func overNetwork(ctx context.Context) bool { return ctx.Value(networkKey{}) != nil }

func callerOf(ctx context.Context) caller {
	who, ok := ctx.Value(callerKey{}).(caller)
	if !ok {
		return caller{role: access.Owner} // of this machine, in a test that calls a route by itself
	}
	return who
}

// client names whoever shares the work of this server with others: a device, or all that is here.
func (c caller) client() string { return c.device.ID }

// cookieOf is the cookie that carries a device's token. Over TLS its name has browsers keep to that.
func cookieOf(secure bool) string {
	if secure {
		return "__Host-envex"
	}
	return "envex"
}

// sessionPath is where a device asks who it is, and to be let in.
const sessionPath = "/api/session"

// ownersAlone are what is read by owners alone.
var ownersAlone = []string{backupPath, "/api/copies", "/api/devices", "/api/condition"}

// admit lets in what comes from this machine, and of the network the devices that were paired, each to
// what its role may do.
func (s *Server) admit() gin.HandlerFunc {
	return func(c *gin.Context) {
		who := s.recognized(c.Request)
		path := c.Request.URL.Path
		switch {
		case !strings.HasPrefix(path, "/api/"), path == sessionPath, path == pairPath && c.Request.Method == http.MethodPost:
		case who.role == "":
			refuse(
				c, http.StatusUnauthorized,
				"This device has not been let in. Enter the passphrase, or pair it with the code that the owner's screen shows.",
			)
			return
		case who.role == access.Stand && !standMay(c.Request):
			refuse(c, http.StatusForbidden, standOnly)
			return
		}
		c.Request = c.Request.WithContext(context.WithValue(c.Request.Context(), callerKey{}, who))
		c.Next()
	}
}

const standOnly = "This device is paired as a stand: it reads, and writes notes and faults of shows. Nothing was changed."

// recognized is who a request comes from.
func (s *Server) recognized(r *http.Request) caller {
	from, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		from = r.RemoteAddr
	}
	who := caller{from: from, network: overNetwork(r.Context()), secure: r.TLS != nil}
	if !who.network {
		who.role = access.Owner
		return who
	}
	if s.access == nil {
		return who
	}
	cookie, err := r.Cookie(cookieOf(who.secure))
	if err != nil {
		return who
	}
	if device, gone, ok := s.access.Known(cookie.Value); ok {
		who.device, who.role, who.gone, who.token = device, device.Role, gone, cookie.Value
	}
	return who
}

// standAsks are what a stand sends: edits, of which it is seen later what they write, what happens at a show, and
// questions that come with more than an address holds.
var standAsks = []string{operationsPath, nightEventsPath, simulatedPath, "/api/play/judge", "/api/play/fit", "/api/midi/monitor"}

// standMay reports whether a stand may send a request. What of the plan it may write is seen where that is
// written.
func standMay(r *http.Request) bool {
	if writes(r) {
		return r.Method == http.MethodPost && slices.Contains(standAsks, r.URL.Path)
	}
	for _, p := range ownersAlone {
		if r.URL.Path == p || strings.HasPrefix(r.URL.Path, p+"/") {
			return false
		}
	}
	return true
}

// mayWrite fails where a caller may not make one thing into another: a stand changes of a show its notes
// and its faults, and nothing else.
func mayWrite(who caller, before, after plan.Aggregate) error {
	if who.role == access.Owner {
		return nil
	}
	was, ok := before.(plan.Show)
	is, ok2 := after.(plan.Show)
	if ok && ok2 {
		was.Notes, was.After, was.Faults = is.Notes, is.After, is.Faults
		if reflect.DeepEqual(was, is) {
			return nil
		}
	}
	return huma.Error403Forbidden(standOnly)
}

// knowsName reports whether a request calls this machine by a name that is its own.
func (s *Server) knowsName(r *http.Request) bool {
	if !overNetwork(r.Context()) {
		return lan.Here(r.Host)
	}
	return lan.Known(r.Host, lan.Own())
}

// Session is who a device is to this server.
type Session struct {
	Role       access.Role `json:"role,omitempty" enum:"owner,stand" doc:"What it may do; absent while it has not been let in."`
	Name       string      `json:"name,omitempty" doc:"What it is called in the list of devices."`
	Network    bool        `json:"network" doc:"It is another device than the one Envex runs on."`
	Secure     bool        `json:"secure" doc:"What is sent cannot be overheard."`
	Passphrase bool        `json:"passphrase" doc:"A passphrase has been set, and lets devices in."`
}

type sessionOutput struct {
	SetCookie []http.Cookie `header:"Set-Cookie"`
	Body      Session
}

type enterInput struct {
	Body struct {
		Passphrase string `json:"passphrase" maxLength:"800"`
		Name       string `json:"name,omitempty" maxLength:"200" doc:"What to call this device."`
	}
}

type codeInput struct {
	Body struct {
		Code string `json:"code" maxLength:"40"`
		Name string `json:"name,omitempty" maxLength:"200" doc:"What to call this device."`
	}
}

const pairPath = sessionPath + "/pair"

func (s *Server) sessionRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-session", Method: http.MethodGet, Path: sessionPath, Summary: "Who this device is",
	},
		func(ctx context.Context, _ *struct{}) (*sessionOutput, error) { return s.session(callerOf(ctx)), nil })
	huma.Register(api, huma.Operation{
		OperationID: "enter", Method: http.MethodPost, Path: sessionPath, Summary: "Let this device in by the passphrase",
	},
		func(ctx context.Context, in *enterInput) (*sessionOutput, error) {
			return s.letIn(ctx, func(from string) (string, access.Device, error) {
				return s.access.Enter(in.Body.Passphrase, in.Body.Name, from)
			})
		})
	huma.Register(api, huma.Operation{
		OperationID: "pair", Method: http.MethodPost, Path: pairPath,
		Summary: "Let this device in by the code that the owner's screen shows",
	},
		func(ctx context.Context, in *codeInput) (*sessionOutput, error) {
			return s.letIn(ctx, func(from string) (string, access.Device, error) {
				return s.access.Pair(in.Body.Code, in.Body.Name, from)
			})
		})
	huma.Register(api, huma.Operation{
		OperationID: "leave", Method: http.MethodDelete, Path: sessionPath, Summary: "Have this device forgotten",
	},
		func(ctx context.Context, _ *struct{}) (*sessionOutput, error) {
			who := callerOf(ctx)
			if who.device.ID != "" {
				if err := s.access.Forget(who.device.ID); err != nil {
					return nil, s.denied(err)
				}
			}
			out := s.session(caller{network: who.network, secure: who.secure})
			out.SetCookie = []http.Cookie{
				{
					Name: cookieOf(who.secure), Path: "/", MaxAge: -1, HttpOnly: true, Secure: who.secure,
					SameSite: http.SameSiteStrictMode,
				},
			}
			return out, nil
		})
}

func (s *Server) session(who caller) *sessionOutput {
	out := &sessionOutput{Body: Session{Role: who.role, Name: who.device.Name, Network: who.network, Secure: who.secure}}
	if s.access != nil {
		out.Body.Passphrase = s.access.HasPassphrase()
	}
	return out
}

func (s *Server) letIn(
	ctx context.Context, by func(from string) (string, access.Device, error),
) (*sessionOutput, error) {
	who := callerOf(ctx)
	switch {
	case !who.network:
		return nil, huma.Error409Conflict("This is the device Envex runs on: it needs no pairing.")
	case s.access == nil:
		return nil, huma.Error409Conflict("No device can be let in here.")
	}
	token, device, err := by(who.from)
	if err != nil {
		return nil, s.denied(err)
	}
	if who.device.ID != "" { // it was let in as something else before
		if err := s.access.Forget(who.device.ID); err != nil && !errors.Is(err, access.ErrNoDevice) {
			return nil, s.denied(err)
		}
	}
	who.device, who.role = device, device.Role
	out := s.session(who)
	out.SetCookie = []http.Cookie{{
		Name: cookieOf(who.secure), Value: token, Path: "/", MaxAge: int((180 * 24 * time.Hour).Seconds()),
		HttpOnly: true, Secure: who.secure, SameSite: http.SameSiteStrictMode,
	}}
	return out, nil
}

// denied is the problem document of a device that is not let in.
func (s *Server) denied(err error) error {
	var many *access.TooManyError
	problem := s.problem(err, "")
	switch {
	case errors.As(err, &many):
		return huma.ErrorWithHeaders(problem, http.Header{"Retry-After": {fmt.Sprint(many.Seconds())}})
	case errors.Is(err, access.ErrShort), errors.Is(err, access.ErrLong):
		words, _ := reason.Of(err)
		return &huma.ErrorModel{
			Status: http.StatusUnprocessableEntity, Title: "Not valid", Detail: problem.Error(),
			Errors: []*huma.ErrorDetail{{Location: "body.passphrase", Message: words}},
		}
	}
	return problem
}
