// Package instruments is what can be asked on a bench, as one interface, and simulated
// ones behind it: a transmitter that puts out what its tables say per band, level and
// supply, and what a meter and an analyzer would show of it behind a path. Everything is
// seeded, so a simulated afternoon is the same every time.
//
// All radios here are invented. Start from Instrument, and from Radio.Transmit.
package instruments
