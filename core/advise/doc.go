// Package advise searches the owned bench: which pads in which order suit a
// power, an analyzer and a rule book, what would cure a path that is in danger,
// and what to dial in for a search.
//
// It proposes and says why; nothing is changed. Start from Pads, Cures
// and SweepFor.
package advise
