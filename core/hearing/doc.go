// Package hearing says how loud something is to a listener, alone and beside something else: the excitation
// that it makes along the ear, its loudness in sones, and its partial loudness under what masks it.
//
// The model is that of B. C. J. Moore, B. R. Glasberg and T. Baer, "A Model for the Prediction of Thresholds,
// Loudness, and Partial Loudness" (Journal of the Audio Engineering Society 45, 1997), with the auditory filters
// of B. R. Glasberg and B. C. J. Moore, "Derivation of auditory filter shapes from notched-noise data" (Hearing
// Research 47, 1990), and the constants of its revision in ANSI S3.4-2007. It is one for steady sounds, both ears
// hearing the same, in front of a loudspeaker: what plays between two notes of something else is heard better
// than it says.
package hearing
