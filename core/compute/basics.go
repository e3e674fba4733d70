package compute

import (
	"math"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/problem"
	"talloak/core/rf"
	"talloak/core/touchstone"
	"talloak/core/units"
)

// ConvertIn is one power or voltage: as text, or as value and unit.
type ConvertIn struct {
	Text  *string  `json:"text,omitempty"`
	Value *float64 `json:"value,omitempty"`
	Unit  *string  `json:"unit,omitempty"`
}

func convert(in *ConvertIn) (units.Converted, error) {
	var bad problem.List
	if in.Text != nil {
		if in.Value != nil {
			bad.Add("value", "give text alone, or value and unit")
		}
		if in.Unit != nil {
			bad.Add("unit", "give text alone, or value and unit")
		}
		if err := bad.Err(); err != nil {
			return units.Converted{}, err
		}
		q, err := units.ParseQuantity(*in.Text)
		if err != nil {
			return units.Converted{}, err
		}
		out, err := units.Convert(q)
		bad.AddErr("text", err)
		return out, bad.Err()
	}
	q := units.Quantity{Value: number(&bad, "value", in.Value, "or text")}
	if in.Unit == nil {
		bad.Add("unit", "is missing; give one of %s", units.Units)
	} else if u, ok := units.ParseUnit(*in.Unit); !ok {
		bad.Add("unit", "%q is no unit; known are %s (MW is not mW)", *in.Unit, units.Units)
	} else {
		q.Unit = u
	}
	if err := bad.Err(); err != nil {
		return units.Converted{}, err
	}
	out, err := units.Convert(q)
	bad.AddErr("value", err)
	return out, bad.Err()
}

// SWRIn is a reflection in exactly one of its forms.
type SWRIn struct {
	ForwardW     *float64 `json:"forward_w,omitempty"`
	ReflectedW   *float64 `json:"reflected_w,omitempty"`
	SWR          *float64 `json:"swr,omitempty"`
	ReturnLossDB *float64 `json:"return_loss_db,omitempty"`
	Rho          *float64 `json:"rho,omitempty"`
}

func reflection(in *SWRIn) (rf.Reflection, error) {
	var bad problem.List
	forms := []string{}
	for _, f := range []struct {
		field string
		given bool
	}{{"forward_w", in.ForwardW != nil || in.ReflectedW != nil}, {"swr", in.SWR != nil}, {"return_loss_db", in.ReturnLossDB != nil}, {"rho", in.Rho != nil}} {
		if f.given {
			forms = append(forms, f.field)
		}
	}
	switch {
	case len(forms) == 0:
		bad.Add("forward_w", "give forward_w and reflected_w, or swr, or return_loss_db, or rho")
	case len(forms) > 1:
		for _, f := range forms[1:] {
			bad.Add(f, "%s is given already; give one of them", forms[0])
		}
	case in.SWR != nil:
		return rf.FromSWR(*in.SWR)
	case in.ReturnLossDB != nil:
		return rf.FromReturnLoss(units.DB(*in.ReturnLossDB))
	case in.Rho != nil:
		return rf.FromRho(*in.Rho)
	default:
		forward := number(&bad, "forward_w", in.ForwardW, "in W")
		reflected := number(&bad, "reflected_w", in.ReflectedW, "in W")
		if bad.Empty() {
			return rf.FromPowers(units.Watts(forward), units.Watts(reflected))
		}
	}
	return rf.Reflection{}, bad.Err()
}

// CableLossIn is a length of cable, by type or by data-sheet points.
type CableLossIn struct {
	Cable       *string         `json:"cable,omitempty"`
	Points      []rf.CablePoint `json:"points,omitempty"`
	LengthM     *float64        `json:"length_m"`
	FrequencyHz *float64        `json:"frequency_hz"`
	LoadSWR     *float64        `json:"load_swr,omitempty"`
}

// CableLossOut is its loss in dB; K1 and K2 are dB per 100 m for f in MHz.
type CableLossOut struct {
	MatchedLossDB float64 `json:"matched_loss_db"`
	TotalLossDB   float64 `json:"total_loss_db"`
	K1            float64 `json:"k1"`
	K2            float64 `json:"k2"`
	Extrapolated  bool    `json:"extrapolated"`
}

func cableLoss(in *CableLossIn) (CableLossOut, error) {
	var bad problem.List
	length := number(&bad, "length_m", in.LengthM, "of metres")
	f := number(&bad, "frequency_hz", in.FrequencyHz, "of Hz")
	swr := or(in.LoadSWR, 1)
	if length < 0 {
		bad.Add("length_m", "give 0 m or more")
	}
	if in.FrequencyHz != nil && !(f > 0) {
		bad.Add("frequency_hz", "give more than 0 Hz")
	}
	if swr < 1 {
		bad.Add("load_swr", "give 1 or more")
	}
	var c rf.Cable
	var err error
	switch {
	case in.Cable != nil && in.Points != nil:
		bad.Add("points", "give cable or points, not both")
	case in.Cable != nil:
		c, err = rf.CableType(*in.Cable)
	case in.Points != nil:
		c, err = rf.FitCable(in.Points)
	default:
		bad.Add("cable", "give a cable type or points")
	}
	bad.AddErr("", err)
	if err := bad.Err(); err != nil {
		return CableLossOut{}, err
	}
	ml, extrapolated := c.Matched(length, units.Hertz(f))
	if math.IsInf(float64(ml), 0) || math.IsNaN(float64(ml)) {
		return CableLossOut{}, problem.New("length_m", "the loss is too large; give a shorter cable")
	}
	total := rf.TotalLoss(ml, swr)
	if math.IsInf(float64(total), 0) || math.IsNaN(float64(total)) {
		return CableLossOut{}, problem.New("load_swr", "too large to be told from no load at all")
	}
	return CableLossOut{float64(ml), float64(total), c.K1, c.K2, extrapolated}, nil
}

