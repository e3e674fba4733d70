package compute

import (
	"encoding/json"
	"fmt"
	"math"

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

// ReadingIn is what a power meter showed: one line of it, or several entries, for which the
// other fields stand where one does not say its own.
type ReadingIn struct {
	ReadingOfIn
	Unit    *string       `json:"unit,omitempty"`
	Entries []ReadingOfIn `json:"entries,omitempty"`
}

// ReadingOfIn is one line of what a meter showed, and what it was read with.
type ReadingOfIn struct {
	Text            *string        `json:"text,omitempty"`
	FrequencyHz     *float64       `json:"frequency_hz,omitempty"`
	SupplyV         *float64       `json:"supply_v,omitempty"`
	Meter           *reading.Meter `json:"meter,omitempty"`
	SourceSWR       *float64       `json:"source_swr,omitempty"`
	AppliedOffsetDB *float64       `json:"applied_offset_db,omitempty"`
	Path            *ElementsIn    `json:"path,omitempty"`

	Pooled *reading.Pooled `json:"pooled,omitempty"`
}

func referReading(in *ReadingIn) (reading.Joined, error) {
	if in.Entries == nil {
		r, err := in.input("", or(in.Unit, ""))
		if err != nil {
			return reading.Joined{}, err
		}
		one, err := reading.Refer(r.Input)
		return reading.Joined{Result: one, Agree: true}, err
	}
	var bad problem.List
	if in.Text != nil {
		bad.Add("text", "give text or entries, not both")
	}
	if len(in.Entries) == 0 {
		bad.Add("entries", "give at least one")
	}
	entries := make([]reading.Entry, len(in.Entries))
	for i := range in.Entries {
		field := fmt.Sprintf("entries[%d]", i)
		var err error
		entries[i], err = in.Entries[i].orElse(in.ReadingOfIn).input(field, or(in.Unit, ""))
		bad.AddErr("", err)
	}
	if err := bad.Err(); err != nil {
		return reading.Joined{}, err
	}
	return reading.ReferAll(entries)
}

// orElse is an entry with what it does not say from the whole.
func (e ReadingOfIn) orElse(whole ReadingOfIn) ReadingOfIn {
	e.FrequencyHz, e.SupplyV, e.Meter = first(e.FrequencyHz, whole.FrequencyHz), first(e.SupplyV, whole.SupplyV), first(e.Meter, whole.Meter)
	e.SourceSWR, e.AppliedOffsetDB = first(e.SourceSWR, whole.SourceSWR), first(e.AppliedOffsetDB, whole.AppliedOffsetDB)
	e.Path, e.Pooled = first(e.Path, whole.Path), first(e.Pooled, whole.Pooled)
	return e
}

func first[T any](a, b *T) *T {
	if a != nil {
		return a
	}
	return b
}

// input reads a line and checks what it was read with; errors are on fields below field.
func (e ReadingOfIn) input(field, unit string) (reading.Entry, error) {
	var bad problem.List
	at := func(name string) string { return problem.Join(field, name) }
	r := reading.Entry{SupplyV: e.SupplyV, Input: reading.Input{
		Frequency:       units.Hertz(number(&bad, at("frequency_hz"), e.FrequencyHz, "of Hz")),
		SourceSWR:       e.SourceSWR,
		AppliedOffsetDB: or(e.AppliedOffsetDB, 0),
		Path:            compilePath(&bad, at("path"), e.Path),
		Pooled:          e.Pooled,
	}}
	if e.Text == nil {
		bad.Add(at("text"), "is missing; give what the meter showed")
	} else {
		values, line, err := units.ParseReadings(*e.Text, unit)
		if err != nil && unit == "" && field != "" { // of several, a number without one is in W
			values, line, err = units.ParseReadings(*e.Text, string(units.W))
		}
		bad.AddErr(field, err)
		r.Values, r.SupplyV = values, first(r.SupplyV, line.SupplyV)
		if f := line.FrequencyHz; f != nil && e.FrequencyHz != nil && math.Abs(*f-*e.FrequencyHz) > path.SameFrequency**e.FrequencyHz {
			bad.Add(at("text"), "says %s, but the frequency is %s", units.Hertz(*f), r.Frequency)
		}
	}
	if e.Meter == nil {
		bad.Add(at("meter"), "is missing; give its range and accuracy")
	} else {
		r.Meter = *e.Meter
	}
	r.Wiring, _ = json.Marshal(struct {
		M *reading.Meter
		P *ElementsIn
		O float64
	}{e.Meter, e.Path, r.AppliedOffsetDB})
	if bad.Empty() {
		bad.AddErr(field, r.Check())
		return r, bad.Err()
	}
	// Refused already: whatever else is wrong is said too, but not what follows
	// from the refusals.
	if len(r.Values) == 0 {
		r.Values = make([]units.Quantity, 1)
	}
	bad.AddErr(field, r.Check())
	return reading.Entry{}, bad.Err()
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
