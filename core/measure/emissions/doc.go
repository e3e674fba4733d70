// Package emissions is the room of harmonic and spurious emissions: sweeps as an
// analyzer saved them, each through its own path, judged box by box and carrier by
// carrier against the review's rule book, and what of several stands.
//
// The judging is package judge. Start from Kind.
package emissions
