package calibrate

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/stat"

	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/uncertainty"
	"talloak/core/units"
)

// Row is one known transmitter, keyed into each meter in turn. Readings run
// along the meters; an empty one was not taken.
type Row struct {
	Transmitter string
	Frequency   units.Hertz
	Readings    [][]units.Quantity
	StepDB      []float64 // the resolution of each meter's display there, in dB; 0 or none where not known
}

// MeterOffset is how a meter stands against the others: what it shows more than
// their mean, in dB, over the rows in which it has company. Meters and transmitters
// are fitted together by least squares, so that a reading that was not taken bends
// nothing. Spread is the standard deviation over those rows, at least that of what the displays resolve, and Uncertainty the standard uncertainty of
// the offset, s/sqrt n times t95(n-1)/2 (JCGM 100, Table G.2); both nil with one
// row. From and To are the frequencies of the rows.
type MeterOffset struct {
	Meter       string     `json:"meter"`
	OffsetDB    *float64   `json:"offset_db"`
	SpreadDB    *float64   `json:"spread_db"`
	Uncertainty *float64   `json:"standard_uncertainty_db"`
	Rows        int        `json:"rows"`
	FromHz      *float64   `json:"from_hz"`
	ToHz        *float64   `json:"to_hz"`
	At          []float64  `json:"frequencies_hz"` // of the rows
	Each        []*float64 `json:"each_db"`        // per row; nil where not taken or alone
}

// Baseline compares meters on the same transmitters. It tells which meters
// differ, never which is right: the mean of the others is no standard. Errors
// are on "meters" and "rows[i]...".
func Baseline(meters []string, rows []Row) ([]MeterOffset, error) {
	var bad problem.List
	if len(meters) < 2 {
		bad.Add("meters", "give at least two meters to hold against each other")
	}
	if len(rows) == 0 {
		bad.Add("rows", "give at least one transmitter, read on two of the meters")
	}
	levels := make([][]*float64, len(rows))
	for i, r := range rows {
		if !(r.Frequency > 0) {
			bad.Add(fmt.Sprintf("rows[%d].frequency_hz", i), "give more than 0 Hz")
		}
		levels[i] = make([]*float64, len(meters))
		for j, values := range r.Readings {
			if level, err := meanLevel(values); err != nil {
				bad.Add(fmt.Sprintf("rows[%d].readings[%d]", i, j), "%s", err.Error())
			} else if j < len(meters) {
				levels[i][j] = level
			} else {
				bad.Add(fmt.Sprintf("rows[%d].readings", i), "more readings than meters")
			}
		}
	}
	if err := bad.Err(); err != nil {
		return nil, err
	}
	fit := fitMeters(len(meters), levels)
	out := make([]MeterOffset, len(meters))
	for j, name := range meters {
		out[j] = fit.offset(name, j, rows)
	}
	return out, nil
}

// meanLevel is the mean of readings as a level in dBm; nil where there are none.
func meanLevel(values []units.Quantity) (*float64, error) {
	if len(values) == 0 {
		return nil, nil
	}
	sum := 0.0
	for _, q := range values {
		if err := units.CheckShown(q); err != nil {
			return nil, err
		}
		w, err := q.Power()
		if err != nil {
			return nil, err
		}
		sum += float64(w)
	}
	if !(sum > 0) {
		return nil, fmt.Errorf("a meter that shows nothing tells nothing here; leave it empty")
	}
	level := float64(units.Watts(sum / float64(len(values))).DBm())
	return &level, nil
}

// Accept is what takes the offset of meter i out of its later readings. before
// are the baselines that the meters of the comparison have in force. It refuses,
// with a *problem.Error on no field, an offset of unknown spread, and one against
// a meter that has its own taken out already: it stands against what that showed
// before, and with both out the two would differ as much the other way round.
func Accept(found []MeterOffset, i int, before []*reading.Baseline, on string) (*reading.Baseline, error) {
	m := found[i]
	if m.Uncertainty == nil {
		return nil, problem.New("", "one transmitter shows no spread: read at least two before taking an offset out")
	}
	var others []string
	for k, other := range found {
		if k == i {
			continue
		}
		if before[k] != nil {
			return nil, problem.New("", "%s already has an offset taken out, and this one stands against what it showed before; take that out no more first", other.Meter)
		}
		others = append(others, other.Meter)
	}
	return &reading.Baseline{
		OffsetDB: *m.OffsetDB, UncertaintyDB: *m.Uncertainty, FromHz: *m.FromHz, ToHz: *m.ToHz, AtHz: m.At, On: on, Against: strings.Join(others, ", "),
	}, nil
}

