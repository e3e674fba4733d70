// Package rf holds the small formulas of radio frequency that need no state:
// reflections and SWR, loss of coaxial cable, mismatch. 50 ohm throughout;
// losses are positive decibels.
//
// Levels and powers are package units; elements in series are package path.
package rf
