package compute

import (
	"encoding/json"
	"errors"

	"slices"
	"strings"

	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/strictjson"
)

// Books finds a rule book by its id.
type Books func(id string) (*rulebook.Book, bool)

// Engine runs calculations by name. It is safe for concurrent use.
type Engine struct {
	books Books
	ids   []string
	verbs []Verb
}

// Verb is a calculation: its name, what it does, and zero values of its input
// and output, for descriptions of the interface.
type Verb struct {
	Name, Summary string
	In, Out       any
	run           func(data []byte) (any, error)
}

// New is an engine with the given rule books; ids are named in refusals.
func New(books Books, ids []string) *Engine {
	e := &Engine{books: books, ids: ids}
	e.verbs = []Verb{
		verb("antenna", "What a one-port file says of an antenna and its band", measureAntenna),
		verb("battery", "What a run-down of a battery gave, against its label", runDown),
		verb("cable-loss", "Loss of a coaxial cable, matched and with a mismatched far end", cableLoss),
		verb("claim", "What a text claims of a radio", readClaim),
		verb("compare-claim", "Measured power against claimed", compareClaim),
		verb("convert", "One power or voltage in every unit", convert),
		verb("dc-side", "Supply, leads and current: volts at the radio at each level", dcSide),
		verb("deviation", "Frequency deviation off a meter, by a null of the carrier, or from lines", measureDeviation),
		verb("diagnose", "What explains that two wirings read the same key-ups differently", diagnosePairs),
		verb("digitize", "Frequencies and levels read off a picture of a screen, with how well", digitize),
		verb("entry", "What a typed key-up line says", entry),
		verb("frequency-error", "How far a transmitter is off its frequency, against its claim", frequencyError),
		verb("judge", "Emissions against a rule book, with uncertainty and coverage", e.judge),
		verb("limit", "The emission limit at frequencies, with its reason", e.limit),
		verb("look", "What a typed look at a screen says", readLook),
		verb("meter-baseline", "How meters stand against each other on the same transmitters", meterBaseline),
		verb("occupied-bandwidth", "The bandwidth that an emission occupies in a sweep", occupiedBandwidth),
		verb("pad-advice", "Which pads, in which order, suit a power, an analyzer and a rule book", e.padAdvice),
		verb("path", "Levels along a path, stress and visibility", analyzePath),
		verb("plan", "The run sheet: the steps in their order, what they take, and which cannot count", plan),
		verb("reading", "A meter reading to power at the antenna connector", referReading),
		verb("sensitivity", "What a receiver needs at its connector, against its claim", receiverSensitivity),
		verb("sinad", "SINAD in dB, percent and volts", sinad),
		verb("stack-loss", "Loss of a stack from readings with and without it, or its two-port file", stackLoss),
		verb("swr", "SWR, return loss and mismatch loss", reflection),
		verb("touchstone", "S-parameters of a Touchstone text", readTouchstone),
	}
	return e
}

func verb[In, Out any](name, summary string, run func(*In) (Out, error)) Verb {
	var in In
	var out Out
	return Verb{name, summary, in, out, func(data []byte) (any, error) {
		var in In
		refused := strictjson.Decode(data, &in)
		if refused == nil {
			return run(&in)
		}
		var bad *problem.Error
		if errors.As(refused, &bad) && bad.Fields[0].Field != "" {
			// The rest of the input is checked too, so that all is said at once.
			_, err := run(&in)
			refused = bad.With(err)
		}
		return nil, refused
	}}
}

// Verbs lists the calculations by name.
func (e *Engine) Verbs() []Verb { return slices.Clone(e.verbs) }

// Names lists the names of the calculations, sorted.
func (e *Engine) Names() []string {
	names := make([]string, len(e.verbs))
	for i, v := range e.verbs {
		names[i] = v.Name
	}
	return names
}

// Run does one calculation. The error is a *problem.Error that names every
// field that was wrong; for an unknown name its field is "name".
func (e *Engine) Run(name string, data []byte) ([]byte, error) {
	for _, v := range e.verbs {
		if v.Name != name {
			continue
		}
		out, err := v.run(data)
		if err != nil {
			return nil, err
		}
		text, err := json.Marshal(out)
		if err != nil { // only a number beyond a float can bring this about
			return nil, problem.New("", "a result is too large for a number; give smaller values")
		}
		return text, nil
	}
	return nil, problem.New("name", "there is no calculation %q; known are %s", name, strings.Join(e.Names(), ", "))
}

// number checks that a required number is there, and is its value.
func number(bad *problem.List, field string, v *float64, unit string) float64 {
	if v == nil {
		bad.Add(field, "is missing; give a number %s", unit)
		return 0
	}
	return *v
}

func or[T any](v *T, otherwise T) T {
	if v == nil {
		return otherwise
	}
	return *v
}

func ptr[T any](v T) *T { return &v }
