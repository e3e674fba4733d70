// Package problem says what is wrong with an input: which field, and what would
// be accepted instead. Every calculation of the core returns its refusals as an
// *Error, so that command line and HTTP can show the same object.
//
// It knows nothing of HTTP or of the calculations. Start from List.
package problem
