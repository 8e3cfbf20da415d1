package path

// Send is an output that nothing is plugged into: where the signal leaves the rig, to a speaker, a
// microphone in front of it, or a line to the house.
type Send struct {
	End
	Lane   string `json:"lane,omitempty" doc:"The lane it ends; absent on the main line."`
	Stereo bool   `json:"stereo,omitempty" doc:"Both sides come out of it."`
	Level  string `json:"level" enum:"instrument,line,speaker"`
}

// leaves keeps outputs at which a line ends. A lane that is straight on from a guitar ends there too.
func (w *wiring) leaves(tails []tail, lane string) {
	for _, t := range tails {
		if t.gear != nil && lane == t.gear.Name {
			lane = "" // said already
		}
		w.out.Sends = append(w.out.Sends, Send{End: endOf(t.end), Lane: lane, Stereo: t.stereo, Level: t.level})
	}
}

func endOf(e end) End {
	return End{Gear: e.gear.ID, Name: e.gear.Name, Jack: e.jack, Place: e.place(), Socket: e.id}
}
