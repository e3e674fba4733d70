// Package measure is what every kind of measurement has in common: how a kind is asked
// (Kind, Room), and a review opened with all its facts (Review). Each kind has a room of
// its own below; the board, an edition, the stages and the API follow from the list of
// kinds and know none of them by name.
//
// Start from Kind.
package measure
