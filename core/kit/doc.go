// Package kit is what a reviewer owns: adapters, coax, meters, loads, pads,
// taps, analyzers, supplies and the rest, each with what bites about it, and
// what it is on a path at one of its settings.
//
// It keeps nothing and knows no clock. Start from Spec.
package kit
