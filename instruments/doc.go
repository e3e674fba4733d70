// Package instruments is the other end of the cable: an instrument with a socket is asked who it
// is, set, read and swept over TCP, by a driver that is data. Everything it says is bounded in
// time and size, and nothing that is not whole leaves here.
//
// Nothing is keyed from here. Start from Rack, which lets one window at a time to an address.
package instruments
