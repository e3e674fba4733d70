package touchstone

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"talloak/core/units"
)

// Point is the loss of a two-port at a frequency, positive in dB, and the SWR of
// both its ports where it is known.
type Point struct {
	Frequency units.Hertz
	Loss      units.DB
	SWR       *float64
}

// WriteLoss is the text of a version 1 two-port file, in dB and degrees at
// 50 ohm, of what is known of the loss alone: phases are not known and written
// as 0, and ports of unknown SWR as 100 dB of return loss, both of which the
// file says. Remarks become comments. Parse reads it back to the last digit.
func WriteLoss(points []Point, remarks ...string) string {
	var b strings.Builder
	for _, r := range append(remarks, "only losses are known: angles are written as 0, an unknown SWR as a return loss of 100 dB") {
		fmt.Fprintf(&b, "! %s\n", strings.Map(func(r rune) rune {
			if r < ' ' {
				return ' '
			}
			return r
		}, r))
	}
	b.WriteString("# Hz S DB R 50\n")
	number := func(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }
	for _, p := range points {
		match := -100.0
		if p.SWR != nil && *p.SWR > 1 {
			match = max(match, 20*math.Log10((*p.SWR-1)/(*p.SWR+1)))
		}
		loss := number(-float64(p.Loss))
		fmt.Fprintf(&b, "%s %s 0 %s 0 %s 0 %s 0\n", number(float64(p.Frequency)), number(match), loss, loss, number(match))
	}
	return b.String()
}
