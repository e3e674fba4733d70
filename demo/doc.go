// Package demo fills an empty database with an invented scenario: the bench and
// the reviews of Fellside Radio Notes, a made-up newsletter for hill walkers.
// Radios, kit and figures are all invented; the figures come from the simulated
// bench and are the same every time. Start from Load.
package demo
