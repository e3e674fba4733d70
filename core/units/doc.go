// Package units holds the quantities of the bench as types (watts, dBm,
// decibels, hertz), their conversions at 50 ohm, and the reading of what a
// person types: "4.71 4.86 h swr 1.3 13.6v".
//
// It holds no arithmetic of radio frequency beyond the units themselves; that
// is package rf. Start from Quantity and ParseEntry.
package units
