// Package dc is the supply side of a wiring: what the radio draws at each level,
// what the leads drop and what is left at the radio.
//
// Start from Work.
package dc
