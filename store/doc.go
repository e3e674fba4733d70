// Package store keeps reviews, the bench, measurements and editions in
// PostgreSQL. Measurements and editions are facts: rows are added, never
// changed, which the database itself enforces. Every write carries a key made
// by the client, so that sending it twice writes once; a write on an old
// version of a review is refused.
//
// It computes nothing. Start from Open.
package store
