package claims

import (
	"math"

	"talloak/core/say"
	"talloak/core/units"
)

// BeyondBelief is how many times its claim no radio puts out: an offset is meant (common
// practice, no source).
const BeyondBelief = 10

// UnbelievableCode voids until it is explained.
const UnbelievableCode say.Code = "beyond-belief"

// explainsDB is how near an excess must lie to a loss or an offset to be explained by it, in dB
// (common practice, no source): radios put out more or less than they claim.
const explainsDB = 6

// Unbelievable is a power many times the claim, with what would explain it: the loss of the path
// when it is dialled in already, or the offset that is.
func Unbelievable(measured, claimed units.Watts, loss, applied units.DB) say.Said {
	excess := units.RatioDB(float64(measured / claimed))
	near := func(cause units.DB) bool { return cause > 0 && math.Abs(float64(excess-cause)) <= explainsDB }
	said := "%s is %.0f times the %s claimed, which no radio is"
	switch times := float64(measured / claimed); {
	case near(loss) && applied == 0:
		return say.That(UnbelievableCode, said+": the excess is the path's %.1f dB: is it dialled in already?", measured, times, claimed, float64(loss)).Do("tell the offset that the screen adds, or strike it")
	case near(-applied):
		return say.That(UnbelievableCode, said+": the excess is the offset of %.1f dB: has it the wrong sign?", measured, times, claimed, float64(applied)).Do("tell the offset that the screen adds, or strike it")
	case near(loss):
		return say.That(UnbelievableCode, said+": the excess is the path's %.1f dB: is the offset counted twice?", measured, times, claimed, float64(loss)).Do("tell the offset that the screen adds, or strike it")
	default:
		return say.That(UnbelievableCode, said, measured, times, claimed).Do("look for a slip in the figure, a wrong scale or an offset; explain it, or strike it")
	}
}
