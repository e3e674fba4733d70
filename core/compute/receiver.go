package compute

import (
	"talloak/core/audio"
	"talloak/core/decision"
	"talloak/core/measure/sensitivity"
	"talloak/core/problem"
	"talloak/core/units"
)

// SINADIn is a SINAD in exactly one of its forms.
type SINADIn struct {
	SINADdB           *float64 `json:"sinad_db,omitempty"`
	DistortionPercent *float64 `json:"distortion_percent,omitempty"`
	TotalV            *float64 `json:"total_v,omitempty"`
	ResidueV          *float64 `json:"residue_v,omitempty"`
}

func sinad(in *SINADIn) (audio.SINAD, error) {
	forms := 0
	for _, given := range []bool{in.SINADdB != nil, in.DistortionPercent != nil, in.TotalV != nil || in.ResidueV != nil} {
		if given {
			forms++
		}
	}
	switch {
	case forms != 1:
		return audio.SINAD{}, problem.New("sinad_db", "give one of sinad_db, distortion_percent, or total_v with residue_v")
	case in.SINADdB != nil:
		return audio.FromDB(*in.SINADdB)
	case in.DistortionPercent != nil:
		return audio.FromPercent(*in.DistortionPercent)
	}
	var bad problem.List
	total, residue := number(&bad, "total_v", in.TotalV, "of V"), number(&bad, "residue_v", in.ResidueV, "of V")
	if err := bad.Err(); err != nil {
		return audio.SINAD{}, err
	}
	return audio.FromVolts(total, residue)
}

// SensitivityIn is a level that a generator showed, and what is claimed.
type SensitivityIn struct {
	Text         *string     `json:"text"`
	EMF          *bool       `json:"emf,omitempty"`
	Kind         *string     `json:"kind,omitempty"`
	FrequencyHz  *float64    `json:"frequency_hz"`
	Path         *ElementsIn `json:"path,omitempty"`
	LossDB       *float64    `json:"loss_db,omitempty"`
	GeneratorDB  *float64    `json:"generator_db,omitempty"`
	Claimed      *string     `json:"claimed,omitempty"`
	ToleranceDB  *float64    `json:"tolerance_db,omitempty"`
	DecisionRule *string     `json:"decision_rule,omitempty"`
}

func receiverSensitivity(in *SensitivityIn) (sensitivity.Result, error) {
	var bad problem.List
	through, _ := ThroughIn{Path: in.Path, LossDB: in.LossDB}.through(&bad, "", nil, 0)
	ask := sensitivity.Input{
		EMF: or(in.EMF, false), Kind: sensitivity.By(or(in.Kind, string(sensitivity.BySINAD))), Path: through,
		Frequency:   units.Hertz(number(&bad, "frequency_hz", in.FrequencyHz, "of Hz")),
		GeneratorDB: or(in.GeneratorDB, 0), ToleranceDB: or(in.ToleranceDB, 0),
		Rule:  decision.Rule(or(in.DecisionRule, string(decision.Guarded))),
		Shown: units.Quantity{Value: 1, Unit: units.V}, // where the text is refused
	}
	quantity := func(field, text string) units.Quantity {
		q, err := units.ParseQuantity(text)
		if err != nil {
			bad.Add(field, "%s", detail(err))
			return ask.Shown
		}
		return q
	}
	if in.Text == nil {
		bad.Add("text", "is missing; give what the generator shows, such as 0.22uV or -121dBm")
	} else {
		ask.Shown = quantity("text", *in.Text)
	}
	if in.Claimed != nil {
		claimed := quantity("claimed", *in.Claimed)
		ask.Claimed = &claimed
	}
	out, err := sensitivity.Refer(ask)
	bad.AddErr("", err)
	return out, bad.Err()
}
