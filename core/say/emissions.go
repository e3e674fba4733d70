package say

import "talloak/core/units"

// ModulationNotToldCode keeps a pass from standing.
const ModulationNotToldCode Code = "modulation-not-told"

// SuspectSweep is evidence that its owner holds suspect.
func SuspectSweep(sweep string) Said {
	return That("suspect-sweep", "%s is suspect and was not counted", sweep)
}

// InterceptDoubtful is a harmonic so far under what the analyzer should make itself that
// its intercept point must be better than noted.
func InterceptDoubtful(sweep string, order int, shown units.DBm, under units.DB, expected units.DBm) Said {
	return That("intercept-doubtful", "%s shows harmonic %d at %.1f dBm, more than %g dB under the %.1f dBm the analyzer should make itself: its intercept point is better than noted", sweep, order, float64(shown), float64(under), float64(expected))
}

// CarrierUncheckedBelow is a carrier whose power no meter read, where levels below it are all
// that counts.
func CarrierUncheckedBelow() Said {
	return That("carrier-unchecked", "no power meter was read: what is shown counts below its own carrier alone, and no power is told of")
}

// CarrierUnchecked is a carrier whose power no meter read.
func CarrierUnchecked() Said {
	return That("carrier-unchecked", "no power meter was read: nothing tells that the levels are right, since an offset forgotten or counted twice bends them all").Do("read the power on a meter")
}

// CarrierAgainstClaim is a carrier seen far from its claim, or from what else it should be.
func CarrierAgainstClaim(shows units.DBm, apart units.DB, claimed units.Watts, as string) Said {
	return That("carrier-against-claim", "the carrier shows %.1f dBm, %+.1f dB from the %s %s", float64(shows), float64(apart), claimed, as).Do("is the offset right?")
}

// CarrierDisagrees is a carrier that evidence shows otherwise than the power by which it
// is known, by more than both uncertainties.
func CarrierDisagrees(sweep, powerBy string, power, shows units.DBm, apart, within units.DB) Said {
	may := "lower"
	if apart < 0 {
		may, apart = "higher", -apart
	}
	return That("carrier-disagrees", "the carrier is %.1f dBm by %s and reads %.1f dBm in %s, %.1f dB apart where %.1f dB would be within both uncertainties: what it shows may be that much %s",
		float64(power), powerBy, float64(shows), sweep, float64(apart), float64(within), may).Do("look for an offset forgotten, of the wrong sign, or counted twice")
}

// RelativeOnly is evidence that knows levels below the carrier alone.
func RelativeOnly(sweep string) Said {
	return That("relative-only", "the level of the carrier in %s is not known, so only levels below it are: an absolute term or floor cannot be held by it alone", sweep)
}

// Normalised is a sweep saved below its own carrier.
func Normalised(sweep string) Said {
	return That("normalised", "%s was saved below its own carrier, which stands at 0: its levels are those of the power meter, and its carrier cannot be held against it", sweep)
}

// SelfMade is a harmonic that may be the analyzer's own.
func SelfMade(order int, expected, shown units.DBm) Said {
	return That("suspect-self-made", "the analyzer itself is expected to show harmonic %d at %.1f dBm, and %.1f dBm is shown: the two cannot be told apart", order, float64(expected), float64(shown)).Do("sweep again with 10 dB more attenuation and compare")
}

// SelfMadeUnverified is evidence of an analyzer whose intercept points nobody knows.
func SelfMadeUnverified(sweep string) Said {
	return That("self-made-unverified", "%s: the analyzer's intercept points are not known, so harmonics it makes itself cannot be told apart", sweep).Do("sweep again with 10 dB more attenuation and compare, or write the intercept points down")
}

// SelfMadeUnknown is an excess that an analyzer of which nothing is known may make itself.
func SelfMadeUnknown(sweep string, order int, shown, poor units.DBm) Said {
	intercept := "second"
	if order > 2 {
		intercept = "third"
	}
	return That("self-made-unknown", "%s shows harmonic %d at %.1f dBm, and its analyzer states no %s-order intercept: a poor input would make up to %.1f dBm there itself, so it is not told whose it is", sweep, order, float64(shown), intercept, float64(poor)).Do("sweep again with 6 dB more attenuation: what stays comes from the radio")
}

// SightingsDisagree is a product that two look at and show further apart than both
// uncertainties.
func SightingsDisagree(what, high, low string, shows, other, within units.DBm) Said {
	return That("sightings-disagree", "%s is %.1f dBm in %s where %s has %.1f dBm or less, further apart than the %.1f dB of both uncertainties: one of them is wrong", what, float64(shows), high, low, float64(other), float64(within)).Do("repeat both, strike the one that was wrong")
}

