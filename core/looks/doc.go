// Package looks reads what is typed of a look at an analyzer's screen: the range, its floor and
// the peaks seen. It knows no path and rules on nothing. Start from Read.
package looks
