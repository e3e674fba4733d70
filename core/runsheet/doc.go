// Package runsheet works out the order in which a radio is measured: for each wiring,
// voltage, band, channel, level and mode a step, whether its figure would count, and what
// time, transmissions and battery the whole takes.
//
// Start from Make.
package runsheet
