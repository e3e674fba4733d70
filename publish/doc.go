// Package publish turns a review's board into an edition: a document of every
// figure with what it rests on, and a web page in one file. Once frozen both
// are bytes that never change.
//
// It computes nothing; figures come from the dossier. Start from Compose.
package publish
