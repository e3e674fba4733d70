package publish

import (
	"testing"

	"talloak/core/kit"
	"talloak/core/measure/power"
	"talloak/core/path"
	"talloak/core/reading"
	"talloak/core/record"
	"talloak/core/uncertainty"
)

// TestKitLine: a reader learns how each item was set and what its figures rest on.
func TestKitLine(t *testing.T) {
	base := &reading.Baseline{OffsetDB: 0.2, On: "2026-02-11", Against: "terminating meter"}
	for want, k := range map[string]record.KitCopy{
		"dummy load": {Name: "dummy load"},
		"needle meter, 20 W, last checked 2025-06-30": {Name: "needle meter", Setting: "20 W", Spec: kit.Spec{CheckedOn: "2025-06-30"}},
		"inline meter, +0.20 dB taken out against terminating meter, 2026-02-11, typical of its kind and not its own: accuracy, repeatability": {Name: "inline meter", Spec: kit.Spec{Meter: &reading.Meter{Baseline: base}}},
		"pad, its loss measured 2026-03-01":                                                {Name: "pad", Measured: &path.Measured{Spans: 1, On: "2026-03-01"}},
		"pad, the loss of it and the part before it measured 2026-03-01":                   {Name: "pad", Measured: &path.Measured{Spans: 2, On: "2026-03-01"}},
		"pad, the loss of it and the 2 parts before it measured 2026-03-01":                {Name: "pad", Measured: &path.Measured{Spans: 3, On: "2026-03-01"}},
		"adapter, typical of its kind and not its own: loss (brass, the threads are worn)": {Name: "adapter", Spec: kit.Spec{Typical: []string{"element.loss"}, Note: "brass, the threads are worn"}},
	} {
		if got := kitLine(k); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// TestAPeakHasItsOwnBudget beside that of the mean, or a claim in PEP could not be
// redone.
func TestAPeakHasItsOwnBudget(t *testing.T) {
	read := func(relative float64) *reading.Result {
		return &reading.Result{Budget: uncertainty.Budget{{Source: "meter", Relative: relative}}}
	}
	both := way(Document{}, power.Reading{Through: &record.Through{}, Result: read(0.05), Peak: read(0.02)}).Budgets
	if len(both) != 2 || both[0].Of != "" || both[0].Combined != 10 || both[1].Of != " of the peak" || both[1].Combined != 4 {
		t.Errorf("%+v", both)
	}
	if alone := way(Document{}, power.Reading{Through: &record.Through{}, Peak: read(0.02)}).Budgets; len(alone) != 1 || alone[0].Of != " of the peak" {
		t.Errorf("%+v", alone)
	}
}
