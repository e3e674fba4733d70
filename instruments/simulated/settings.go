package simulated

import (
	"strconv"

	"talloak/instruments/scpi"
)

// setting is a number that is set and asked for, with what its least, most and default are.
func setting(header string, span scpi.Span, get func() float64, set func(float64)) scpi.Command {
	return movingSetting(header, func() scpi.Span { return span }, get, set)
}

// movingSetting is a setting whose span follows others.
func movingSetting(header string, span func() scpi.Span, get func() float64, set func(float64)) scpi.Command {
	return scpi.Command{Header: header,
		Do: func(c *scpi.Call) {
			if v, ok := c.Number(span()); ok {
				set(v)
			}
		},
		Ask: func(c *scpi.Call) string {
			v := get()
			if c.Optional() {
				word, ok := c.Word("MINimum", "MAXimum", "DEFault")
				if !ok {
					return ""
				}
				s := span()
				v = map[string]float64{"MIN": s.Least, "MAX": s.Most, "DEF": s.Default}[word]
			}
			c.Whole()
			if span().Whole {
				return strconv.Itoa(int(v))
			}
			return scpi.NR3(v)
		}}
}

// words is a setting that is one of some words, by their short forms.
func words(header string, of []string, get func() string, set func(string)) scpi.Command {
	return scpi.Command{Header: header,
		Do: func(c *scpi.Call) {
			if w, ok := c.Word(of...); ok && c.Whole() {
				set(w)
			}
		},
		Ask: func(c *scpi.Call) string {
			c.Whole()
			return get()
		}}
}

// onOff is a switch; set may refuse it.
func onOff(header string, get func() bool, set func(*scpi.Call, bool)) scpi.Command {
	return scpi.Command{Header: header,
		Do: func(c *scpi.Call) {
			if on, ok := c.Switch(); ok {
				set(c, on)
			}
		},
		Ask: func(c *scpi.Call) string {
			c.Whole()
			if get() {
				return "1"
			}
			return "0"
		}}
}

// ask is a query alone.
func ask(header string, answer func(*scpi.Call) string) scpi.Command {
	return scpi.Command{Header: header, Ask: func(c *scpi.Call) string {
		if !c.Whole() {
			return ""
		}
		return answer(c)
	}}
}

// do is a command that cannot be asked for.
func do(header string, act func(*scpi.Call)) scpi.Command {
	return scpi.Command{Header: header, Do: func(c *scpi.Call) {
		if c.Whole() {
			act(c)
		}
	}}
}
