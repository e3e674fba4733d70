// Package dossier works a review's kept rows out through the core: the matrix
// of its claims, each reading at the connector and against its claim, each
// level's emissions against the rule book, and the board with its headline.
//
// Nothing here is stored and nothing is calculated: the core does that. Start
// from Open.
package dossier
