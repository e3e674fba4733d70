package measure

import (
	"maps"
	"slices"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/problem"
	"talloak/core/record"
)

// The bounds of what a review may be judged by: beyond them a setting would decide by itself
// (common practice, no source). An emission is at least as wide as slow telegraphy and at most
// as a broadcast in FM; half the power claimed is short of it by any scheme.
const (
	LeastBandwidthHz, MostBandwidthHz = 50, 250e3
	MostToleranceDB                   = 3
	LeastPercent, MostPercent         = 50, 100
	MostSourceSWR                     = 100
)

// CheckRules says all that a review cannot be judged by, by the fields of its rules. Whether the
// rule books are there is asked where they are.
func CheckRules(r record.Rules) error {
	var bad problem.List
	if rule := decision.Rule(r.DecisionRule); rule != decision.Guarded && rule != decision.Simple {
		bad.Add("decision_rule", "give %s or %s", decision.Guarded, decision.Simple)
	}
	if s := claims.Scheme(r.Scheme); s != claims.Tolerance && s != claims.Percent {
		bad.Add("scheme", "give %s or %s", claims.Tolerance, claims.Percent)
	}
	if !(r.ToleranceDB >= 0 && r.ToleranceDB <= MostToleranceDB) {
		bad.Add("tolerance_db", "give 0 to %d dB: less than half the power claimed makes no claim", MostToleranceDB)
	}
	if !(r.PassPercent >= LeastPercent && r.PassPercent <= MostPercent) {
		bad.Add("pass_percent", "give %d to %d %%", LeastPercent, MostPercent)
	}
	if !(r.BandwidthHz >= LeastBandwidthHz && r.BandwidthHz <= MostBandwidthHz) {
		bad.Add("emission_bandwidth_hz", "give %d Hz to %g kHz: what lies within two and a half of it is the emission itself, and is held against no limit", LeastBandwidthHz, MostBandwidthHz/1e3)
	}
	if swr := r.SourceSWR; swr != 0 && !(swr >= 1 && swr <= MostSourceSWR) {
		bad.Add("source_swr", "give an SWR of 1 to %d, or 0 for the typical value", MostSourceSWR)
	}
	for _, band := range slices.Sorted(maps.Keys(r.Books)) {
		if r.Books[band] == "" {
			bad.Add("books."+band, "give the id of a rule book, or leave the band out")
		}
	}
	return bad.Err()
}
