// Package board is the ruling on a whole review: the boxes of every kind, what they come
// to, the sentence above them, and what stands in the way of an edition. It knows the
// kinds only by their interface.
//
// Start from Of.
package board
