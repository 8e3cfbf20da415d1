package catalog

// also is what else players call a kind, by its id: short words, other names for the circuit, and the plain word
// where one of several kinds is the usual one.
var also = map[string][]string{
	"three-single-coil": {"single coils", "bolt-on guitar", "three pickup guitar"},
	"two-humbucker":     {"humbuckers", "humbucker guitar", "set-neck guitar", "guitar", "electric guitar"},
	"piezo-guitar":      {"piezo guitar", "guitar with piezo"},
	"two-single-coil":   {"slab guitar", "two pickup guitar"},
	"one-humbucker":     {"single humbucker"},
	"semi-hollow":       {"semi", "semi-acoustic", "hollow guitar"},
	"baritone":          {"baritone guitar"},
	"two-wide-coil":     {"wide single coils", "soap bars"},

	"tuner": {"tuning", "pedal tuner"}, "volume": {"vol", "volume pedal", "swell pedal"}, "active-volume": {"buffered volume", "active volume"},
	"wah": {"wah wah", "wah-wah"}, "fixed-wah": {"cocked wah", "parked wah"}, "buffer": {"buffered line"},
	"octave": {"octaver", "octave down", "sub octave"}, "octave-up-down": {"polyphonic octave", "octave up and down"},
	"pitch": {"pitch", "pitch pedal", "pitch shift"}, "harmony": {"harmonizer", "harmoniser", "intelligent harmony"},
	"compressor": {"comp", "compression", "optical comp", "squeezer"}, "fast-compressor": {"fast comp", "clamping compressor"}, "limiter": {"limit"},
	"gate": {"gate", "noise suppressor", "suppressor"},

	"boost": {"booster", "clean booster", "line boost", "solo boost"}, "treble-boost": {"treble boost", "range boost"},
	"mid-hump-overdrive":    {"mid-hump drive", "mid hump", "overdrive", "od", "drive", "drive pedal", "mid drive"},
	"transparent-overdrive": {"transparent drive", "transparent od"}, "thinning-overdrive": {"thinning drive", "bluesy drive"},
	"light-overdrive": {"light drive", "low gain drive", "low-gain overdrive", "edge drive"}, "hard-clip-distortion": {"distortion", "dist", "hard clip"},
	"high-gain-distortion": {"high gain distortion", "metal distortion", "high-gain pedal"},
	"fuzz":                 {"fuzz", "germanium fuzz", "vintage fuzz"}, "silicon-fuzz": {"bright fuzz"}, "sustaining-fuzz": {"big fuzz", "four stage fuzz", "sustain fuzz"},
	"dual-drive": {"double drive", "dual overdrive", "double overdrive"}, "boost-and-drive": {"drive and boost", "overdrive with boost", "drive with boost"},
	"preamp-pedal": {"preamp", "amp pedal"}, "amp-in-a-box": {"high gain preamp", "distortion preamp"},
	"eq": {"equaliser", "equalizer", "graphic eq", "eq pedal"},

	"vibe": {"vibe", "rotary vibe pedal", "throb"}, "phaser": {"phase", "phase shifter"}, "chorus": {"chorus pedal"}, "stereo-chorus": {"wide chorus"},
	"flanger": {"flange"}, "tremolo": {"trem"}, "tap-tremolo": {"tap trem", "tremolo with tap"}, "vibrato": {"vib"},
	"slicer": {"chopper", "stutter", "gate slicer"}, "rotary": {"rotary", "rotary sim", "rotating speaker"},

	"slap-delay": {"slapback", "slap", "slapback echo", "short delay"}, "tape-echo-tap": {"tape echo tap", "tap tape echo"}, "tape-echo": {"tape delay", "echo", "tape echo pedal"},
	"tap-delay": {"delay", "tap tempo delay", "delay with tap", "digital delay with tap", "delay tap"}, "digital-delay": {"long delay"}, "ping-pong-delay": {"stereo delay", "pingpong"},
	"analogue-delay-300": {"short analogue delay", "short analog delay"}, "analogue-delay-600": {"analogue delay", "analog delay", "bucket brigade delay"}, "tape-delay-knob": {"tape delay without tap"},
	"reverb": {"verb", "rev"}, "spring-reverb": {"spring", "spring tank"}, "hall-reverb": {"hall", "big reverb", "shimmer reverb", "cathedral"}, "room-reverb": {"room"},
	"stereo-reverb": {"wide reverb"}, "dual-reverb": {"double reverb", "two reverbs"}, "delay-and-reverb": {"delay with reverb", "reverb with delay", "delay reverb"}, "looper": {"loop pedal", "looping pedal", "loop station"},
	"multi-effect": {"multi fx", "multifx", "multi effects", "multieffect"},

	"combo-loop":       {"combo with loop", "one-channel combo with loop", "combo with a loop", "combo with effects loop", "combo with fx loop"},
	"combo-plain":      {"combo", "amp", "combo amp", "clean combo", "one-channel combo", "combo without loop", "amplifier", "valve combo", "tube combo"},
	"two-channel-head": {"two channel amp", "head", "head with loop", "amp with loop", "channel switching head", "two-channel amp with loop"},
	"memory-head":      {"midi head", "head with midi", "programmable head", "stored amp", "amp with midi"},
	"power-amp":        {"power amp", "power amplifier"}, "midi-preamp": {"midi preamp", "three-channel preamp", "three channel preamp"},
	"scooped-clean-combo": {"scooped combo", "loud clean combo", "scooped clean amp"}, "chiming-combo": {"chiming amp", "bright combo", "chime amp"},
	"mid-forward-head": {"crunch head", "mid forward amp", "mid-forward amp"}, "tight-high-gain-head": {"high gain head", "high-gain amp", "metal head", "high gain amp"},
	"small-combo": {"small amp", "practice amp", "bedroom combo", "low watt combo"},

	"splitter": {"split", "y box", "isolated splitter"}, "passive-splitter": {"y lead", "y cable", "y-splitter"}, "ab-box": {"a/b", "ab", "aby", "a/b/y", "a/b switch"},
	"amp-selector": {"amp switcher", "amp switch"}, "input-selector": {"guitar selector", "guitar switch"}, "mute": {"kill switch", "mute pedal"}, "mono-sum": {"mono sum"},
	"line-mixer": {"mixer", "mixer pedal"}, "isolator": {"isolation transformer", "hum eliminator", "isolating box"}, "junction": {"summing box", "sum box"}, "patch-box": {"junction box", "patch bay", "patchbay"},
	"cab-simulator": {"cab sim", "speaker sim", "speaker simulator", "cabsim", "ir loader"}, "acoustic-simulator": {"acoustic sim", "acoustic preamp"},
	"di": {"direct box", "di", "house", "pa", "front of house", "desk"}, "stereo-di": {"two di boxes", "stereo direct box"},
	"speaker": {"cab", "cabinet", "speaker cab", "1x12", "2x12", "one-twelve cab"}, "closed-cabinet": {"4x12", "four-twelve", "closed cab", "closed back cabinet"},
	"load": {"load", "attenuator", "reactive load"}, "radio": {"wireless", "radio receiver", "wireless receiver"},

	"amp-footswitch": {"channel switch", "amp switch pedal", "footswitch"}, "midi-controller": {"midi controller", "midi pedalboard", "midi foot controller"},
	"relay-controller": {"relay switcher"}, "tempo-box": {"tap pedal", "tap switch", "tap tempo switch"}, "tempo-dial": {"metronome box", "bpm dial"},
	"remote-switch": {"remote"}, "expression-pedal": {"expression", "exp pedal", "exp"}, "loop-switcher": {"switcher", "looper switcher", "true bypass looper", "loop switch"},
	"supply": {"power supply", "isolated power supply", "psu", "power brick"}, "small-supply": {"small power supply"}, "switchable-supply": {"voltage switchable supply"}, "plug-supply": {"daisy chain supply", "wall wart"},
	"board": {"pedalboard", "board", "large board"}, "small-board": {"small pedalboard"}, "medium-board": {"medium pedalboard", "medium board"},
	"cable": {"guitar lead", "guitar cable", "instrument lead"}, "patch-cable": {"patch lead", "patch leads", "patch cables"},
}
