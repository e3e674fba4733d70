// Package sensitivity is the room of the receiver: how little it needs, as the level at
// its connector from what a signal generator shows, against a claim; and SINAD from audio.
//
// A sensitivity by ear is another quantity than one for a SINAD of 12 dB: it has no
// claim to be held against. Start from New, and for the arithmetic from Refer.
package sensitivity
