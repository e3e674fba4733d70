package rf

import (
	"math"

	"talloak/core/problem"
	"talloak/core/units"
)

// Reflection is how well a load is matched. ReturnLossDB is nil for a perfect
// match, NetW is nil where no watts were given.
type Reflection struct {
	Rho            float64  `json:"rho"`
	SWR            float64  `json:"swr"`
	ReturnLossDB   *float64 `json:"return_loss_db"`
	MismatchLossDB float64  `json:"mismatch_loss_db"`
	NetW           *float64 `json:"net_w"`
}

// FromRho derives a reflection from rho = |reflection coefficient|, 0 <= rho < 1:
// SWR = (1+rho)/(1-rho), return loss = -20 log10 rho, mismatch loss =
// -10 log10(1-rho^2) (ARRL Handbook, transmission lines).
func FromRho(rho float64) (Reflection, error) {
	if !(rho >= 0 && rho < 1) {
		return Reflection{}, problem.New("rho", "give 0 or more and less than 1")
	}
	r := Reflection{
		Rho:            rho,
		SWR:            (1 + rho) / (1 - rho),
		MismatchLossDB: -10 * math.Log10((1-rho)*(1+rho)),
	}
	if rho == 0 {
		r.MismatchLossDB = 0
	} else {
		rl := -20 * math.Log10(rho)
		r.ReturnLossDB = &rl
	}
	return r, nil
}

// FromSWR derives a reflection from an SWR of 1 or more.
func FromSWR(swr float64) (Reflection, error) {
	if !(swr >= 1) {
		return Reflection{}, problem.New("swr", "give 1 or more")
	}
	r, err := FromRho(Rho(swr))
	if err != nil {
		return Reflection{}, problem.New("swr", "too large to be told from no load at all")
	}
	r.SWR = swr
	return r, nil
}

// FromReturnLoss derives a reflection from a return loss above 0 dB.
func FromReturnLoss(db units.DB) (Reflection, error) {
	if !(db > 0) {
		return Reflection{}, problem.New("return_loss_db", "give more than 0 dB")
	}
	r, err := FromRho(math.Pow(10, -float64(db)/20))
	if err != nil {
		return Reflection{}, problem.New("return_loss_db", "too small to be told from 0 dB")
	}
	given := float64(db)
	r.ReturnLossDB = &given
	return r, nil
}

// FromPowers derives a reflection from forward and reflected power,
// rho = sqrt(Pr/Pf), net = Pf - Pr. Pf must be above 0 and Pr below Pf.
func FromPowers(forward, reflected units.Watts) (Reflection, error) {
	var bad problem.List
	if !(forward > 0) {
		bad.Add("forward_w", "give more than 0 W")
	}
	if reflected < 0 {
		bad.Add("reflected_w", "give 0 W or more")
	} else if forward > 0 && reflected >= forward {
		bad.Add("reflected_w", "must be less than the forward power")
	}
	if err := bad.Err(); err != nil {
		return Reflection{}, err
	}
	r, err := FromRho(math.Sqrt(float64(reflected / forward)))
	if err != nil {
		return Reflection{}, problem.New("reflected_w", "too near the forward power to be told from it")
	}
	net := float64(forward - reflected)
	r.NetW = &net
	return r, nil
}

// Rho is the reflection coefficient of an SWR of 1 or more.
func Rho(swr float64) float64 { return (swr - 1) / (swr + 1) }

// MismatchUncertainty is the standard uncertainty in dB of the power passed
// between two imperfect ports whose phases are unknown, U-shaped:
// 8.686 |Gs| |Gl| / sqrt 2 (JCGM 100; Harris and Warner).
func MismatchUncertainty(swrSource, swrLoad float64) units.DB {
	return units.DB(20 / math.Ln10 * Rho(swrSource) * Rho(swrLoad) / math.Sqrt2)
}
