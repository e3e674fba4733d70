// Package power is the room of transmitter power: key-up lines as they are typed, each
// referred to the antenna connector with its budget and doubts, and what of several
// stands for a band and level against its claim.
//
// Start from Kind.
package power
