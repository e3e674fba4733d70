package sensitivity

import (
	"fmt"
	"math"

	"talloak/core/units"
)

func row(m *Measured) []string {
	out := []string{m.quantity(), m.shown(), "not known", "", "", "no claim"}
	if m.LossDB != nil {
		out[2] = fmt.Sprintf("%.2f dB", *m.LossDB)
	}
	if at := m.Result.AtConnectorUV; at != nil {
		out[3], out[4] = fmt.Sprintf("%s, %.1f dBm", units.Microvolts(*at), *m.Result.AtConnectorDBm), fmt.Sprintf("%.2f dB", *m.Result.UncertaintyDB)
	}
	if m.ClaimedUV != nil {
		out[5] = units.Microvolts(*m.ClaimedUV).String()
	}
	return out
}

// shown is what the generator showed, and in which quantity.
func (m *Measured) shown() string {
	out := m.Text
	if m.EMF {
		out += " EMF"
	}
	return out
}

// way is the path and the two parts of the uncertainty.
func way(m *Measured) string {
	end := m.Through.Kit[len(m.Through.Kit)-1].Spec.Counted()
	u, distribution := end.Accuracy()
	line := fmt.Sprintf("Path “%s”: %s within %.2f dB (%s), standard %.2f dB", m.Through.Name, m.Generator, float64(u)*math.Sqrt(3), distribution, float64(u))
	if p := m.Path(); p != nil {
		line += fmt.Sprintf("; loss of the path, standard %.2f dB", float64(p.LossUncertainty(units.Hertz(m.FrequencyHz))))
	}
	return line + "."
}
