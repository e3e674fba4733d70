package kit

import (
	"encoding/json"
	"testing"

	"talloak/core/path"
	"talloak/core/strictjson"
)

// FuzzItem: whatever an imported item says, it is refused by field or it lies on
// a path at each of its settings; nothing panics.
func FuzzItem(f *testing.F) {
	for _, k := range Kinds() {
		text, err := json.Marshal(Typical(k))
		if err != nil {
			f.Fatal(err)
		}
		f.Add(text)
	}
	f.Add([]byte(`{"kind":"through-meter","scales_w":[5,20],"meter":{"needle":true,"digit_w":0.5}}`))
	f.Add([]byte(`{"kind":"analyzer","element":{"ranges":[{"name":"low","from_hz":1,"to_hz":2},{"name":"high","from_hz":1,"to_hz":2}]}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		var s Spec
		if strictjson.Decode(data, &s) != nil {
			return
		}
		s.Curve(s.First(), 10)
		if s.Check() != nil || s.KindOf().PathKind() == "" {
			return
		}
		settings := s.Settings()
		if len(settings) == 0 {
			settings = []string{""}
		}
		for _, setting := range settings {
			e, _, err := s.On(setting)
			if err != nil {
				t.Fatalf("%s at %q: %v", data, setting, err)
			}
			if _, err := path.Prepare(e); err != nil {
				t.Fatalf("%s at %q: %v", data, setting, err)
			}
		}
	})
}
