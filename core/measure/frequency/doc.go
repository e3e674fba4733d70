// Package frequency is the error of a transmitter's frequency: what a counter or service monitor
// shows, as a frequency or as an error, against the nominal one and what is claimed. The type to
// start from is Input.
package frequency
