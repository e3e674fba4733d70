// Package app is what a person does: starts and changes reviews, takes measurements,
// says what stands, freezes editions, keeps kit and paths. The HTTP API, the demo, an
// instrument and a second window all go through it, so that what blocks is refused
// whoever asks; each thing done is published as an event.
//
// It computes nothing and stores nothing itself: rules are in core, rows in store. Start
// from New.
package app
