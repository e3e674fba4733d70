// Package judge holds what was seen of a transmitter's emissions against a rule
// book: it refers sweeps and looks to the antenna connector, finds harmonics
// and spurs, guards each with its uncertainty, and says how far was looked.
//
// It knows no file, no screen and no clock. Start from Judge.
package judge
