package span

import (
	"fmt"
	"testing"
)

func TestSets(t *testing.T) {
	s := Set{Of(5, 7), Of(1, 3), Of(2, 4)}.Merge()
	if fmt.Sprint(s) != "[{1 Hz 4 Hz} {5 Hz 7 Hz}]" {
		t.Errorf("merge %v", s)
	}
	for _, c := range []struct {
		take Set
		want string
	}{
		{nil, "[{1 Hz 4 Hz} {5 Hz 7 Hz}]"},
		{Set{Of(2, 3)}, "[{1 Hz 2 Hz} {3 Hz 4 Hz} {5 Hz 7 Hz}]"},
		{Set{Of(0, 6)}, "[{6 Hz 7 Hz}]"},
		{Set{Of(0, 10)}, "[]"},
	} {
		if got := fmt.Sprint(s.Minus(c.take)); got != c.want {
			t.Errorf("minus %v: %s, want %s", c.take, got, c.want)
		}
	}
	if !s.Covers(Of(5, 6)) || s.Covers(Of(3, 6)) || s.Contains(4.5) {
		t.Error("covers or contains")
	}
}

func TestMeet(t *testing.T) {
	a, b := Set{Of(1, 4), Of(6, 9)}, Set{Of(3, 7)}
	if got := fmt.Sprint(a.Meet(b)); got != "[{3 Hz 4 Hz} {6 Hz 7 Hz}]" {
		t.Error(got)
	}
	if got := (Set{Everywhere}).Meet(a); len(got) != 2 || len(a.Meet(Set{Of(4.5, 5)})) != 0 {
		t.Error(got)
	}
}
