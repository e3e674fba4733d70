package httpapi

import (
	"bytes"
	"crypto/sha256"
	"encoding/csv"
	"encoding/hex"
	"image/png"
	"math"
	"strings"
	"testing"

	"github.com/google/uuid"

	"talloak/core/record"
)

// TestComparing units: what was claimed and measured of each, by band, class and words; a figure of somebody else
// stands beside ours and is never mixed with it; it can be kept as a picture and as a table.
func TestComparing(t *testing.T) {
	c, s := serve(t)
	power, _ := bench(t, s)
	r := c.begin()
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "4.9 5 5.1 h swr 1.1"}, "path_id": power}, nil)
	other := c.begin()
	rows := func(query string) []CompareRow {
		t.Helper()
		var page ComparePage
		c.ok("GET", "/api/v1/compare?"+query, nil, &page)
		return page.Rows
	}
	all := rows("")
	if len(all) != 2 {
		t.Fatalf("%+v", all)
	}
	var ours CompareRow
	for _, row := range all {
		if row.ID == r.ID {
			ours = row
		}
	}
	box := ours.Boxes[0]
	if box.Name != "2m High" || box.MeasuredW == nil || math.Abs(*box.MeasuredW-5) > 0.1 || box.ClaimDB == nil || math.Abs(*box.ClaimDB-10*math.Log10(*box.MeasuredW/5)) > 0.01 || len(ours.Kit.Meters) != 1 {
		t.Errorf("%+v", ours)
	}
	for query, want := range map[string]int{"band=2m": 2, "band=4m": 0, "class=up-to-10-w": 2, "class=up-to-1-w": 0, "class=over-10-w": 0, "text=" + ours.Maker: 2, "text=%25": 0, "rule_book=none": 0, "limit=1": 1} {
		if got := rows(query); len(got) != want {
			t.Errorf("%s: %d rows, %d are so", query, len(got), want)
		}
	}
	c.refused(422, "GET", "/api/v1/compare?class=huge", nil)
	// Every one comes once, page by page, also where the page of what was looked through ends elsewhere.
	third := c.begin()
	c.ok("PUT", "/api/v1/reviews/"+third.ID, map[string]any{"version": third.Version, "subject": third.Subject, "claims": []map[string]string{{"text": "4m 5/1"}}, "rules": third.Rules}, nil)
	fourth, fifth := c.begin(), c.begin()
	seen := map[string]int{}
	for next := "limit=3&band=2m"; next != ""; {
		var page ComparePage
		c.ok("GET", "/api/v1/compare?"+next, nil, &page)
		for _, row := range page.Rows {
			seen[row.ID]++
		}
		if next = page.Next; next != "" {
			next = "limit=3&band=2m&after=" + next
		}
	}
	if len(seen) != 4 || seen[fifth.ID] != 1 || seen[r.ID] != 1 || seen[other.ID] != 1 || seen[fourth.ID] != 1 {
		t.Errorf("%v", seen)
	}

	at := "/api/v1/reviews/" + r.ID + "/outside"
	figure := map[string]any{"id": uuid.NewString(), "box": "2m High", "watts": 2.5, "source": "a magazine", "said_on": "2026-05-01"}
	c.ok("POST", at, figure, nil)
	c.ok("POST", at, figure, nil) // the same write
	for field, v := range map[string]any{"box": "3m High", "source": " ", "said_on": "May", "watts": -1} {
		bad := map[string]any{"id": uuid.NewString(), "box": "2m High", "watts": 2.5, "source": "a magazine", "said_on": "2026-05-01"}
		bad[field] = v
		c.refused(422, "POST", at, bad)
	}
	for _, row := range rows("") {
		switch {
		case row.ID == other.ID && len(row.Outside) > 0:
			t.Errorf("a figure of another review: %+v", row.Outside)
		case row.ID == r.ID && (len(row.Outside) != 1 || math.Abs(*row.Outside[0].ClaimDB+3.0103) > 1e-3 || *row.Boxes[0].MeasuredW < 4.5):
			t.Errorf("%+v", row)
		}
	}
	ids := "?ids=" + r.ID + "," + other.ID
	if status, svg := c.call("GET", "/api/v1/compare/power.svg"+ids, nil); status != 200 || !bytes.Contains(svg, []byte("<svg")) || !bytes.Contains(svg, []byte("2m High")) {
		t.Errorf("%d %.200s", status, svg)
	}
	status, picture := c.call("GET", "/api/v1/compare/margins.png"+ids, nil)
	if about, err := png.DecodeConfig(bytes.NewReader(picture)); status != 200 || err != nil || about.Width < 1000 {
		t.Errorf("%d %+v %v", status, about, err)
	}
	_, table := c.call("GET", "/api/v1/compare/figures.csv"+ids, nil)
	read, err := csv.NewReader(bytes.NewReader(table)).ReadAll()
	if err != nil || len(read) < 4 || strings.Count(string(table), ",outside,") != 1 {
		t.Errorf("%v\n%s", err, table)
	}
	// Frozen, it stays as it is whatever is measured later.
	freeze := map[string]any{"id": uuid.NewString(), "title": "Two of a kind", "ids": []string{r.ID, other.ID}}
	for field, v := range map[string]any{"title": " ", "ids": []string{}} {
		bad := map[string]any{"id": uuid.NewString(), "title": "x", "ids": []string{r.ID}}
		bad[field] = v
		c.refused(422, "POST", "/api/v1/comparisons", bad)
	}
	c.ok("POST", "/api/v1/comparisons", freeze, nil)
	c.ok("POST", "/api/v1/comparisons", freeze, nil)
	_, page := c.call("GET", "/api/v1/comparisons/"+freeze["id"].(string), nil)
	c.ok("POST", "/api/v1/reviews/"+r.ID+"/measure/power", map[string]any{"id": uuid.NewString(), "band": "2m", "level": "High", "mode": "FM", "frequency_hz": 146.52e6, "draft": map[string]string{"text": "2.1 h"}, "path_id": power}, nil)
	_, later := c.call("GET", "/api/v1/comparisons/"+freeze["id"].(string), nil)
	var frozen []record.FrozenComparison
	c.ok("GET", "/api/v1/comparisons", nil, &frozen)
	sum := sha256.Sum256(page)
	if !bytes.Equal(page, later) || !bytes.Contains(page, []byte("5.00 W")) || !bytes.Contains(page, []byte("2.50 W")) || bytes.Count(page, []byte("<svg")) < 2 || bytes.Contains(page, []byte("http")) || len(frozen) != 1 || frozen[0].SHA256 != hex.EncodeToString(sum[:]) {
		t.Errorf("%+v\n%.300s", frozen, page)
	}
	c.refused(404, "GET", "/api/v1/comparisons/"+uuid.NewString(), nil)
	c.refused(404, "GET", "/api/v1/compare/nothing.svg"+ids, nil)
	c.refused(422, "GET", "/api/v1/compare/power.svg", nil)
	// Taken out again, by one that replaces it.
	c.ok("POST", at, map[string]any{"id": uuid.NewString(), "replaces": figure["id"], "box": "2m High", "source": "a magazine", "said_on": "2026-05-01"}, nil)
	for _, row := range rows("") {
		if len(row.Outside) > 0 {
			t.Errorf("%+v", row.Outside)
		}
	}
}
