package instruments

import (
	"talloak/core/sweep"
	"talloak/core/units"
)

// Instrument is something on the bench that can be asked: a meter gives figures, an
// analyzer traces; what it has not is an error of Unsupported. A simulated one and one
// behind a wire are asked in the same way.
type Instrument interface {
	// Identify is maker, model and serial in one line, as it tells them itself.
	Identify() (string, error)
	// Set dials it in. What it does not have is left as it is and told by an error.
	Set(Settings) error
	// Figure is one reading as it shows it.
	Figure() (units.Quantity, error)
	// Trace is what stands on its screen once it has settled.
	Trace() (sweep.Trace, error)
}

// Settings are what is dialled in; the zero value of a field leaves it as it is.
type Settings struct {
	Start, Stop units.Hertz
	Points      int
	RBW         units.Hertz
	OffsetDB    *units.DB // added to what is shown, with its sign
}

// Unsupported is what an instrument cannot be asked for.
type Unsupported struct{ What string }

// Error says so.
func (u Unsupported) Error() string { return "this instrument gives no " + u.What }
