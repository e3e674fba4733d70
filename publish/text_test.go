package publish_test

import (
	"strings"
	"testing"

	"talloak/publish"
)

// TestTextOfWhatIsNone: data that cannot be read make no text; an edition with little in it makes a short one.
func TestTextOfWhatIsNone(t *testing.T) {
	if _, err := publish.Text([]byte("not data"), ""); err == nil {
		t.Error("what is no edition has a text")
	}
	doc := `{"edition":2,"frozen_at":"2026-05-01T10:00:00Z","board":{"title":"A radio","headline":"So it is.","rules":{"book":"A book","recalled":true,"bands":[{"band":"2m","book":"Another","recalled":true},{"band":"70cm","book":"A third"}],"claim":"the claim","decision":"simple"},"cells":[
		{"cell":{"band":{"name":"2m"},"level":"High","claimed_w":5,"pep":true},"name":"2m High","power":"pass","power_why":"96 % of the claim","reading":{"measured_w":4.8,"low_w":4.6,"high_w":5},"verdict":"not-examined","why":"","emissions":{}},
		{"cell":{"band":{"name":"2m"},"level":"Low"},"name":"2m Low","power":"not-examined","power_why":"no reading was taken","reading":null,"verdict":"pass","why":"room","emissions":{}}]},"cautions":["Mind it."]}`
	text, err := publish.Text([]byte(doc), "abc")
	if err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{"A radio\nEdition 2, 1 May 2026, 10:00 UTC\n", "2m High: 4.80 W PEP (4.60 W to 5.00 W), 5.00 W claimed: passes, 96 % of the claim\n", "2m Low: not read, no claim: not examined, no reading was taken\n", "2m High: not examined\n", "2m Low: passes, room\n", "The limits of A book are recalled from memory", "The limits of Another, for 2m, are recalled", "Mind it.\n", "data: abc\n"} {
		if !strings.Contains(string(text), want) {
			t.Errorf("no %q in\n%s", want, text)
		}
	}
	if strings.Contains(string(text), "Not tested") || strings.Contains(string(text), "A third") {
		t.Errorf("nothing is left out:\n%s", text)
	}
}
