package measure_test

import (
	"testing"

	"talloak/core/board"
	"talloak/core/measure/deviation"
	"talloak/core/measure/receiver"
	"talloak/core/record"
	"talloak/measuretest"
)

// TestABandThatIsReceivedOnly has boxes of what a receiver does, and of nothing that is transmitted.
func TestABandThatIsReceivedOnly(t *testing.T) {
	air := record.Keyed{Band: "118-137 MHz", Mode: "AM", FrequencyHz: 127.5e6}
	review := measuretest.Review("2m 5/1", "118-137 AM receive", "2m receive")
	r := measuretest.Open(t, review, measuretest.Facts(t, receiver.Name, air, receiver.Draft{Text: "s9 -99"}))
	if heard := r.Heard(); len(heard) != 1 || heard[0].Band.Name != air.Band || len(r.Bands()) != 1 {
		t.Fatalf("%+v", r.Heard())
	}
	if listens, sends := receiver.New().About(), deviation.New().About(); !r.HasBox(listens, air) || r.HasBox(sends, air) {
		t.Error("it is measured as what it is not")
	}
	b := board.Of(r, false)
	if boxes := b.Boxes(receiver.Name); len(boxes) != 1 || boxes[0].Name != "118-137 MHz AM" {
		t.Errorf("%+v", boxes)
	}
}
