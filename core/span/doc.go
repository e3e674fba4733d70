// Package span is stretches of frequency and sets of them: what was looked at, where a
// loss is known, where a range reaches. It is the one place where they are put together
// and taken apart. Start from Span and Set.
package span
