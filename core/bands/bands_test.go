package bands

import "testing"

func TestBandsAreInOrder(t *testing.T) {
	for _, b := range all {
		if !(b.FromHz < b.ToHz) || b.UsualHz < b.FromHz || b.UsualHz > b.ToHz || b.Channel == "" {
			t.Errorf("%+v", b)
		}
		if got, ok := Find(b.Name); !ok || got != b {
			t.Errorf("%s is not found", b.Name)
		}
	}
	if _, ok := Find("70CM"); !ok {
		t.Error("case matters")
	}
	if _, ok := Find("3m"); ok {
		t.Error("3m is no band")
	}
}

// TestNoEmergencyChannel: nobody tests on a distress or calling channel for
// emergencies: 156.8 MHz (channel 16) and 27.065 MHz (channel 9); ITU Radio
// Regulations Appendix 15, common practice.
func TestNoEmergencyChannel(t *testing.T) {
	for _, b := range all {
		if b.UsualHz == 156.8e6 || b.UsualHz == 27.065e6 || b.UsualHz == 121.5e6 || b.UsualHz == 243e6 {
			t.Errorf("%s is measured on an emergency channel", b.Name)
		}
	}
}
