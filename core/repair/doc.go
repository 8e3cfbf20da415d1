// Package repair finds what could be changed about a rig: the smallest edits that mend each change
// of the show which fails, what adding a pedal would gain, and how the same set fares on another rig.
// Every answer is an edit that can be carried out, verified on the whole show before it is offered.
package repair
