package httpapi

import (
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/google/uuid"

	"talloak/core/record"
)

// asked is a place in a request that takes one of several values.
type asked struct {
	path   string // of the field, as a refusal names it
	values []any
	body   func(v any) any
}

// choices finds the places in a schema of the API's own description, as deep as they lie.
func choices(schemas map[string]any, schema map[string]any, depth int) []asked {
	if ref, ok := schema["$ref"].(string); ok {
		named, _ := schemas[ref[strings.LastIndex(ref, "/")+1:]].(map[string]any)
		return choices(schemas, named, depth)
	}
	if depth > 6 {
		return nil
	}
	if values, ok := schema["enum"].([]any); ok {
		return []asked{{"", values, func(v any) any { return v }}}
	}
	var out []asked
	if properties, ok := schema["properties"].(map[string]any); ok {
		for name, p := range properties {
			for _, c := range choices(schemas, p.(map[string]any), depth+1) {
				at := name
				if c.path != "" && c.path[0] == '[' {
					at += c.path
				} else if c.path != "" {
					at += "." + c.path
				}
				out = append(out, asked{at, c.values, func(v any) any { return map[string]any{name: c.body(v)} }})
			}
		}
	}
	if items, ok := schema["items"].(map[string]any); ok {
		for _, c := range choices(schemas, items, depth+1) {
			at := "[0]"
			if c.path != "" {
				at += "." + c.path
			}
			out = append(out, asked{at, c.values, func(v any) any { return []any{c.body(v)} }})
		}
	}
	return out
}

// TestEveryChoiceOfTheAPI: whatever the description offers for a field is taken there.
func TestEveryChoiceOfTheAPI(t *testing.T) {
	c, _ := serve(t)
	text, err := os.ReadFile("openapi.json")
	if err != nil {
		t.Fatal(err)
	}
	var doc struct {
		Paths      map[string]map[string]map[string]any
		Components struct{ Schemas map[string]any }
	}
	if err := json.Unmarshal(text, &doc); err != nil {
		t.Fatal(err)
	}
	params := regexp.MustCompile(`\{[^}]*\}`)
	tried := 0
	for path, methods := range doc.Paths {
		for method, op := range methods {
			body, _ := op["requestBody"].(map[string]any)
			content, _ := body["content"].(map[string]any)
			media, _ := content["application/json"].(map[string]any)
			schema, _ := media["schema"].(map[string]any)
			for _, choice := range choices(doc.Components.Schemas, schema, 0) {
				for _, v := range choice.values {
					tried++
					_, answer := c.call(strings.ToUpper(method), params.ReplaceAllString(path, uuid.NewString()), choice.body(v))
					var p Problem
					_ = json.Unmarshal(answer, &p)
					for _, f := range p.Errors {
						if f.Field == choice.path && strings.Contains(f.Detail, "one of") {
							t.Errorf("%s %s: %s = %v: %s", method, path, choice.path, v, f.Detail)
						}
					}
				}
			}
		}
	}
	if tried < 80 {
		t.Errorf("%d choices tried: the description was not understood", tried)
	}
}

// TestEveryRegionIsSaved: with the unit, and once for the publication, from which new reviews begin.
func TestEveryRegionIsSaved(t *testing.T) {
	c, _ := serve(t)
	var p Publication
	if c.ok("GET", "/api/v1/publication", nil, &p); p.Region != 0 {
		t.Errorf("region %d before anybody said it", p.Region)
	}
	for region := 1; region <= 3; region++ {
		c.ok("PUT", "/api/v1/publication", map[string]any{"itu_region": region}, nil)
		var r ReviewView
		c.ok("POST", "/api/v1/reviews", map[string]any{"id": uuid.NewString(), "subject": subject("")}, &r)
		if int(r.Subject.Region) != region {
			t.Errorf("a review begins in region %d, want %d", r.Subject.Region, region)
		}
		var saved ReviewView
		subject := r.Subject
		subject.Region = 4 - r.Subject.Region
		c.ok("PUT", "/api/v1/reviews/"+r.ID, map[string]any{"version": r.Version, "subject": subject, "claims": []record.Claim{{Text: "2m 5/1", Source: "box"}}, "rules": r.Rules}, &saved)
		if int(saved.Subject.Region) != 4-region {
			t.Errorf("saved in region %d, want %d", saved.Subject.Region, 4-region)
		}
	}
	if fields := c.refused(http.StatusUnprocessableEntity, "PUT", "/api/v1/publication", map[string]any{"itu_region": 4}); fmt.Sprint(fields) != "[itu_region]" {
		t.Errorf("%v", fields)
	}
}
