package httpapi

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"

	"talloak/core/kit"
	"talloak/core/record"
)

// TestNothingTypedPoisonsAReview: a figure that no bench has is refused with its bound and not
// written; one that was written by an older program is void with its reason, and list, board and
// what comes after it go on.
func TestNothingTypedPoisonsAReview(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	r := c.begin()
	at := "/api/v1/reviews/" + r.ID + "/measure/power"
	for _, text := range []string{"1e-200", "1e200", "4.9 1e9v"} {
		status, body := c.call("POST", at, keyUp(text, power))
		if status != 422 || !strings.Contains(string(body), " to ") {
			t.Errorf("%s: %d %s", text, status, body)
		}
	}
	if status, body := c.call("GET", at, nil); status != 200 || strings.TrimSpace(string(body)) != "[]" {
		t.Errorf("%d %s", status, body)
	}
	c.ok("POST", at, keyUp("4.9", power), nil)
	if err := s.Exec(t.Context(), `INSERT INTO measurements (id, request_hash, review_id, kind, format, taken_at, band, level, mode, frequency_hz, payload, through, blob)
		SELECT gen_random_uuid(), '', review_id, kind, format, taken_at, band, level, mode, frequency_hz, '{"text":"1e-200"}', through, blob FROM measurements`); err != nil {
		t.Fatal(err)
	}
	var all []struct {
		Text   string
		Void   bool
		WhyNot string `json:"why_not"`
	}
	c.ok("GET", at, nil, &all)
	if len(all) != 2 || all[0].Void || !all[1].Void || !strings.Contains(all[1].WhyNot, "1 nW to 100 kW") {
		t.Errorf("%+v", all)
	}
	for _, path := range []string{"/api/v1/reviews", "/api/v1/reviews/" + r.ID + "/board", "/api/v1/reviews/" + r.ID + "/publish", at + "/ruling?band=2m&level=High"} {
		c.ok("GET", path, nil, nil)
	}
	c.ok("POST", at, keyUp("4.8", power), nil)
}

// TestSettingsThatDecideHaveBounds: whatever decides a ruling is refused at its field where it
// would decide by itself, in the review and where it is only tried, and stands on the page.
func TestSettingsThatDecideHaveBounds(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	r := c.begin()
	change := func(by func(*record.Rules, *record.Subject)) []string {
		t.Helper()
		rules, subject := r.Rules, r.Subject
		by(&rules, &subject)
		return c.refused(422, "PUT", "/api/v1/reviews/"+r.ID, map[string]any{"version": r.Version, "subject": subject, "claims": []record.Claim{{Text: "2m 5/1", Source: "box"}}, "rules": rules})
	}
	far := 99.0
	for field, by := range map[string]func(*record.Rules, *record.Subject){
		"rules.emission_bandwidth_hz": func(r *record.Rules, _ *record.Subject) { r.BandwidthHz = 600e6 },
		"rules.tolerance_db":          func(r *record.Rules, _ *record.Subject) { r.ToleranceDB = 1e6 },
		"rules.rule_book":             func(r *record.Rules, _ *record.Subject) { r.RuleBook = "none such" },
		"rules.books.2m":              func(r *record.Rules, _ *record.Subject) { r.Books = map[string]string{"2m": "none such"} },
		"subject.antenna_gain_dbd":    func(_ *record.Rules, s *record.Subject) { s.AntennaGainDBd = &far },
		"subject.clocks_hz[0]":        func(_ *record.Rules, s *record.Subject) { s.ClocksHz = []float64{1} },
	} {
		if got := change(by); !slices.Equal(got, []string{field}) {
			t.Errorf("%s: refused at %q", field, got)
		}
	}
	if got := c.refused(422, "GET", "/api/v1/reviews/"+r.ID+"/board?tolerance_db=1000000", nil); !slices.Contains(got, "tolerance_db") {
		t.Errorf("tried: %q", got)
	}
	// One kept by an older program can be seen, and is published only once it is mended.
	if err := s.Exec(t.Context(), `UPDATE reviews SET rules = jsonb_set(rules, '{emission_bandwidth_hz}', '6e8')`); err != nil {
		t.Fatal(err)
	}
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", keyUp("4.9", power), nil)
	_, body := c.call("GET", "/api/v1/reviews/"+r.ID+"/publish", nil)
	if !strings.Contains(string(body), "emission bandwidth hz is beyond") || !strings.Contains(string(body), `"ready":false`) {
		t.Errorf("%s", body)
	}
	if err := s.Exec(t.Context(), `UPDATE reviews SET rules = jsonb_set(rules, '{emission_bandwidth_hz}', '12500')`); err != nil {
		t.Fatal(err)
	}
	_, page := c.call("GET", "/api/v1/reviews/"+r.ID+"/preview", nil)
	for _, want := range []string{"an emission of 12.5 kHz", "SWR at its harmonics a typical one", "ITU region 2", "the claim less 1.5 dB", "guarded"} {
		if !strings.Contains(string(page), want) {
			t.Errorf("%q does not stand on the page", want)
		}
	}
}

