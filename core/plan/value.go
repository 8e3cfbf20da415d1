package plan

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"strconv"
)

// ValueKind says which of its forms a [Value] takes.
type ValueKind uint8

// The forms of a [Value].
const (
	NoValue        ValueKind = iota // absent
	NumberValue                     // a knob position, a time in ms
	TextValue                       // an option of a selector or a preset
	SwitchValue                     // on or off
	SyncValue                       // a note length, resolved against the song's tempo
	FreeValue                       // a recipe does not mind
	UnchangedValue                  // a preset or program leaves the variable alone
)

// Value is what a variable is set to. It is comparable: two Values are the same setting
// exactly when they are equal with ==.
//
// In JSON it is a number, a string, true or false, {"sync": "1/8."}, {"free": true} or
// {"unchanged": true}.
type Value struct {
	kind ValueKind
	num  float64
	text string
}

// Number is a literal position or quantity.
func Number(v float64) Value { return Value{kind: NumberValue, num: v} }

// Text is one of a selector's or preset's options.
func Text(s string) Value { return Value{kind: TextValue, text: s} }

// On is a block's state.
func On(on bool) Value {
	if on {
		return Value{kind: SwitchValue, num: 1}
	}
	return Value{kind: SwitchValue}
}

// Sync is a length of note, such as "1/8." for a dotted eighth.
func Sync(note string) Value { return Value{kind: SyncValue, text: note} }

// Free says that a recipe does not mind what a variable is.
func Free() Value { return Value{kind: FreeValue} }

// Unchanged says that a preset or a program leaves a variable as it finds it.
func Unchanged() Value { return Value{kind: UnchangedValue} }

// Kind reports the form of v.
func (v Value) Kind() ValueKind { return v.kind }

// IsZero reports whether v is absent.
func (v Value) IsZero() bool { return v.kind == NoValue }

// Float is the number v holds, and 0 for every other form.
func (v Value) Float() float64 { return v.num }

// IsOn reports whether v is the state "on".
func (v Value) IsOn() bool { return v.kind == SwitchValue && v.num == 1 }

// Word is the option or note length v holds, and "" for every other form.
func (v Value) Word() string { return v.text }

// String is v in words, as a person would read it.
func (v Value) String() string {
	switch v.kind {
	case NumberValue:
		return strconv.FormatFloat(v.num, 'f', -1, 64)
	case TextValue:
		return v.text
	case SwitchValue:
		if v.num == 1 {
			return "on"
		}
		return "off"
	case SyncValue:
		return v.text + " note"
	case FreeValue:
		return "any"
	case UnchangedValue:
		return "unchanged"
	}
	return ""
}

// MarshalJSON writes v in its JSON form; an absent value is null.
func (v Value) MarshalJSON() ([]byte, error) {
	switch v.kind {
	case NumberValue:
		if math.IsNaN(v.num) || math.IsInf(v.num, 0) {
			return nil, fmt.Errorf("plan: %v cannot be written as a number", v.num)
		}
		return json.Marshal(v.num)
	case TextValue:
		return json.Marshal(v.text)
	case SwitchValue:
		return json.Marshal(v.num == 1)
	case SyncValue:
		return json.Marshal(map[string]string{"sync": v.text})
	case FreeValue:
		return []byte(`{"free":true}`), nil
	case UnchangedValue:
		return []byte(`{"unchanged":true}`), nil
	}
	return []byte("null"), nil
}

const valueForms = `a value is a number, a word, true or false, {"sync": "1/8."}, {"free": true} or {"unchanged": true}`

// UnmarshalJSON reads v from any of its JSON forms and refuses every other.
func (v *Value) UnmarshalJSON(data []byte) error {
	data = bytes.TrimSpace(data)
	if bytes.Equal(data, []byte("null")) {
		*v = Value{}
		return nil
	}
	var any any
	if err := json.Unmarshal(data, &any); err != nil {
		return fmt.Errorf("plan: %w", err)
	}
	read, problem := valueFromAny(any)
	if problem != "" {
		return fmt.Errorf("plan: %s", problem)
	}
	*v = read
	return nil
}

// valueFromAny reads a value from decoded JSON; the second result is what is wrong, if anything.
func valueFromAny(x any) (Value, string) {
	switch x := x.(type) {
	case float64:
		return Number(x), ""
	case json.Number:
		f, err := x.Float64()
		if err != nil || math.IsInf(f, 0) {
			return Value{}, "the number " + x.String() + " is too large"
		}
		return Number(f), ""
	case string:
		return Text(x), ""
	case bool:
		return On(x), ""
	case map[string]any:
		if len(x) != 1 {
			return Value{}, valueForms
		}
		if note, ok := x["sync"].(string); ok {
			return Sync(note), ""
		}
		if yes, ok := x["free"].(bool); ok && yes {
			return Free(), ""
		}
		if yes, ok := x["unchanged"].(bool); ok && yes {
			return Unchanged(), ""
		}
	}
	return Value{}, valueForms
}
