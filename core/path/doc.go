// Package path is what a signal passes from the radio's antenna connector to
// the instrument: elements in series with their loss over frequency, what each
// of them survives, and how weak an emission still shows at the end.
//
// It holds no kit list; a path is given whole. Start from Compile.
package path
