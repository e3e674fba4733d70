package say

import "talloak/core/units"

const (
	levelMeant     = "is the radio on the level meant?"
	whichIsWrong   = "strike the wrong one, or say what explains it"
	intoClosedLoad = "only into a closed load, where local law allows even that"
)

// MeterOutOfRangeCode decides more than what is read.
const MeterOutOfRangeCode Code = "meter-out-of-range"

// MeterOutOfRange is a meter read where it is not made for.
func MeterOutOfRange(f units.Hertz) Said {
	return That(MeterOutOfRangeCode, "the meter is not made for %s; a reading there does not count", f)
}

// PathOutOfRange is a reading behind a path whose loss is not known at f.
func PathOutOfRange(f units.Hertz) Said {
	return That("path-out-of-range", "the path has no loss at %s, so the power at the connector cannot be told", f)
}

// BaselineElsewhere is what was found about a meter, but not at f.
func BaselineElsewhere(baseline string, f units.Hertz) Said {
	return That("baseline-elsewhere", "the %s was found elsewhere and is not applied at %s", baseline, f)
}

// Pegged is a reading at the end of its scale.
func Pegged(scale units.Watts) Said {
	return That("pegged", "the reading is at the end of the %s scale: the power may be higher", scale).Do("change the scale")
}

// LowOnScaleCode gives way to a better reading on the same meter.
const LowOnScaleCode Code = "low-on-scale"

// LowOnScale is a reading at the foot of its scale.
func LowOnScale(scale units.Watts) Said {
	return That(LowOnScaleCode, "the reading is under a tenth of the %s scale", scale).Do("a smaller scale tells more")
}

// Unsteady are repeats that differ by a share of their mean, in percent.
func Unsteady(percent float64) Said {
	return That("unsteady", "the readings differ by %.0f %% of their mean", percent).Do("repeat it")
}

// NoOutput is a reading of nothing.
func NoOutput() Said { return That("zero", "no output shown").Do("was the transmitter keyed?") }

// LevelsAlike is a level that reads like another.
func LevelsAlike(now, other string, w, otherW units.Watts) Said {
	return That("levels-alike", "%s reads like %s, %s and %s", now, other, w, otherW).Do(levelMeant)
}

// LevelsOutOfOrder is a level that reads above a higher one, or below a lower one.
func LevelsOutOfOrder(now, other string, w, otherW units.Watts) Said {
	return That("levels-out-of-order", "%s reads %s but %s reads %s", now, w, other, otherW).Do(levelMeant)
}

// LevelShown is a radio that shows another level than the one meant.
func LevelShown(shown, meant string) Said {
	return That("level-shown", "the radio shows level %s, but %s is meant", shown, meant).Do(levelMeant)
}

// OutsideBand is a carrier outside the band it was claimed for.
func OutsideBand(f units.Hertz, band string, from, to units.Hertz) Said {
	return That("outside-band", "%s lies outside %s, %s to %s: it is kept at its own frequency and not held against the claim", f, band, from, to).Do(intoClosedLoad)
}

// SWRIntoLoadCode says already that a connector may be loose.
const SWRIntoLoadCode Code = "swr"

// SWRIntoLoad is a standing wave where a dummy load should show none.
func SWRIntoLoad(swr float64) Said {
	return That(SWRIntoLoadCode, "SWR %.2g into a dummy load", swr).Do("tighten the connectors and repeat")
}

// SupplyLowCode decides more than what is read.
const SupplyLowCode Code = "supply-low"

// SupplyLow is a supply below the radio's own least under load, both in V.
func SupplyLow(volts, least float64) Said {
	return That(SupplyLowCode, "%.1f V under load is below the radio's own minimum of %.1f V: the reading cannot be held against the claim", volts, least).Do("charge the battery, or set the supply right")
}

// SupplyLimits is a supply that gives all it has, both in A.
func SupplyLimits(amps, limit float64) Said {
	return That("supply-limit", "%.3g A is all the supply gives, %.3g A: it limits, and the power reads low", amps, limit).Do("take a stronger supply")
}

// PeaksOverCarrier are positive peaks over 100 % of modulation, which speech has without its
// carrier ever being cut off; in percent, with the interval.
func PeaksOverCarrier(peak, carrier units.Watts, percent, low, high float64) Said {
	return That("peaks-over-carrier", "peaks of %s over a carrier of %s are %.0f %% of positive modulation (%.0f to %.0f %%): no over-modulation by itself, that shows in the troughs", peak, carrier, percent, low, high).Do("look at the envelope or the spectrum beside the carrier before you say so")
}

// OverClaim is a power well over its claim.
func OverClaim(measured, claimed units.Watts, tolerance units.DB) Said {
	return That("over-claim", "%s is over the claim of %s by more than %.1f dB", measured, claimed, float64(tolerance)).Do("is it the level meant, and still legal?")
}

// OverLegal is a power over the law's.
func OverLegal(measured, most units.Watts) Said {
	return That("over-legal", "%s is over the legal maximum of %s", measured, most)
}

// Contradicts are two readings of one thing that cannot both be right.
func Contradicts(now, other units.Watts, typed string) Said {
	return That("contradicts", "%s here and %s by %q on the same frequency differ by more than both uncertainties", now, other, typed).Do(whichIsWrong)
}

// SWRJumped is a standing wave that is another than at the key-up before.
func SWRJumped(now, before float64) Said {
	return That("swr-jumped", "SWR %.2g, and %.2g at the key-up before through the same path", now, before).Do("tighten the connectors and repeat")
}

// Drifts are repeats that only fall.
func Drifts(first, last units.Watts) Said {
	return That("drifts", "the readings only fall, from %s to %s: their mean is no power it holds", first, last).Do("let it cool, look at the volts, and repeat")
}

// SettingsAlike are levels of which several give the same power.
func SettingsAlike(levels, powers int) Said {
	return That("settings-alike", "%d settings, %d %s: perhaps the radio ignores some of them here", levels, powers, plural(powers, "power")).Do("strike a slip; what stays is kept as a finding")
}

func plural(n int, word string) string {
	if n == 1 {
		return word
	}
	return word + "s"
}

// ReadingsDisagree are readings of one power further apart than their uncertainties allow.
func ReadingsDisagree(low, high units.Watts) Said {
	return That("readings-disagree", "these readings do not agree within their uncertainties: between them they leave %s to %s", low, high).Do("strike the one that was wrong, or read again")
}
