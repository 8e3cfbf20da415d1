package plan

import (
	"fmt"
	"strings"
)

// NotFoundError says that a plan does not have something that was asked for.
type NotFoundError struct {
	Kind AggregateKind
	ID   ID
}

// Error names the kind and the id.
func (e *NotFoundError) Error() string {
	return fmt.Sprintf("there is no %s %q", strings.ReplaceAll(string(e.Kind), "_", " "), e.ID)
}

// Words is what a person reads of it: see [reason.Of].
func (e *NotFoundError) Words() string { return e.Error() }

// GearByID is [Plan.FindGear]; it fails with a [*NotFoundError].
func (p *Plan) GearByID(id ID) (*Gear, error) { return have(p.FindGear, KindGear, id) }

// SoundByID is [Plan.FindSound]; it fails with a [*NotFoundError].
func (p *Plan) SoundByID(id ID) (*Sound, error) { return have(p.FindSound, KindSound, id) }

// SongByID is [Plan.FindSong]; it fails with a [*NotFoundError].
func (p *Plan) SongByID(id ID) (*Song, error) { return have(p.FindSong, KindSong, id) }

// BandByID is [Plan.FindBand]; it fails with a [*NotFoundError].
func (p *Plan) BandByID(id ID) (*Band, error) { return have(p.FindBand, KindBand, id) }

// SetListByID is [Plan.FindSetList]; it fails with a [*NotFoundError].
func (p *Plan) SetListByID(id ID) (*SetList, error) { return have(p.FindSetList, KindSetList, id) }

// RigByID is [Plan.FindRig]; it fails with a [*NotFoundError].
func (p *Plan) RigByID(id ID) (*Rig, error) { return have(p.FindRig, KindRig, id) }

// ShowByID is [Plan.FindShow]; it fails with a [*NotFoundError].
func (p *Plan) ShowByID(id ID) (*Show, error) { return have(p.FindShow, KindShow, id) }

func have[T any](find func(ID) (*T, bool), kind AggregateKind, id ID) (*T, error) {
	x, ok := find(id)
	if !ok {
		return nil, &NotFoundError{Kind: kind, ID: id}
	}
	return x, nil
}