// TestAThingLiesOnAPathOnce, and its figures have bounds.
func TestAThingLiesOnAPathOnce(t *testing.T) {
	c, _ := serve(t)
	pad := c.pad("pad", 40, 10)
	path := func(n int) map[string]any {
		parts := make([]map[string]string, n)
		for i := range parts {
			parts[i] = map[string]string{"kit_id": pad.ID}
		}
		return map[string]any{"version": 0, "name": "pads", "parts": parts}
	}
	c.ok("PUT", "/api/v1/paths/"+uuid.NewString(), path(1), nil)
	if got := c.refused(422, "PUT", "/api/v1/paths/"+uuid.NewString(), path(31)); !slices.Contains(got, "parts[1].kit_id") {
		t.Errorf("%q", got)
	}
	v := func(x float64) *float64 { return &x }
	for field, by := range map[string]func(*kit.Spec){
		"spec.element.max_w":           func(s *kit.Spec) { s.Element.MaxW = v(1e9) },
		"spec.element.tolerance_db":    func(s *kit.Spec) { s.Element.ToleranceDB = v(-1) },
		"spec.element.swr":             func(s *kit.Spec) { s.Element.SWR = v(101) },
		"spec.element.coverage_factor": func(s *kit.Spec) { s.Element.CoverageFactor = v(1e6) },
		"spec.element.to_hz":           func(s *kit.Spec) { s.Element.ToHz = v(1e15) },
	} {
		spec := kit.Typical(kit.Attenuator)
		by(&spec)
		if got := c.refused(422, "PUT", "/api/v1/kit/"+uuid.NewString(), KitWrite{Name: "odd", Spec: spec}); !slices.Contains(got, field) {
			t.Errorf("%s: %q", field, got)
		}
	}
}

// TestWhatIsManyIsAPage: 2,000 readings are paged, in the order taken, and of many sweeps those
// are drawn that can be told apart; nothing but newlines is refused.
func TestWhatIsManyIsAPage(t *testing.T) {
	c, s := serve(t)
	power, emissions := bench(t, s)
	r := c.begin()
	at := "/api/v1/reviews/" + r.ID + "/measure/power"
	c.ok("POST", at, keyUp("4.9 ? the first", power), nil)
	copyMeasurements(t, s, 1998)
	c.ok("POST", at, keyUp("4.9 ? the last", power), nil)
	page := func(query string) (total, from string, texts []string) {
		t.Helper()
		resp, err := http.Get(c.base + at + query)
		if err != nil {
			t.Fatal(err)
		}
		defer resp.Body.Close()
		var all []struct{ Text string }
		if err := json.NewDecoder(resp.Body).Decode(&all); err != nil {
			t.Fatal(err)
		}
		for _, a := range all {
			texts = append(texts, a.Text)
		}
		return resp.Header.Get("X-Total-Count"), resp.Header.Get("X-From"), texts
	}
	if total, from, texts := page(""); total != "2000" || from != "1500" || len(texts) != 500 || texts[499] != "4.9 ? the last" {
		t.Errorf("%s from %s: %d", total, from, len(texts))
	}
	if _, from, texts := page("?from=0&limit=1000"); from != "0" || len(texts) != 1000 || texts[0] != "4.9 ? the first" {
		t.Errorf("from %s: %d", from, len(texts))
	}
	if _, _, texts := page("?from=1999&limit=1000"); len(texts) != 1 || texts[0] != "4.9 ? the last" {
		t.Errorf("%q", texts)
	}
	var boxes []BoxCount
	c.ok("GET", at+"/boxes", nil, &boxes)
	if len(boxes) != 2 || boxes[0] != (BoxCount{"2m High", 2000, true}) || boxes[1] != (BoxCount{"2m Low", 0, false}) {
		t.Errorf("%+v", boxes)
	}
	other := c.begin()
	for i := range 14 {
		c.ok("POST", sweepPath(other.ID, uuid.NewString(), emissions), strings.Replace(traceCSV(-60), "-90.0", fmt.Sprintf("-9%d.0", i%10), 1), nil)
	}
	var ruled struct {
		Sweeps []struct{ Picture []struct{} }
	}
	c.ok("GET", "/api/v1/reviews/"+other.ID+ruling, nil, &ruled)
	drawn := 0
	for _, s := range ruled.Sweeps {
		if len(s.Picture) > 0 {
			drawn++
		}
	}
	if len(ruled.Sweeps) != 14 || drawn != 12 {
		t.Errorf("%d of %d sweeps are drawn", drawn, len(ruled.Sweeps))
	}
	status, body := c.call("POST", sweepPath(other.ID, uuid.NewString(), emissions), strings.Repeat("\n", 2<<20))
	if status != 422 || !bytes.Contains(body, []byte("in the first MiB")) {
		t.Errorf("%d %s", status, body)
	}
}
