// Package simple is the room of a kind of measurement that has one figure: what is taken, what
// stands of several, what is said on the board, in an edition and in its table. A kind brings
// what is its own as a Spec; the type to start from is that.
package simple
