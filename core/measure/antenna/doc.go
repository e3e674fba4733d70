// Package antenna is what a one-port file says of an antenna: where its SWR is lowest, how far
// that lies from the band it is for, and how much of the band it serves. The type to start from
// is Input.
package antenna
