// Package advise searches the owned bench: which pads in which order suit a
// power, an analyzer and a rule book, and what would cure a path that is in danger.
//
// It proposes and says why; nothing is changed. Start from Pads and Cures.
package advise
