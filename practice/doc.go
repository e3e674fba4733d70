// Package practice is learning on a bench that is not there: scenarios with hidden faults, each a radio
// to be reviewed from its claims to a ruling, and a score that holds every ruling against the truth.
//
// A scenario is data. It says what stands on the bench as its owner would write it down, and what is
// true of it; the truth never leaves the server before the end. Start from Shipped and Begin.
package practice
