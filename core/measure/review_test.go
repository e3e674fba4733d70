package measure_test

import (
	"strings"
	"testing"

	"talloak/core/measure"
	"talloak/core/measure/features"
	"talloak/core/measure/frequency"
	"talloak/core/record"
	"talloak/measuretest"
)

// TestTheModeThatIsMeant: what was keyed in a box that is there; else in the only mode of its band and level,
// where nobody said another.
func TestTheModeThatIsMeant(t *testing.T) {
	r := measuretest.Open(t, measuretest.Review("2m 5/1", "10m AM 12 SSB pep 35", "40m 50"), record.Facts{})
	for _, c := range []struct {
		band, level string
		mode, want  record.Mode
	}{
		{"2m", "High", "FM", "FM"}, {"2m", "High", "", "FM"}, {"2m", "", "", "FM"}, {"2m", "High", "AM", "AM"}, {"2m", "Eco", "", ""}, {"10m", "High", "", ""}, {"10m", "High", "SSB", "SSB"}, {"70cm", "High", "", ""}, {"40m", "High", "SSB", ""},
	} {
		if got := r.Meant(record.Keyed{Band: c.band, Level: c.level, Mode: c.mode}).Mode; got != c.want {
			t.Errorf("%+v: %q", c, got)
		}
	}
}

// TestWhoseDifferencesCanBeExplained: those of kinds that come out the same each time.
func TestWhoseDifferencesCanBeExplained(t *testing.T) {
	at := record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}
	facts := measuretest.Facts(t, frequency.Name, at, frequency.Draft{Text: "+96Hz"})
	more := measuretest.Facts(t, features.Name, record.Keyed{}, features.Draft{Text: "yes a clip"})
	more.Measurements[0].ID = "clip"
	facts.Measurements = append(facts.Measurements, more.Measurements...)
	r := measuretest.Open(t, measuretest.Review("2m 5/1"), facts)
	if !r.MayExplain("0") || r.MayExplain("clip") || !r.MayExplain("nobody knows") {
		t.Error("what may be explained")
	}
	// A measurement is found by its id, and nothing by none.
	room := r.Room(frequency.New())
	if got := measure.Own[*frequency.Measured](room.View("0")); got.Text != "+96Hz" || room.View("clip") != nil || room.Count() != 1 {
		t.Errorf("%+v", got)
	}
}

// TestAPowerOfNoBand asks which: a line that names bands alone is none of it.
func TestAPowerOfNoBand(t *testing.T) {
	r := measuretest.Open(t, measuretest.Review("5W", "2.5ppm"), record.Facts{})
	if !strings.Contains(r.Lines[0].Error, "of which bands") || r.Lines[1].Error != "" || !r.Unread() {
		t.Errorf("%+v", r.Lines)
	}
	if r := measuretest.Open(t, measuretest.Review("5W", "2m 70cm"), record.Facts{}); r.Lines[0].Error != "" || len(r.Cells) != 2 {
		t.Errorf("%+v", r.Lines)
	}
}
