package measure

import (
	"errors"
	"math"
	"reflect"
	"testing"

	"talloak/core/problem"
	"talloak/core/record"
)

// TestRulesHaveBounds: at each end the value is taken and its neighbour refused at its field.
func TestRulesHaveBounds(t *testing.T) {
	good := record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16e3}
	if err := CheckRules(good); err != nil {
		t.Fatal(err)
	}
	for _, x := range []struct {
		change func(*record.Rules)
		field  string
	}{
		{func(r *record.Rules) { r.BandwidthHz = 600e6 }, "emission_bandwidth_hz"}, {func(r *record.Rules) { r.BandwidthHz = -1 }, "emission_bandwidth_hz"},
		{func(r *record.Rules) { r.BandwidthHz = 250001 }, "emission_bandwidth_hz"}, {func(r *record.Rules) { r.BandwidthHz = 49.9 }, "emission_bandwidth_hz"},
		{func(r *record.Rules) { r.BandwidthHz = 250e3 }, ""}, {func(r *record.Rules) { r.BandwidthHz = 50 }, ""}, {func(r *record.Rules) { r.BandwidthHz = math.NaN() }, "emission_bandwidth_hz"},
		{func(r *record.Rules) { r.ToleranceDB = 1e6 }, "tolerance_db"}, {func(r *record.Rules) { r.ToleranceDB = 3.01 }, "tolerance_db"}, {func(r *record.Rules) { r.ToleranceDB = 3 }, ""}, {func(r *record.Rules) { r.ToleranceDB = -0.1 }, "tolerance_db"}, {func(r *record.Rules) { r.ToleranceDB = 0 }, ""},
		{func(r *record.Rules) { r.PassPercent = 49.9 }, "pass_percent"}, {func(r *record.Rules) { r.PassPercent = 50 }, ""}, {func(r *record.Rules) { r.PassPercent = 100.1 }, "pass_percent"}, {func(r *record.Rules) { r.PassPercent = 100 }, ""},
		{func(r *record.Rules) { r.SourceSWR = 0.9 }, "source_swr"}, {func(r *record.Rules) { r.SourceSWR = 1 }, ""}, {func(r *record.Rules) { r.SourceSWR = 101 }, "source_swr"},
		{func(r *record.Rules) { r.DecisionRule = "kind" }, "decision_rule"}, {func(r *record.Rules) { r.DecisionRule = "simple" }, ""}, {func(r *record.Rules) { r.Scheme = "" }, "scheme"},
		{func(r *record.Rules) { r.Books = map[string]string{"2m": ""} }, "books.2m"},
	} {
		r := good
		x.change(&r)
		err := CheckRules(r)
		var p *problem.Error
		if (err == nil) != (x.field == "") || err != nil && (!errors.As(err, &p) || p.Fields[0].Field != x.field) {
			t.Errorf("%+v: %v, want %q", r, err, x.field)
		}
	}
}

// TestWhatCannotBeWorkedOutIsAnError of that record: figures without an end, and a program that
// fails at it.
func TestWhatCannotBeWorkedOutIsAnError(t *testing.T) {
	type inner struct{ At *float64 }
	type view struct {
		W     float64
		Kept  float64 `json:"-"`
		In    []inner
		Again *view
		Any   any
	}
	inf := math.Inf(1)
	for name, x := range map[string]struct {
		v  view
		ok bool
	}{
		"plain": {view{W: 1, In: []inner{{}}}, true}, "infinite": {view{W: inf}, false}, "in a list": {view{In: []inner{{}, {&inf}}}, false}, "not written down": {view{Kept: inf}, true},
		"none": {view{W: math.NaN()}, false}, "behind an interface": {view{Any: inner{&inf}}, false},
	} {
		got, err := Worked(func() (view, error) { return x.v, nil })
		if (err == nil) != x.ok || x.ok && !reflect.DeepEqual(got, x.v) {
			t.Errorf("%s: %v", name, err)
		}
	}
	// A list of pairs, and a figure of a thing that stands within things of its own type.
	type tree struct {
		V    float64
		Kids []tree
	}
	for what, bad := range map[string]func() error{
		"pair": func() error {
			_, err := Worked(func() ([][2]float64, error) { return [][2]float64{{1, math.Inf(1)}}, nil })
			return err
		},
		"tree": func() error {
			_, err := Worked(func() (tree, error) { return tree{1, []tree{{math.NaN(), nil}}}, nil })
			return err
		},
	} {
		if bad() == nil {
			t.Errorf("a %s with no number in it was kept", what)
		}
	}
	if _, err := Worked(func() (int, error) { panic("a record of another time") }); err == nil {
		t.Error("a panic was no error")
	}
}

// TestAClaimHasBounds too: what no radio gives is an error of its line, and claims nothing.
func TestAClaimHasBounds(t *testing.T) {
	for text, want := range map[string]bool{"2m 100kW": true, "2m 200kW": false, "2m 5": true} {
		if got := ReadClaims([]record.Claim{{Text: text}}, nil, 0)[0]; (got.Error == "") != want || (len(got.Powers) > 0) != want {
			t.Errorf("%q: %+v", text, got)
		}
	}
}
