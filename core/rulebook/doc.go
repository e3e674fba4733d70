// Package rulebook evaluates emission limits that are data: books of clauses
// for carriers, with terms over stretches of spurious frequencies. A limit
// always comes with the term that decided it and its citation.
//
// The shipped books are files outside the core; what was measured against a
// limit is package judge. Start from Parse and Book.For.
package rulebook
