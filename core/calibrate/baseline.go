package calibrate

import (
	"fmt"
	"math"
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
}

// MeterOffset is how a meter stands against the others: what it shows more than
// their mean, in dB, over the rows in which it has company. Spread is the
// standard deviation over those rows and Uncertainty the standard uncertainty of
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
	Each        []*float64 `json:"each_db"` // per row; nil where not taken or alone
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
	out := make([]MeterOffset, len(meters))
	for j, name := range meters {
		out[j] = offset(name, j, rows, levels)
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
		OffsetDB: *m.OffsetDB, UncertaintyDB: *m.Uncertainty, FromHz: *m.FromHz, ToHz: *m.ToHz, On: on, Against: strings.Join(others, ", "),
	}, nil
}

func offset(name string, j int, rows []Row, levels [][]*float64) MeterOffset {
	out := MeterOffset{Meter: name, Each: make([]*float64, len(rows))}
	var each []float64
	lowest, highest := math.Inf(1), 0.0
	for i := range rows {
		others, n := 0.0, 0
		for k, l := range levels[i] {
			if k != j && l != nil {
				others, n = others+*l, n+1
			}
		}
		if levels[i][j] == nil || n == 0 {
			continue
		}
		d := *levels[i][j] - others/float64(n)
		out.Each[i] = &d
		each = append(each, d)
		f := float64(rows[i].Frequency)
		lowest, highest = min(lowest, f), max(highest, f)
	}
	if out.Rows = len(each); out.Rows == 0 {
		return out
	}
	mean := stat.Mean(each, nil)
	out.OffsetDB, out.FromHz, out.ToHz = &mean, &lowest, &highest
	if out.Rows > 1 {
		s := stat.StdDev(each, nil)
		u := s / math.Sqrt(float64(out.Rows)) * uncertainty.T95(out.Rows-1) / uncertainty.CoverageFactor
		out.SpreadDB, out.Uncertainty = &s, &u
	}
	return out
}
