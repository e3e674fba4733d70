package say

import (
	"fmt"

	"talloak/core/units"
)

// The codes of a path that decide more than what is read.
const (
	OutOfRangeCode      Code = "out-of-range"
	UnknownCouplingCode Code = "unknown-coupling"
	NoRatingCode        Code = "no-rating"
)

// Unterminated is a path that ends in the open.
func Unterminated() Said {
	return That("unterminated", "the path ends in the open; finish it with a load, an analyzer or a terminating meter")
}

// UnknownCoupling is a sampler that nobody has measured; least is what it takes at least, in
// dB, nil where nobody told.
func UnknownCoupling(part string, least *float64) Said {
	safe := ""
	if least != nil {
		safe = fmt.Sprintf("; what is safe behind it is reckoned with the %g dB it takes at least", *least)
	}
	return That(UnknownCouplingCode, "the coupling of %s is not known, so no level behind it is%s: measure it, with and without, and it counts from then on", part, safe)
}

// OutOfRange is a part whose loss is not known at f.
func OutOfRange(part string, f units.Hertz) Said {
	return That(OutOfRangeCode, "%s has no answer at %s", part, f)
}

// NoRating is a part that does not say what it takes.
func NoRating(part string) Said { return That(NoRatingCode, "%s has no power rating", part) }

// NoInputRating is an instrument that does not say what its input survives.
func NoInputRating(part string) Said {
	return That(NoRatingCode, "%s does not say what its input survives", part)
}

// ShortTime is a part over its continuous rating, within its short-time one of forS seconds.
func ShortTime(part string, short units.Watts, forS float64, rating, arrives units.Watts) Said {
	return That("short-time", "%s takes %s for %g s at most, and %s for as long as you like; %s arrives: key briefly and let it cool", part, short, forS, rating, arrives)
}

// OverRating is a part that gets more than it takes.
func OverRating(part string, rating, arrives units.Watts) Said {
	return That("over-rating", "%s takes %s but %s arrives", part, rating, arrives)
}

// InUse is a path that ends in an antenna.
func InUse() Said {
	return That("in-use", "it ends in an antenna: what is read is kept as in use, and never held against the claim")
}

// AtRisk is something that was keyed into a path in danger: briefly, for keyS seconds with restS of rest
// between, or, where these are 0, before anybody saw the danger.
func AtRisk(name, danger string, keyS, restS float64) Said {
	how := "it was taken before the danger was seen, and is kept"
	if keyS > 0 {
		how = fmt.Sprintf("keyed briefly at the reviewer's own risk, at most %g s with %g s of rest", keyS, restS)
	}
	return That("at-risk", "through “%s”: %s; %s", name, danger, how)
}

// BySlip is what another mode than the one that is meant would do.
func BySlip(level, danger string) Said {
	return That("by-a-slip", "set to %s by a slip it would be in danger: %s; look at the mode before you key", level, danger)
}

// NearRating is a part that gets almost what it takes.
func NearRating(part string, rating, arrives units.Watts, within units.DB) Said {
	return That("near-rating", "%s takes %s and %s arrives: within %g dB", part, rating, arrives, float64(within))
}

// UnknownLevel is a part in front of which a loss is not known.
func UnknownLevel(part string, f units.Hertz, most units.Watts) Said {
	return That("unknown-level", "what reaches %s at %s is not known, and it could be up to %s", part, f, most)
}

// UnknownInput is an instrument's input in front of which a loss is not known.
func UnknownInput(part string, f units.Hertz, most units.Watts) Said {
	return That("unknown-level", "what reaches %s at %s is not known, and it could be up to %s: the loss in front of it has to be known", part, f, most)
}

// OverInput is an instrument that gets more at its input than that survives.
func OverInput(part string, survives, arrives units.DBm) Said {
	return That("over-input", "%s survives %.1f dBm but %.1f dBm arrives at the peak", part, float64(survives), float64(arrives))
}

// NearInput is an instrument that gets almost what its input survives.
func NearInput(part string, survives, arrives units.DBm, within units.DB) Said {
	return That("near-input", "%s survives %.1f dBm and %.1f dBm arrives at the peak: within %g dB", part, float64(survives), float64(arrives), float64(within))
}

// StackChanged is a measured stack that is no longer together.
func StackChanged() Said {
	return That("stack-changed", "parts that were measured in one piece no longer lie as they were measured: their printed losses count; measure them again")
}

// AssumedPower is a radio for which no power is claimed.
func AssumedPower(assumed units.Watts) Said {
	return That("assumed-power", "no power is claimed, so %g W are assumed: type the most it may put out before keying it", float64(assumed))
}

// TypicalInput is an instrument whose greatest input is that of its kind.
func TypicalInput(part string) Said {
	return That("typical-input", "what the input of %s survives is a typical value, not its own: look it up before keying", part)
}

// TypicalLoss is a pad or tap whose loss is that of its kind.
func TypicalLoss(part string) Said {
	return That("typical-loss", "what %s takes away is a typical value, not its own: read it off the part, or measure it, before keying", part)
}

// Generator is a generator at the end of a path from a radio that transmits.
func Generator(part string) Said {
	return That("generator", "%s sends into the radio and is destroyed by keying: take the microphone off, or lock transmitting", part)
}

// Retired is a part that is no longer in use.
func Retired(part string) Said { return That("retired", "%s is retired", part) }

// Twice is one part in two places of a path.
func Twice(part string) Said { return That("twice", "%s is on the path twice", part) }

// ReservedChannel is a frequency kept for emergencies and distress.
func ReservedChannel(name string) Said {
	return That("reserved-channel", "%s: nobody tests there, not even into a load that may leak", name).Do("dial another frequency")
}
