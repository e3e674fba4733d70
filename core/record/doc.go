// Package record is the facts of a review and of a bench as plain types: the unit, its
// claims, the rules it is judged by, what was measured through what, and what was said
// of it since. It knows no database and no API; a fact, once made, is not changed.
//
// What follows from facts is package measure. Start from Review and Measurement.
package record
