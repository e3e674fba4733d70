// Package simulated is a bench that is not there: a transmitter that puts out what its tables say per
// band, level and supply, and what a meter and an analyzer would show of it behind a path. Everything is
// seeded, so a simulated afternoon is the same every time.
//
// All radios here are invented. Start from Radio.Transmit.
package simulated
