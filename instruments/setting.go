package instruments

import (
	"fmt"
	"strconv"
	"strings"
)

// told asks for a setting and gives it in our words: a number as it is, a word as ours. Empty where
// the driver does not say how it is asked for.
func (l *Line) told(name string) (string, error) {
	s, ok := l.Driver.Settings[name]
	if !ok || s.Ask == "" {
		return "", nil
	}
	answer, err := l.Ask(s.Ask)
	if err != nil {
		return "", err
	}
	answer = strings.TrimSpace(answer)
	if settings[name] == nil {
		v, err := number(s.Ask, answer)
		return strconv.FormatFloat(v, 'g', -1, 64), err
	}
	for ours, its := range s.Words {
		if strings.EqualFold(its, answer) || sameNumber(its, answer) {
			return ours, nil
		}
	}
	return "", trouble("it answers %q to %q, which the driver has no word for", shortened(answer, said), s.Ask)
}

// toldNumber is told of a number; ok is false where the driver does not ask for it.
func (l *Line) toldNumber(name string) (v float64, ok bool, err error) {
	text, err := l.told(name)
	if err != nil || text == "" {
		return 0, false, err
	}
	v, err = strconv.ParseFloat(text, 64)
	return v, err == nil, err
}

func sameNumber(a, b string) bool {
	x, err1 := strconv.ParseFloat(a, 64)
	y, err2 := strconv.ParseFloat(b, 64)
	return err1 == nil && err2 == nil && x == y
}

// Tell sets something, in our words.
func (l *Line) Tell(name, value string) error {
	s, ok := l.Driver.Settings[name]
	if !ok || s.Tell == "" {
		return trouble("the driver %s does not say how %s is set", l.Driver.Name, strings.ReplaceAll(name, "_", " "))
	}
	if len(s.Words) > 0 {
		its, known := s.Words[value]
		if !known {
			return trouble("the driver %s has no word for %q of %s", l.Driver.Name, value, strings.ReplaceAll(name, "_", " "))
		}
		value = its
	}
	return l.Say(strings.Replace(s.Tell, "{}", value, 1))
}

func written(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// Hurts says in words where setting something could hurt: less before an input, more out of a socket,
// anything switched on, and what cannot be compared since the instrument does not tell how it is set. What
// only makes things quieter never does.
func Hurts(name, told, wanted string) []string {
	what := strings.ReplaceAll(name, "_", " ")
	from, err1 := strconv.ParseFloat(told, 64)
	to, err2 := strconv.ParseFloat(wanted, 64)
	if err1 != nil && err2 == nil && told == "" { // it cannot be asked what it is: it may be anything
		switch name {
		case "attenuation_db", "reference_dbm", "level_dbm", "volts", "amps":
			return []string{fmt.Sprintf("%s to %s, from what it does not tell", strings.TrimSuffix(strings.TrimSuffix(what, " dbm"), " db"), withUnit(name, wanted))}
		}
	}
	numbers := err1 == nil && err2 == nil
	switch name {
	case "attenuation_db":
		if numbers && to < from {
			return []string{fmt.Sprintf("input attenuation down from %g to %g dB", from, to)}
		}
	case "reference_dbm", "level_dbm", "volts", "amps":
		if numbers && to > from {
			return []string{fmt.Sprintf("%s up from %s to %s", strings.TrimSuffix(what, " dbm"), withUnit(name, told), withUnit(name, wanted))}
		}
	case "pre_amplifier", "output":
		if wanted == "on" && told != "on" {
			return []string{what + " on"}
		}
	}
	return nil
}

// ToldOf is a setting as the instrument tells it, in our words; empty where its driver does not ask.
func (l *Line) ToldOf(name string) (string, error) { return l.told(name) }

// Set sets something and tells what the instrument says it is then.
func (l *Line) Set(name, value string) (Dialled, error) {
	if err := l.Tell(name, value); err != nil {
		return Dialled{}, err
	}
	if err := l.checkErrors(); err != nil {
		return Dialled{}, err
	}
	told, err := l.told(name)
	return Dialled{strings.ReplaceAll(name, "_", " "), withUnit(name, value), withUnit(name, told)}, err
}
