package plan

// IsGain reports whether an effect makes a signal louder or dirtier by what it is for: every drive, a preamp,
// and a clean boost, since it drives what comes after it. A compressor is none: it evens.
func (e Effect) IsGain() bool {
	switch e {
	case EffectBoost, EffectOverdrive, EffectDistortion, EffectFuzz, EffectPreamp:
		return true
	}
	return false
}
