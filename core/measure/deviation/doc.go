// Package deviation is the frequency deviation of an FM transmitter: off a meter, by a null of
// the carrier, or from the lines that a tone makes. The type to start from is Input.
package deviation
