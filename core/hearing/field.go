package hearing

// Field is several sounds at the ear at one moment.
type Field struct {
	made []Excitation
}

// FieldOf has some sounds reach the ear together. The auditory filters are as wide as the level of these makes them.
// What else may be heard in place of one of them, such as the same sound without its low end, comes after them and does
// not count for that.
func FieldOf(sounds []Spectrum, others ...Spectrum) *Field {
	all := powersOf(sounds)
	skirts := ofBands().skirts(sumOf(all, len(ofBands().hz)))
	return &Field{made: through(skirts, append(all, powersOf(others)...))}
}

// Alone is how loud a sound of the field is with nothing beside it.
func (f *Field) Alone(i int) Loudness { return alone(f.made[i]) }

// Beside is how loud a sound of the field is beside some of the others.
func (f *Field) Beside(i int, others ...int) Loudness {
	var masker Excitation
	for _, k := range others {
		for n, x := range f.made[k] {
			masker[n] += x
		}
	}
	var out Loudness
	for n, x := range f.made[i] {
		out.Pattern[n] = 2 * places()[n].partial(x, masker[n])
	}
	out.sum()
	return out
}
