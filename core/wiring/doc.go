// Package wiring is what is said of a path before anything is keyed into it: the levels
// along it, what endangers it and blocks, what on the bench would cure that, what to
// dial in, and the supply. It also compiles the copy of a path that a measurement keeps.
//
// Start from Wire.
package wiring
