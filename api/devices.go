package api

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"envex/access"
	"envex/core/reason"
)

// Network is how other devices reach the server, which the owner opens and closes.
type Network interface {
	State() NetworkState
	Open(secure bool) error
	Close() error
}

// NetworkState is whether other devices can reach the server, and where.
type NetworkState struct {
	On          bool     `json:"on"`
	Secure      bool     `json:"secure" doc:"By TLS, with a certificate that was made here."`
	Addresses   []string `json:"addresses" doc:"Where it is reached, as it is typed."`
	Fingerprint string   `json:"fingerprint,omitempty" doc:"The SHA-256 of the certificate, to be compared with what the other device shows."`
}

// Devices is who may reach the plan from the network.
type Devices struct {
	Network    NetworkState    `json:"network"`
	Passphrase bool            `json:"passphrase" doc:"One has been set."`
	Devices    []access.Device `json:"devices" doc:"Those that are let in, the latest last."`
}

type devicesOutput struct{ Body Devices }

type networkInput struct {
	Body struct {
		On     bool `json:"on"`
		Secure bool `json:"secure,omitempty" doc:"By TLS."`
	}
}

type passphraseInput struct {
	Body struct {
		Passphrase string `json:"passphrase" maxLength:"800"`
	}
}

type pairingInput struct {
	Body struct {
		Role access.Role `json:"role" enum:"owner,stand"`
	}
}

// Pairing is a code that lets one device in.
type Pairing struct {
	Code  string      `json:"code"`
	Role  access.Role `json:"role" enum:"owner,stand"`
	Until time.Time   `json:"until"`
	Links []string    `json:"links" doc:"Addresses that carry the code: to be scanned."`
}

type pairingOutput struct{ Body Pairing }

type deviceInput struct {
	ID string `path:"id" maxLength:"40"`
}

func (s *Server) deviceRoutes(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "get-devices", Method: http.MethodGet, Path: "/api/devices",
		Summary: "Who may reach the plan from the network",
	},
		func(context.Context, *struct{}) (*devicesOutput, error) { return s.devices() })
	huma.Register(
		api,
		huma.Operation{
			OperationID: "put-network", Method: http.MethodPut, Path: "/api/network",
			Summary: "Let other devices on this network reach the server, or no more",
		},
		s.putNetwork,
	)
	huma.Register(api, huma.Operation{OperationID: "put-passphrase", Method: http.MethodPut, Path: "/api/passphrase",
		Summary:     "Set the passphrase that makes a device an owner",
		Description: "Devices that were let in by an earlier one are forgotten."},
		func(_ context.Context, in *passphraseInput) (*devicesOutput, error) {
			if s.access == nil {
				return nil, noNetwork()
			}
			if err := s.access.SetPassphrase(in.Body.Passphrase); err != nil {
				return nil, s.denied(err)
			}
			return s.devices()
		})
	huma.Register(
		api,
		huma.Operation{
			OperationID: "post-pairing", Method: http.MethodPost, Path: "/api/pairings",
			Summary: "Make a code that pairs one device",
		},
		s.postPairing,
	)
	huma.Register(api, huma.Operation{
		OperationID: "forget-device", Method: http.MethodDelete, Path: "/api/devices/{id}",
		Summary: "Let a device in no more",
	},
		func(_ context.Context, in *deviceInput) (*devicesOutput, error) {
			if s.access == nil {
				return nil, noNetwork()
			}
			if err := s.access.Forget(in.ID); err != nil {
				return nil, s.denied(err)
			}
			return s.devices()
		})
}

func noNetwork() error {
	return huma.Error409Conflict("This server cannot be reached from the network.")
}

func (s *Server) devices() (*devicesOutput, error) {
	out := &devicesOutput{Body: Devices{Network: NetworkState{Addresses: []string{}}, Devices: []access.Device{}}}
	if s.access != nil {
		out.Body.Passphrase, out.Body.Devices = s.access.HasPassphrase(), s.access.Devices()
	}
	if s.network != nil {
		out.Body.Network = s.network.State()
	}
	return out, nil
}

func (s *Server) putNetwork(_ context.Context, in *networkInput) (*devicesOutput, error) {
	if s.network == nil {
		return nil, noNetwork()
	}
	var err error
	if in.Body.On {
		err = s.network.Open(in.Body.Secure)
	} else {
		err = s.network.Close()
	}
	if words, ok := reason.Sentence(err); ok {
		return nil, huma.Error409Conflict(words)
	}
	if err != nil {
		return nil, s.problem(err, "")
	}
	return s.devices()
}

func (s *Server) postPairing(_ context.Context, in *pairingInput) (*pairingOutput, error) {
	if s.access == nil || s.network == nil {
		return nil, noNetwork()
	}
	state := s.network.State()
	if !state.On {
		return nil, huma.Error409Conflict("Other devices cannot reach this server yet: let them first.")
	}
	code, err := s.access.Offer(in.Body.Role)
	if err != nil {
		return nil, s.denied(err)
	}
	out := &pairingOutput{Body: Pairing{Code: code.Text, Role: code.Role, Until: code.Until, Links: []string{}}}
	for _, a := range state.Addresses {
		// Behind the hash, so that it is sent to nobody but by the page itself.
		out.Body.Links = append(out.Body.Links, a+"/pair#"+code.Text)
	}
	return out, nil
}
