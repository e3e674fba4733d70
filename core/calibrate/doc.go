// Package calibrate is what a bench tells about itself: the loss of a stack of
// parts from a reading with and one without it, and how meters stand against
// each other on the same transmitters.
//
// Nothing found here is applied by itself. Start from Stack and Baseline.
package calibrate
