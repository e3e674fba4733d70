// Package diagnose says what readings tell about each other: levels out of
// order, two levels that read alike, a supply under its minimum.
//
// It doubts, it never rules. Start from Suspicions.
package diagnose