// ClauseEdge is a power that may lie on either side of where a clause of the book begins.
func ClauseEdge(power units.Watts, citation string) Said {
	return That("clause-edge", "%s within its uncertainty lies on both sides of a power at which the book changes its limit: every product is held to both, %s too", power, citation)
}

// FloorDoubtful is a floor noted lower than its analyzer can show.
func FloorDoubtful(look string, noted, noise units.DBm) Said {
	return That("floor-doubtful", "the floor of %s, %.1f dBm, is lower than its analyzer can show: %.1f dBm counts instead", look, float64(noted), float64(noise)).Do("read the floor again, with its sign")
}

// NearMultiple is a line read beside a multiple of the carrier.
func NearMultiple(look string, order int, at, expected units.Hertz, taken bool) Said {
	if taken {
		return That("near-multiple", "%s has a line at %s that is taken for harmonic %d, at %s, as its frequency was read that roughly", look, at, order, expected).Do("is it that? Narrow the span and read its frequency again")
	}
	return That("near-multiple", "%s has a line at %s, beside harmonic %d at %s, which is not ruled on until it is told which it is", look, at, order, expected).Do("narrow the span and read its frequency again")
}

// NoUncertainty is a judgement for which none was given.
func NoUncertainty() Said {
	return That("no-uncertainty", "no uncertainty was given, so 0 dB was used; a margin of any size decides")
}

// CarrierMissing is a sweep over the carrier that does not show it.
func CarrierMissing(sweep string, carrier units.Hertz) Said {
	return That("carrier-missing", "%s covers %s but shows no carrier there: what it does not show proves nothing", sweep, carrier).Do("was the radio keyed? Sweep it again")
}

// Misaligned is evidence that shows the carrier beside where it is.
func Misaligned(sweep string, shows, carrier units.Hertz) Said {
	return That("misaligned", "%s shows the carrier at %s instead of %s; its harmonics are looked for accordingly", sweep, shows, carrier)
}

// NotASweep is evidence with unknown ground between its points; rbw is 0 where it is
// not told.
func NotASweep(sweep string, rbw units.Hertz, uneven bool) Said {
	why := "its points are further apart than its resolution bandwidth"
	switch {
	case uneven:
		why = "its points are not evenly spaced"
	case rbw == 0:
		why = "its resolution bandwidth is not told"
	}
	return That("not-a-sweep", "%s is a list of figures, since %s: what lies between them was not examined, and it passes nothing by itself", sweep, why).Do("tell resolution bandwidth and detector, or sweep with a peak detector")
}

// ModulationNotTold is a bandwidth under that of an emission that may have been modulated.
func ModulationNotTold(sweep string, rbw, emission units.Hertz) Said {
	return That(ModulationNotToldCode, "%s has a resolution bandwidth of %s under the %s of the emission, and it is not told whether the carrier was modulated: modulated, its products read low", sweep, rbw, emission).Do("tell whether the carrier was bare or modulated")
}

// RBWNarrow is a bandwidth under that of a modulated emission.
func RBWNarrow(sweep string, rbw, emission units.Hertz, low units.DB) Said {
	return That("rbw-narrow", "%s was taken of a modulated carrier with a resolution bandwidth of %s: products of %s and wider read low in it, by up to %.1f dB", sweep, rbw, emission, float64(low)).Do("sweep a bare carrier, or with a wider resolution bandwidth")
}

// Overload is an input that got more than it survives.
func Overload(sweep string, input, survives units.DBm) Said {
	return That("overload", "%.1f dBm at the analyzer's input is over the %.1f dBm it survives in %s", float64(input), float64(survives), sweep)
}

// Comb are evenly spaced lines.
func Comb(sweep string, lines int, spacing, from, to units.Hertz) Said {
	return That("comb", "%d lines every %s from %s to %s in %s: such a comb comes from one source, often a switching supply", lines, spacing, from, to, sweep)
}

// Untold says, for each thing that can be told of a sweep, what not telling it costs.
type Untold struct {
	RBW       string `json:"rbw"`
	Detector  string `json:"detector"`
	Modulated string `json:"modulated"`
}

// WhatIsUntold is said before a sweep is handed in.
func WhatIsUntold() Untold {
	return Untold{
		RBW:       "Resolution bandwidth not told: unless the file says it, the sweep is a list of figures, which can fail but passes nothing.",
		Detector:  "Detector not told: with points further apart than the bandwidth it is a list of figures; nearer, a line may lie between two and reads lower.",
		Modulated: "Bare or modulated not told: in a narrow bandwidth the products of a modulated carrier read low.",
	}
}
