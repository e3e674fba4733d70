// Package say is what the core says to a person beyond its figures: a finding about a
// path, a flag on a reading, a doubt, what evidence gives away, an obstacle to an edition
// are one thing, Said, in different places. Each sentence has one function here, named
// by what it says and typed by what it needs, so that none can be said with a figure
// missing or in the wrong unit; start with Said. A room below core/measure keeps the
// sentences that are its alone in its says.go, and a refusal of input stays beside the
// check that knows what would do (core/problem).
package say
