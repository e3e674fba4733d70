// Package decision turns a margin and its uncertainty into a verdict, after
// JCGM 106:2012 and ILAC-G8: simple acceptance, or guarded by the expanded
// uncertainty.
//
// It does not know what is being judged. Start from Rule.Decide.
package decision
