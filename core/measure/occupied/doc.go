// Package occupied is the bandwidth that an emission occupies, in a sweep over it: the part of its
// power that lies within, and how wide it is at so many dB below its highest. The type to start
// from is Input.
package occupied
