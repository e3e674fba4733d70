package httpapi

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"

	"talloak/store"
)

// median reports the middle of what took so long.
func median(b *testing.B, took []time.Duration) {
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "ms/median")
}

func keyUp(text, path string) map[string]any {
	return map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": text}, "path_id": path}
}

// BenchmarkLogReading is what a person waits for after Enter: in a review that begins, and
// in one of 1,000 readings.
func BenchmarkLogReading(b *testing.B) {
	for _, n := range []int{0, 1000} {
		b.Run(fmt.Sprint("into ", n), func(b *testing.B) {
			c, s := serve(b)
			power, _ := bench(b, s)
			r := c.begin()
			if n > 0 {
				c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", keyUp("4.9 5 5.1 h swr 1.1 7.8v", power), nil)
				copyMeasurements(b, s, n-1)
			}
			var took []time.Duration
			for b.Loop() {
				start := time.Now()
				c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", keyUp("4.9 5 5.1 h", power), nil)
				took = append(took, time.Since(start))
			}
			median(b, took)
		})
	}
}

// BenchmarkPreviewReading is from the key that completes a figure to its answer, in a review
// of 2,000 readings; what the browser adds is in e2e.
func BenchmarkPreviewReading(b *testing.B) {
	c, s := serve(b)
	power, _ := bench(b, s)
	r := c.begin()
	at := "/api/v1/reviews/" + r.ID + "/measure/power"
	c.ok("POST", at, keyUp("4.9 5 5.1 h swr 1.1 7.8v", power), nil)
	copyMeasurements(b, s, 1999)
	ask := keyUp("4.9 5 5.1 h", power)
	delete(ask, "id")
	var took []time.Duration
	for b.Loop() {
		start := time.Now()
		c.ok("POST", at+"/preview", ask, nil)
		took = append(took, time.Since(start))
	}
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "ms/p95")
}

func copyMeasurements(b testing.TB, s *store.Store, n int) {
	b.Helper()
	if err := s.Exec(b.Context(), fmt.Sprintf(`INSERT INTO measurements (id, request_hash, review_id, kind, format, taken_at, band, level, mode, frequency_hz, payload, through, blob)
		SELECT gen_random_uuid(), request_hash, review_id, kind, format, taken_at, band, level, mode, frequency_hz, payload, through, blob FROM measurements, generate_series(1, %d)`, n)); err != nil {
		b.Fatal(err)
	}
}

// BenchmarkListReviews is the first page of 2,000 reviews with 10 sweeps each.
func BenchmarkListReviews(b *testing.B) {
	c, s := serve(b)
	_, emissions := bench(b, s)
	r := c.begin()
	c.ok("POST", sweepPath(r.ID, uuid.NewString(), emissions), traceCSV(-80), nil)
	for _, q := range []string{
		`INSERT INTO reviews SELECT gen_random_uuid(), request_hash, version, created_at, updated_at + n * interval '1 second', subject, claims, rules FROM reviews, generate_series(1, 1999) n`,
		`INSERT INTO measurements (id, request_hash, review_id, kind, format, taken_at, band, level, mode, frequency_hz, payload, through, blob)
			SELECT gen_random_uuid(), m.request_hash, r.id, m.kind, m.format, m.taken_at, m.band, m.level, m.mode, m.frequency_hz, m.payload, m.through, m.blob FROM measurements m, reviews r, generate_series(1, 10)`,
		"ANALYZE",
	} {
		if err := s.Exec(b.Context(), q); err != nil {
			b.Fatal(err)
		}
	}
	start := time.Now()
	c.ok("GET", "/api/v1/reviews", nil, nil)
	b.Logf("worked out for the first time: %v", time.Since(start))
	var took []time.Duration
	for b.Loop() {
		var page ReviewPage
		start := time.Now()
		c.ok("GET", "/api/v1/reviews", nil, &page)
		took = append(took, time.Since(start))
		if len(page.Reviews) != 30 || page.Next == "" {
			b.Fatalf("%d reviews", len(page.Reviews))
		}
	}
	median(b, took)
}

// BenchmarkCompare is the first page of Compare with 2,000 reviews (aim 200 ms), where it was worked out before.
func BenchmarkCompare(b *testing.B) {
	c, s := serve(b)
	power, _ := bench(b, s)
	for range 2000 {
		c.begin()
	}
	r := c.begin()
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", keyUp("4.9 5 5.1 h", power), nil)
	var page ComparePage
	c.ok("GET", "/api/v1/compare?limit=50", nil, &page)
	var took []time.Duration
	for b.Loop() {
		start := time.Now()
		c.ok("GET", "/api/v1/compare?limit=50", nil, &page)
		took = append(took, time.Since(start))
	}
	median(b, took)
}
