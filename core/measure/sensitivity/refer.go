package sensitivity

import (
	"math"

	"talloak/core/decision"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/rf"
	"talloak/core/uncertainty"
	"talloak/core/units"
)

// By is how it was found that the receiver heard enough.
type By string

// By SINAD of 12 dB, or by ear: two quantities, never compared.
const (
	BySINAD By = "sinad"
	ByEar   By = "by-ear"
)

// Input is a level that a generator showed, through a path to the receiver. With EMF
// its volts are those of the open generator, twice what a load of 50 ohm gets.
// GeneratorDB is how far its level may be off, a half-width in dB. Claimed is what the
// maker claims, into the load whatever EMF says; nil where nothing is claimed.
// ToleranceDB is what a claim may be missed by.
type Input struct {
	Shown       units.Quantity
	EMF         bool
	Kind        By
	Frequency   units.Hertz
	Path        *path.Path
	GeneratorDB float64
	Claimed     *units.Quantity
	ToleranceDB float64
	Rule        decision.Rule
}

// Result is the level at the receiver's connector. Levels are in dBm and µV into 50
// ohm (PD); those at the connector are nil where the path has no loss, the comparison
// nil by ear and where nothing is claimed. ClaimDeltaDB is measured less claimed:
// positive needs more signal, which is worse.
type Result struct {
	GeneratorDBm   float64           `json:"generator_dbm"`
	AtConnectorDBm *float64          `json:"at_connector_dbm"`
	AtConnectorUV  *float64          `json:"at_connector_uv"`
	SUnits         *float64          `json:"s_units"`
	UncertaintyDB  *float64          `json:"expanded_uncertainty_db"`
	ClaimDeltaDB   *float64          `json:"claim_delta_db"`
	Verdict        *decision.Verdict `json:"verdict"`
}

// perMicro is how many µV a volt has.
const perMicro = 1e6

// Refer works out connector = generator - loss, U = 2 root sum square of the
// generator's and the path's standard uncertainty, and the claim: it passes within
// tolerance - U, fails over tolerance + U. Errors are *problem.Error on "text",
// "claimed", "kind", "frequency_hz", "generator_db", "tolerance_db" and "decision_rule".
func Refer(in Input) (Result, error) {
	var bad problem.List
	shown := level(&bad, "text", in.Shown, in.EMF)
	claimed := units.DBm(0)
	if in.Claimed != nil {
		claimed = level(&bad, "claimed", *in.Claimed, false)
	}
	if in.Kind != BySINAD && in.Kind != ByEar {
		bad.Add("kind", "give sinad or by-ear")
	}
	if !(in.Frequency > 0) {
		bad.Add("frequency_hz", "give more than 0 Hz")
	}
	if !(in.GeneratorDB >= 0) {
		bad.Add("generator_db", "give 0 dB or more: how far its level may be off")
	}
	if !(in.ToleranceDB >= 0) {
		bad.Add("tolerance_db", "give 0 dB or more")
	}
	if !in.Rule.Known() {
		bad.Add("decision_rule", "give simple or guarded")
	}
	if err := bad.Err(); err != nil {
		return Result{}, err
	}
	out := Result{GeneratorDBm: float64(shown)}
	loss, ok := in.Path.LossAt(in.Frequency)
	if !ok {
		return out, nil
	}
	at := shown - units.DBm(loss)
	s := 9 + float64(at-rf.S9(in.Frequency))/rf.SUnitDB
	u := uncertainty.CoverageFactor * math.Hypot(in.GeneratorDB/math.Sqrt(3), float64(in.Path.LossUncertainty(in.Frequency)))
	dbm, uv := float64(at), perMicro*math.Sqrt(float64(at.Watts())*units.Impedance)
	out.AtConnectorDBm, out.AtConnectorUV, out.SUnits, out.UncertaintyDB = &dbm, &uv, &s, &u
	if in.Claimed == nil || in.Kind == ByEar {
		return out, nil
	}
	delta := float64(at - claimed)
	verdict := in.Rule.Decide(units.DB(in.ToleranceDB-delta), units.DB(u))
	out.ClaimDeltaDB, out.Verdict = &delta, &verdict
	return out, nil
}

// level is a power or voltage as a level; with emf a voltage is halved.
func level(bad *problem.List, field string, q units.Quantity, emf bool) units.DBm {
	w, err := q.Power()
	switch {
	case err != nil:
		bad.Add(field, "%s", err.Error())
		return 0
	case !(w > 0):
		bad.Add(field, "%g %s is no level", q.Value, q.Unit)
		return 0
	}
	if emf && q.Unit.Voltage() {
		w /= 4
	}
	return w.DBm()
}