// fitted is what each meter shows over a common level, in dB, by least squares over
// all readings: level = transmitter + meter. Group tells which meters have rows in
// common, if only through others: only those stand against each other.
type fitted struct {
	levels [][]*float64
	meter  []float64
	group  []int
}

// fitMeters goes from transmitters to meters and back until nothing moves, which for
// so few of both is soon.
func fitMeters(n int, levels [][]*float64) fitted {
	f := fitted{levels: levels, meter: make([]float64, n), group: make([]int, n)}
	for j := range f.group {
		f.group[j] = j
	}
	for range n { // the lowest number spreads over all that share a row
		for _, row := range levels {
			lowest := n
			for j, l := range row {
				if l != nil {
					lowest = min(lowest, f.group[j])
				}
			}
			for j, l := range row {
				if l != nil {
					f.group[j] = lowest
				}
			}
		}
	}
	for range 10_000 {
		sum, count, moved := make([]float64, n), make([]float64, n), 0.0
		for _, row := range levels {
			transmitter, ok := f.transmitter(row, -1)
			for j, l := range row {
				if l != nil && ok {
					sum[j], count[j] = sum[j]+*l-transmitter, count[j]+1
				}
			}
		}
		for j := range f.meter {
			if count[j] > 0 {
				moved = max(moved, math.Abs(sum[j]/count[j]-f.meter[j]))
				f.meter[j] = sum[j] / count[j]
			}
		}
		if moved < 1e-12 {
			break
		}
	}
	return f
}

// transmitter is the level of a row by its meters, without one; false where none is left.
func (f *fitted) transmitter(row []*float64, without int) (float64, bool) {
	sum, n := 0.0, 0
	for j, l := range row {
		if l != nil && j != without {
			sum, n = sum+*l-f.meter[j], n+1
		}
	}
	return sum / float64(max(1, n)), n > 0
}

// others is the mean of the meters that j stands against; false where there is none.
func (f *fitted) others(j int) (float64, bool) {
	sum, n := 0.0, 0
	for k := range f.meter {
		if k != j && f.group[k] == f.group[j] {
			sum, n = sum+f.meter[k], n+1
		}
	}
	return sum / float64(max(1, n)), n > 0
}

func (f *fitted) offset(name string, j int, rows []Row) MeterOffset {
	out := MeterOffset{Meter: name, Each: make([]*float64, len(rows)), At: []float64{}}
	others, company := f.others(j)
	var each []float64
	lowest, highest, step := math.Inf(1), 0.0, 0.0
	for i := range rows {
		transmitter, ok := f.transmitter(f.levels[i], j)
		if f.levels[i][j] == nil || !ok || !company {
			continue
		}
		d := *f.levels[i][j] - transmitter - others
		out.Each[i] = &d
		each = append(each, d)
		at := float64(rows[i].Frequency)
		lowest, highest = min(lowest, at), max(highest, at)
		if !slices.Contains(out.At, at) {
			out.At = append(out.At, at)
		}
		step = max(step, rows[i].resolution(j))
	}
	if out.Rows = len(each); out.Rows == 0 {
		return out
	}
	slices.Sort(out.At)
	mean := f.meter[j] - others
	out.OffsetDB, out.FromHz, out.ToHz = &mean, &lowest, &highest
	if out.Rows > 1 {
		s := max(stat.StdDev(each, nil), step)
		u := s / math.Sqrt(float64(out.Rows)) * uncertainty.T95(out.Rows-1) / uncertainty.CoverageFactor
		out.SpreadDB, out.Uncertainty = &s, &u
	}
	return out
}

// resolution is the standard uncertainty in dB that the displays leave to a difference
// of meter j and the coarsest other (a step over sqrt 12 each, JCGM 100, F.2.2.1).
func (r Row) resolution(j int) float64 {
	own, coarsest := 0.0, 0.0
	for k, step := range r.StepDB {
		if k == j {
			own = step
		} else {
			coarsest = max(coarsest, step)
		}
	}
	return math.Hypot(own, coarsest) / math.Sqrt(12)
}
