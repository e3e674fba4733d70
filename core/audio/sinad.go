package audio

import (
	"math"

	"talloak/core/problem"
)

// SINAD is signal, noise and distortion over noise and distortion, as a ratio in dB
// and as what is left in percent of the whole: 12 dB are 25.1 %.
type SINAD struct {
	DB      float64 `json:"sinad_db"`
	Percent float64 `json:"distortion_percent"`
}

// FromVolts is the SINAD of an audio voltage and of what is left of it with the tone
// taken out, both in V: 20 log10(total / residue). It refuses 0 and a residue over the
// whole; errors are on "total_v" and "residue_v".
func FromVolts(total, residue float64) (SINAD, error) {
	var bad problem.List
	if !(total > 0) {
		bad.Add("total_v", "give a voltage above 0 V")
	}
	if !(residue > 0) {
		bad.Add("residue_v", "give a voltage above 0 V; what is left cannot be nothing")
	} else if residue > total {
		bad.Add("residue_v", "what is left cannot be over the whole")
	}
	if err := bad.Err(); err != nil {
		return SINAD{}, err
	}
	return SINAD{20 * math.Log10(total/residue), 100 * residue / total}, nil
}

// FromPercent is the SINAD of distortion and noise in percent of the whole, above 0
// and up to 100. Errors are on "distortion_percent".
func FromPercent(percent float64) (SINAD, error) {
	if !(percent > 0 && percent <= 100) {
		return SINAD{}, problem.New("distortion_percent", "give more than 0 and at most 100 %% of the whole")
	}
	return SINAD{-20 * math.Log10(percent/100), percent}, nil
}

// FromDB is the SINAD of a ratio in dB, 0 or more. Errors are on "sinad_db".
func FromDB(db float64) (SINAD, error) {
	percent := 100 * math.Pow(10, -db/20)
	if db < 0 || !(percent > 0) {
		return SINAD{}, problem.New("sinad_db", "give 0 dB or more, as a meter shows it")
	}
	return SINAD{db, percent}, nil
}