// TouchstoneIn is the text of a file; Ports where the text cannot tell.
type TouchstoneIn struct {
	Text  *string `json:"text"`
	Ports *int    `json:"ports,omitempty"`
}

// Complex is a complex number.
type Complex struct {
	Re float64 `json:"re"`
	Im float64 `json:"im"`
}

// TouchstoneOut is the network; LossDB of two-ports only.
type TouchstoneOut struct {
	Ports       int                  `json:"ports"`
	Points      int                  `json:"points"`
	Z0Ohm       float64              `json:"z0_ohm"`
	FrequencyHz []float64            `json:"frequency_hz"`
	S           map[string][]Complex `json:"s"`
	LossDB      []*float64           `json:"loss_db"`
	SWR         []*float64           `json:"swr"`
}

func readTouchstone(in *TouchstoneIn) (TouchstoneOut, error) {
	if in.Text == nil {
		return TouchstoneOut{}, problem.New("text", "is missing; give the text of a Touchstone file")
	}
	if in.Ports != nil && *in.Ports < 1 {
		return TouchstoneOut{}, problem.New("ports", "give 1 to %d", touchstone.MaxPorts)
	}
	n, err := touchstone.Parse(*in.Text, or(in.Ports, 0))
	if err != nil {
		return TouchstoneOut{}, err
	}
	out := TouchstoneOut{Ports: n.Ports, Points: n.Points(), Z0Ohm: n.Z0, S: map[string][]Complex{}}
	for to := 1; to <= n.Ports; to++ {
		for from := 1; from <= n.Ports; from++ {
			column := make([]Complex, n.Points())
			for i := range column {
				s := n.S(i, to, from)
				column[i] = Complex{real(s), imag(s)}
			}
			out.S[n.Name(to, from)] = column
		}
	}
	for i, f := range n.Frequency {
		out.FrequencyHz = append(out.FrequencyHz, float64(f))
		var swr, loss *float64
		if v, ok := n.SWR(i); ok {
			swr = &v
		}
		out.SWR = append(out.SWR, swr)
		if n.Ports == 2 {
			if v, ok := n.LossDB(i); ok {
				loss = ptr(float64(v))
			}
			out.LossDB = append(out.LossDB, loss)
		}
	}
	return out, nil
}

func entry(in *EntryIn) (units.Entry, error) {
	if in.Text == nil {
		return units.Entry{}, problem.New("text", "is missing; give the line that was typed")
	}
	return units.ParseEntryIn(*in.Text, or(in.Unit, ""))
}

// EntryIn is a typed key-up line.
type EntryIn struct {
	Text *string `json:"text"`
	Unit *string `json:"unit,omitempty"` // of numbers without one
}

// CompareClaimIn is a measured power and its claim.
type CompareClaimIn struct {
	ClaimedW              *float64 `json:"claimed_w"`
	MeasuredW             *float64 `json:"measured_w"`
	ExpandedUncertaintyDB *float64 `json:"expanded_uncertainty_db,omitempty"`
	LowW                  *float64 `json:"low_w,omitempty"`
	HighW                 *float64 `json:"high_w,omitempty"`
	Scheme                *string  `json:"scheme,omitempty"`
	ToleranceDB           *float64 `json:"tolerance_db,omitempty"`
	TwoSided              *bool    `json:"two_sided,omitempty"`
	PassPercent           *float64 `json:"pass_percent,omitempty"`
	DecisionRule          *string  `json:"decision_rule,omitempty"`
}

func compareClaim(in *CompareClaimIn) (claims.Result, error) {
	var bad problem.List
	number(&bad, "claimed_w", in.ClaimedW, "in W")
	number(&bad, "measured_w", in.MeasuredW, "in W")
	out, err := claims.Compare(claims.Claim{
		ClaimedW:              or(in.ClaimedW, 1),
		MeasuredW:             or(in.MeasuredW, 1),
		ExpandedUncertaintyDB: or(in.ExpandedUncertaintyDB, 0),
		LowW:                  in.LowW,
		HighW:                 in.HighW,
		Scheme:                claims.Scheme(or(in.Scheme, string(claims.Tolerance))),
		ToleranceDB:           or(in.ToleranceDB, claims.DefaultToleranceDB),
		TwoSided:              or(in.TwoSided, false),
		PassPercent:           or(in.PassPercent, claims.DefaultPassPercent),
		Rule:                  decision.Rule(or(in.DecisionRule, string(decision.Guarded))),
	})
	bad.AddErr("", err)
	return out, bad.Err()
}
