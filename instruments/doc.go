// Package bench simulates a transmitter and the instruments of a bench: what a
// radio puts out per band, level and supply, and what a meter and an analyzer
// would show of it behind a path. Everything is seeded, so a simulated
// afternoon is the same every time.
//
// All radios here are invented. Start from Radio.Transmit.
package instruments
