package scratch

import (
	"errors"
	"fmt"
	"strings"

	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// Field is something that is typed. As says what stands on a screen that it may be filled in with.
type Field struct {
	Name    string   `json:"name"`
	Label   string   `json:"label"`
	Unit    string   `json:"unit"`
	Usual   string   `json:"usual"` // what it begins with
	Choices []string `json:"choices"`
	As      string   `json:"as"` // mhz, w, swr: of the screen one comes from
}

// Calc is one calculation.
type Calc struct {
	Name   string  `json:"name"`
	Title  string  `json:"title"`
	Fields []Field `json:"fields"`
	Source string  `json:"source"`

	work func(*inputs) Answer
}

// Figure is one result with its unit.
type Figure struct {
	Label string `json:"label"`
	Text  string `json:"text"`
}

// Answer is what comes out: the formula with the figures in it, and the results.
type Answer struct {
	Formula string   `json:"formula"`
	Figures []Figure `json:"figures"`
}

// Books finds a rule book by its id.
type Books func(id string) (*rulebook.Book, bool)

// All are the calculations, in their order.
func All() []Calc { return calcs }

// Find is a calculation by its name.
func Find(name string) (*Calc, bool) {
	for i := range calcs {
		if calcs[i].Name == name {
			return &calcs[i], true
		}
	}
	return nil, false
}

// Work does a calculation with what was typed, by the fields' names; what is left out is as it usually is.
// Errors are *problem.Error on those names.
func (c *Calc) Work(typed map[string]string, books Books) (Answer, error) {
	in := &inputs{calc: c, typed: typed, books: books}
	out := c.work(in)
	if out.Figures == nil {
		out.Figures = []Figure{}
	}
	return out, in.bad.Err()
}

// inputs reads what was typed, and collects what is wrong with it.
type inputs struct {
	calc  *Calc
	typed map[string]string
	books Books
	bad   problem.List
}

func (in *inputs) text(name string) string {
	if v, ok := in.typed[name]; ok {
		return strings.TrimSpace(v)
	}
	for _, f := range in.calc.Fields {
		if f.Name == name {
			return f.Usual
		}
	}
	return ""
}

// number is a figure in a field; what is none, or lies outside, is refused there.
func (in *inputs) number(name string, least, most float64) float64 {
	v, err := units.ParseNumber(strings.ReplaceAll(in.text(name), "−", "-"))
	if err != nil || !(v >= least && v <= most) {
		in.bad.Add(name, "give a number, %g to %g", least, most)
		return least
	}
	return v
}

// given tells whether something stands in a field.
func (in *inputs) given(name string) bool { return in.text(name) != "" }

// take puts an error of a calculation at a field, and tells that there was one.
func (in *inputs) take(name string, err error) bool {
	if err == nil {
		return false
	}
	detail := err.Error()
	var p *problem.Error
	if errors.As(err, &p) && len(p.Fields) > 0 {
		detail = p.Fields[0].Detail
	}
	in.bad.Add(name, "%s", detail)
	return true
}

func (in *inputs) fine() bool { return in.bad.Empty() }

func answer(formula string, figures ...Figure) Answer { return Answer{formula, figures} }

func fig(label, format string, args ...any) Figure {
	return Figure{label, fmt.Sprintf(format, args...)}
}

func watts(w float64) string { return units.Watts(w).String() }

func db(v float64) string  { return fmt.Sprintf("%.2f dB", v) }
func dbm(v float64) string { return fmt.Sprintf("%.2f dBm", v) }
