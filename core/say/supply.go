package say

import "talloak/core/units"

// OverVoltage is a supply set above what the radio takes, both in V.
func OverVoltage(set, most float64) Said {
	return That("over-voltage", "%.4g V is over the radio's own maximum of %.4g V: set the supply lower, never push it", set, most)
}

// LeadsUnknown are leads of no known resistance, on a supply of set V.
func LeadsUnknown(set float64) Said {
	return That("leads-unknown", "the resistance of the leads is not known: the volts at the radio are lower than the %.4g V of the supply", set)
}

// Leads are leads of ohm that cannot carry what a level wants from set V.
func Leads(level string, ohm float64, wants units.Watts, set float64) Said {
	return That("leads", "%s: leads of %.3g ohm cannot carry %.3g W from %.4g V", level, ohm, float64(wants), set)
}

// CurrentLimit is a level that wants more than the supply gives, both in A.
func CurrentLimit(level string, wants, limit float64) Said {
	return That("current-limit", "%s wants about %.2g A and the supply limits at %.2g A: its volts fall, how far is not known, and the power will read low", level, wants, limit)
}

// UnderVoltage is a level at which the radio gets less than its own least, both in V.
func UnderVoltage(level string, volts, least float64) Said {
	return That("under-voltage", "%s: about %.1f V at the radio is below its own minimum of %.4g V: the reading could not be held against the claim", level, volts, least)
}

// SupplyRange is a supply set to what it does not give, in V.
func SupplyRange(supply string, from, to, set float64) Said {
	return That("supply-range", "%s gives %g to %g V, not %g V", supply, from, to, set)
}

// SupplySagged is a supply that falls under load, both in V.
func SupplySagged(volts, set float64) Said {
	return That("supply-sagged", "%.4g V under load, where the path says %.4g V are set: it was set lower, or the supply or its leads sag", volts, set).Do("tell the path what is set, or the sheet that this voltage is meant; else thicker leads or a stronger supply")
}

// BelowNominal is a supply well under the voltage a claim is made for, both in V.
func BelowNominal(volts, nominal float64) Said {
	return That("below-nominal", "%.4g V is more than a tenth under the nominal %.4g V: kept as power against supply, not held against the claim", volts, nominal)
}
