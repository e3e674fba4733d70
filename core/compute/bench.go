package compute

import (
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/units"
)

// PathIn is a path and what is sent into it.
type PathIn struct {
	SourceW       *float64       `json:"source_w"`
	SourcePEPW    *float64       `json:"source_pep_w,omitempty"`
	FrequenciesHz []float64      `json:"frequencies_hz"`
	Elements      []path.Element `json:"elements"`
	Strict        bool           `json:"strict,omitempty"`
}

func analyzePath(in *PathIn) (path.Analysis, error) {
	var bad problem.List
	w := number(&bad, "source_w", in.SourceW, "in W")
	if in.Elements == nil {
		bad.Add("elements", "is missing; give the parts from the antenna connector on")
	}
	if in.FrequenciesHz == nil {
		bad.Add("frequencies_hz", "is missing; give at least one frequency")
	}
	p, err := path.Compile(in.Elements)
	bad.AddErr("", err)
	s := path.Stress{SourceW: w, SourcePEPW: or(in.SourcePEPW, w), Strict: in.Strict}
	for _, f := range in.FrequenciesHz {
		s.Frequencies = append(s.Frequencies, units.Hertz(f))
	}
	if in.SourceW != nil && in.FrequenciesHz != nil {
		bad.AddErr("", s.Check())
	}
	if err := bad.Err(); err != nil {
		return path.Analysis{}, err
	}
	return p.Analyze(s)
}

// ElementsIn is a path within another input.
type ElementsIn struct {
	Elements []path.Element `json:"elements"`
}

// ReadingIn is what a power meter showed.
type ReadingIn struct {
	Text            *string        `json:"text"`
	Unit            *string        `json:"unit,omitempty"`
	FrequencyHz     *float64       `json:"frequency_hz"`
	Meter           *reading.Meter `json:"meter"`
	SourceSWR       *float64       `json:"source_swr,omitempty"`
	AppliedOffsetDB *float64       `json:"applied_offset_db,omitempty"`
	Path            *ElementsIn    `json:"path,omitempty"`

	Pooled *reading.Pooled `json:"pooled,omitempty"`
}

func referReading(in *ReadingIn) (reading.Result, error) {
	var bad problem.List
	r := reading.Input{
		Frequency:       units.Hertz(number(&bad, "frequency_hz", in.FrequencyHz, "of Hz")),
		SourceSWR:       in.SourceSWR,
		AppliedOffsetDB: or(in.AppliedOffsetDB, 0),
		Path:            compilePath(&bad, "path", in.Path),
		Pooled:          in.Pooled,
	}
	var err error
	if in.Text == nil {
		bad.Add("text", "is missing; give what the meter showed")
	} else {
		r.Values, err = units.ParseReadings(*in.Text, or(in.Unit, ""))
		bad.AddErr("", err)
	}
	if in.Meter == nil {
		bad.Add("meter", "is missing; give its range and accuracy")
	} else {
		r.Meter = *in.Meter
	}
	if bad.Empty() {
		return reading.Refer(r)
	}
	// Refused already: whatever else is wrong is said too, but not what follows
	// from the refusals.
	if len(r.Values) == 0 {
		r.Values = make([]units.Quantity, 1)
	}
	bad.AddErr("", r.Check())
	return reading.Result{}, bad.Err()
}

// compilePath checks a path within another input; none is a direct connection.
func compilePath(bad *problem.List, field string, in *ElementsIn) *path.Path {
	if in == nil {
		return &path.Path{}
	}
	p, err := path.Compile(in.Elements)
	bad.AddErr(field, err)
	return p
}
