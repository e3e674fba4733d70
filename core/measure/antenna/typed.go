package antenna

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"talloak/core/problem"
	"talloak/core/touchstone"
	"talloak/core/units"
)

// mostSWR is more than an analyzer shows apart from an open or a short (common practice, no source).
const mostSWR = 999.0

const markers = "markers, each a frequency in MHz and its SWR, such as 144 2.1 146 1.4 148 1.9; or the SWR alone"

var marked = regexp.MustCompile(`^([0-9.,]+)(MHz)?$`)

// ReadMarkers reads markers as they are typed, in any order, into a one-port of which the phase is
// not known; an SWR alone is at the frequency dialled. Errors are on "text".
func ReadMarkers(text string, dialled units.Hertz) (*touchstone.Network, error) {
	words := strings.Fields(strings.ReplaceAll(text, " MHz", "MHz"))
	if len(words) > 0 && strings.EqualFold(words[0], "swr") {
		words = words[1:]
	}
	var all []float64
	for _, w := range words {
		m := marked.FindStringSubmatch(w)
		if m == nil {
			return nil, problem.New("text", "%q is not understood: give %s", w, markers)
		}
		v, err := units.ParseNumber(m[1])
		if err != nil {
			return nil, problem.New("text", "%s", err.Error())
		}
		all = append(all, v)
	}
	if len(all) == 1 {
		all = []float64{float64(dialled) / 1e6, all[0]}
	}
	if len(all) == 0 || len(all)%2 != 0 {
		return nil, problem.New("text", "give %s", markers)
	}
	type marker struct{ mhz, swr float64 }
	var at []marker
	for pair := range slices.Chunk(all, 2) {
		if err := units.CheckHz(pair[0] * 1e6); err != nil {
			return nil, problem.New("text", "%s", err.Error())
		}
		if !(pair[1] >= 1 && pair[1] <= mostSWR) {
			return nil, problem.New("text", "%g is no SWR: give 1 to %g behind each frequency", pair[1], mostSWR)
		}
		at = append(at, marker{pair[0], pair[1]})
	}
	slices.SortFunc(at, func(a, b marker) int { return cmp.Compare(a.mhz, b.mhz) })
	file := strings.Builder{}
	file.WriteString("# MHz S RI R 50\n")
	for i, m := range at {
		if i > 0 && m.mhz == at[i-1].mhz {
			return nil, problem.New("text", "%g MHz is marked twice", m.mhz)
		}
		fmt.Fprintf(&file, "%s %s 0\n", strconv.FormatFloat(m.mhz, 'g', -1, 64), strconv.FormatFloat((m.swr-1)/(m.swr+1), 'g', -1, 64))
	}
	return touchstone.Parse(file.String(), 1)
}
