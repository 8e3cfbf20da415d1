package plan

// LaneLevel is how loud a lane is wished in a sound: an amp, a wet side, or what is sent to the house. A sound or song that
// is gone, and a lane that the chain no longer has, say nothing.
type LaneLevel struct {
	Lane  Key     `json:"lane" doc:"As the room names it: the split, and the lane of it."`
	Sound ID      `json:"sound"`
	Song  ID      `json:"song,omitempty" doc:"In that song alone; in every other when absent."`
	LU    float64 `json:"level_lu" minimum:"-40" maximum:"40" doc:"Over the same lane in the home sound."`
}

// WishedFor is how loud a lane is wished in a sound while a song is played: what is said of the song goes before what is
// said of all. False where nobody has said.
func (r *Rig) WishedFor(lane Key, sound, song ID) (lu float64, said bool) {
	for _, x := range r.LaneLevels {
		if x.Lane != lane || x.Sound != sound {
			continue
		}
		switch x.Song {
		case song:
			if song != "" {
				return x.LU, true
			}
			lu, said = x.LU, true
		case "":
			lu, said = x.LU, true
		}
	}
	return lu, said
}

func (v *validator) laneLevels(path string, list []LaneLevel) {
	seen := map[LaneLevel]bool{}
	for i, x := range list {
		here := at(path, i)
		if x.Lane == "" {
			v.problems.add(dot(here, "lane"), "a lane is needed")
		}
		if x.Sound == "" {
			v.problems.add(dot(here, "sound"), "a sound is needed")
		}
		x.LU = 0
		if seen[x] {
			v.problems.add(here, "its level is said twice")
		}
		seen[x] = true
	}
}
