package reading

import (
	"math"
	"testing"

	"talloak/core/path"
	"talloak/core/units"
)

// TestPeakIsReferredLikeTheReading: 10.2 W of carrier and 31 W of spoken peak
// behind 1 dB are 12.84 and 39.03 W at the connector (worked by hand).
func TestPeakIsReferredLikeTheReading(t *testing.T) {
	r, err := Refer(Input{Values: []units.Quantity{{Value: 10.2, Unit: units.W}}, Frequency: 27e6, Path: path.FlatLoss(1)})
	if err != nil {
		t.Fatal(err)
	}
	if peak := r.Peak(31); peak == nil || math.Abs(*peak-39.03) > 0.005 || math.Abs(*r.AtConnectorW-12.84) > 0.005 {
		t.Errorf("%v and %v W", *r.AtConnectorW, *peak)
	}
	none, err := Refer(Input{Values: []units.Quantity{{Value: 0, Unit: units.W}}, Frequency: 27e6, Path: &path.Path{}})
	if err != nil || none.Peak(31) != nil {
		t.Errorf("a peak over no carrier: %v %v", none.Peak(31), err)
	}
}
