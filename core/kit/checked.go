package kit

import (
	"fmt"
	"time"
)

// A figure is old that nobody checked for over a year (common practice, no source).
const oldAfterMonths = 12

// Checked says on the day now when a thing was last checked, and whether that is long
// ago; what was never checked is not old.
func (s Spec) Checked(now time.Time) (words string, old bool) {
	on, err := time.Parse(time.DateOnly, s.CheckedOn)
	if err != nil {
		return "never checked", false
	}
	months := 12*(now.Year()-on.Year()) + int(now.Month()-on.Month())
	if now.Day() < on.Day() {
		months--
	}
	ago := fmt.Sprintf("%d years ago", months/12)
	switch {
	case months < 1:
		ago = "this month"
	case months == 1:
		ago = "1 month ago"
	case months < 24:
		ago = fmt.Sprintf("%d months ago", months)
	}
	return "checked " + s.CheckedOn + ", " + ago, months >= oldAfterMonths
}
