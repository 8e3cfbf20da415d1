// Package reach computes, for a rig and a set list, what the player's feet and hands have
// to do at every change of the set, how long that takes, and whether there is time.
//
// The model has four layers, each in files of its own:
//
//   - timeline.go lays the set out as sections with their tempo, length and free time;
//   - settings.go works out what each section's recipe demands of each variable of the rig;
//   - machine.go groups variables that one press moves together into machines, and lists
//     the ways to get each from one state to another;
//   - footwork.go puts the presses of one change into the order that takes least time.
//
// bake.go settles every move that has only one sensible place, solve.go searches the rest
// exactly, and report.go says the result.
//
// The objective over a show is lexicographic: fewest failed changes, then fewest moves that nothing can make, fewest
// presses at changes, fewest presses, and least footwork.
package reach
