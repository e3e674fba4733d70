package decision

// Change is whether two measurements of what may have changed can be told apart.
type Change string

// The changes. What has no interval on either side cannot be told apart.
const (
	Changed  Change = "changed"
	NotTold  Change = "not-told-apart"
	NoChange Change = "" // one of the two was not measured
)

// Spoken is how a change is shown.
func (c Change) Spoken() string {
	switch c {
	case Changed:
		return "changed"
	case NotTold:
		return "not told apart"
	}
	return ""
}

// Interval is where a figure lies, with its expanded uncertainty.
type Interval struct{ Low, High float64 }

// Around is a figure with its expanded uncertainty.
func Around(v, u float64) Interval { return Interval{v - u, v + u} }

// Told tells whether two figures differ by more than the uncertainty of both: whether their intervals have nothing
// in common. Those of one bench share part of what is uncertain, so that this says "changed" rather too seldom than
// too often.
func Told(before, after *Interval) Change {
	if before == nil || after == nil {
		return NotTold
	}
	if before.High < after.Low || after.High < before.Low {
		return Changed
	}
	return NotTold
}
