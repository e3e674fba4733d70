package say

import "fmt"

// Code names a sentence for programs: short, with hyphens, never changed once given.
type Code string

// Severity of what is said before keying: a danger blocks, a caution is shown.
type Severity string

// The two severities.
const (
	Danger  Severity = "danger"
	Caution Severity = "caution"
)

// Said is one thing said to a person.
type Said struct {
	Code   Code   `json:"code"`
	Detail string `json:"detail"`           // what is so
	Advice string `json:"advice,omitempty"` // what can be done about it
}

// That says what is so, and nothing of what to do.
func That(code Code, format string, args ...any) Said {
	return Said{Code: code, Detail: fmt.Sprintf(format, args...)}
}

// Do adds what can be done about it.
func (s Said) Do(advice string) Said {
	s.Advice = advice
	return s
}
