package compute

import (
	"fmt"

	"talloak/core/advise"
	"talloak/core/calibrate"
	"talloak/core/dc"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/touchstone"
	"talloak/core/units"
)

// PadAdviceIn asks which of the pads, in which order, suit a power, an analyzer
// and a rule book.
type PadAdviceIn struct {
	BookIn
	CarrierIn
	SourceW    *float64       `json:"source_w"`
	SourcePEPW *float64       `json:"source_pep_w,omitempty"`
	Before     []path.Element `json:"before,omitempty"`
	Pads       []path.Element `json:"pads"`
	Analyzer   *path.Element  `json:"analyzer"`
	MostPads   *int           `json:"most_pads,omitempty"`
}

// PadAdviceOut lists the choices, the best first.
type PadAdviceOut struct {
	Choices []advise.Choice `json:"choices"`
}

func (e *Engine) padAdvice(in *PadAdviceIn) (PadAdviceOut, error) {
	var bad problem.List
	w := number(&bad, "source_w", in.SourceW, "in W")
	q := advise.Question{Stress: path.Stress{SourceW: w, SourcePEPW: or(in.SourcePEPW, w)}, Most: or(in.MostPads, 0)}
	book, carrier := e.book(&bad, in.BookIn), in.carrier()
	carrier.MeanW = or(in.MeanPowerW, w)
	carrier.PEPW = or(in.PEPW, carrier.MeanW)
	if in.SourceW == nil {
		carrier.MeanW, carrier.PEPW = 1, 1 // its absence is said already
	}
	bad.AddErr("", carrier.Check())
	q.Carrier = carrier.Frequency
	if in.Pads == nil {
		bad.Add("pads", "is missing; give the pads owned")
	}
	for i, p := range in.Pads {
		part, err := path.Prepare(p)
		bad.AddErr(fmt.Sprintf("pads[%d]", i), err)
		q.Pads = append(q.Pads, advise.Candidate{Item: fmt.Sprint(i), Name: p.Title(), Part: part})
	}
	for i, p := range in.Before {
		part, err := path.Prepare(p)
		bad.AddErr(fmt.Sprintf("before[%d]", i), err)
		q.Before = append(q.Before, part)
	}
	if in.Analyzer == nil {
		bad.Add("analyzer", "is missing; give the analyzer the pads are for")
	} else {
		part, err := path.Prepare(*in.Analyzer)
		bad.AddErr("analyzer", err)
		q.Behind = []path.Part{part}
	}
	if err := bad.Err(); err != nil {
		return PadAdviceOut{}, err
	}
	q.Limits = book.For(carrier)
	choices, err := advise.Pads(q)
	return PadAdviceOut{choices}, err
}

// StackLossIn is a stack read without and with, or its two-port file.
type StackLossIn struct {
	Meter       *reading.Meter `json:"meter,omitempty"`
	MeterWith   *reading.Meter `json:"meter_with,omitempty"`
	SourceSWR   *float64       `json:"source_swr,omitempty"`
	Points      []StackPointIn `json:"points,omitempty"`
	Touchstone  *string        `json:"touchstone,omitempty"`
	ToleranceDB *float64       `json:"tolerance_db,omitempty"`
}

// StackPointIn is what a meter showed without and with the stack.
type StackPointIn struct {
	FrequencyHz float64 `json:"frequency_hz"`
	Without     string  `json:"without"`
	With        string  `json:"with"`
}

// StackLossOut is the loss with its standard uncertainty, per frequency.
type StackLossOut struct {
	Table []path.MeasuredPoint `json:"table"`
}

func stackLoss(in *StackLossIn) (StackLossOut, error) {
	table, err := StackTable(in)
	return StackLossOut{table}, err
}

// StackTable works a stack out in either of its forms.
func StackTable(in *StackLossIn) ([]path.MeasuredPoint, error) {
	var bad problem.List
	if in.Touchstone != nil {
		if in.Points != nil {
			bad.Add("points", "give points or a file, not both")
		}
		tolerance := units.DB(number(&bad, "tolerance_db", in.ToleranceDB, "in dB: how far the analyzer that made the file may be off"))
		n, err := touchstone.Parse(*in.Touchstone, 0)
		if err != nil {
			bad.Add("touchstone", "%s", detail(err))
		}
		if err := bad.Err(); err != nil {
			return nil, err
		}
		return calibrate.StackFromFile(n, tolerance)
	}
	if in.Meter == nil {
		bad.Add("meter", "is missing; give the accuracy of the meter, or a touchstone file instead")
	}
	s := calibrate.StackInput{Meter: or(in.Meter, reading.Meter{}), MeterWith: in.MeterWith, SourceSWR: in.SourceSWR}
	for i, p := range in.Points {
		pair := calibrate.Pair{Frequency: units.Hertz(p.FrequencyHz)}
		pair.Without = shown(&bad, fmt.Sprintf("points[%d].without", i), p.Without)
		pair.With = shown(&bad, fmt.Sprintf("points[%d].with", i), p.With)
		s.Pairs = append(s.Pairs, pair)
	}
	if err := bad.Err(); err != nil {
		return nil, err
	}
	return calibrate.Stack(s)
}

// shown reads what a meter showed, in watts where no unit is typed; empty is nothing.
func shown(bad *problem.List, field, text string) []units.Quantity {
	if text == "" {
		return nil
	}
	values, _, err := units.ParseReadings(text, "")
	if err != nil {
		values, _, err = units.ParseReadings(text, string(units.W))
	}
	if err != nil {
		bad.Add(field, "%s", detail(err))
	}
	return values
}

// detail is the reason of a refusal without its field.
func detail(err error) string {
	var l problem.List
	l.AddErr("", err)
	return l.Fields()[0].Detail
}

// BaselineIn is known transmitters read on several meters.
type BaselineIn struct {
	Meters []string        `json:"meters"`
	Rows   []BaselineRowIn `json:"rows"`
}

// BaselineRowIn is one transmitter; Readings run along the meters, empty where
// one was not read.
type BaselineRowIn struct {
	Transmitter string   `json:"transmitter"`
	FrequencyHz float64  `json:"frequency_hz"`
	Readings    []string `json:"readings"`
}

// BaselineOut is how each meter stands against the others.
type BaselineOut struct {
	Meters []calibrate.MeterOffset `json:"meters"`
}

func meterBaseline(in *BaselineIn) (BaselineOut, error) {
	out, err := Baseline(in)
	return BaselineOut{out}, err
}

// Baseline reads what was typed and compares the meters.
func Baseline(in *BaselineIn) ([]calibrate.MeterOffset, error) {
	var bad problem.List
	var rows []calibrate.Row
	for i, r := range in.Rows {
		row := calibrate.Row{Transmitter: r.Transmitter, Frequency: units.Hertz(r.FrequencyHz)}
		for j, text := range r.Readings {
			row.Readings = append(row.Readings, shown(&bad, fmt.Sprintf("rows[%d].readings[%d]", i, j), text))
			row.StepDB = append(row.StepDB, units.StepDB(text))
		}
		rows = append(rows, row)
	}
	if err := bad.Err(); err != nil {
		return nil, err
	}
	return calibrate.Baseline(in.Meters, rows)
}

// DCSideIn is a supply, its leads and the levels of a radio.
type DCSideIn struct {
	dc.Wiring
	Levels []dc.Level `json:"levels"`
}

func dcSide(in *DCSideIn) (dc.Side, error) { return dc.Work(in.Wiring, in.Levels) }
