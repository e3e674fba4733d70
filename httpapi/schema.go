package httpapi

import (
	"slices"

	"github.com/danielgtaylor/huma/v2"
)

// refinement is what the API asks of a field of one of the core's plain types, which
// carry no tags of an API themselves.
type refinement struct {
	optional bool
	of       []any
	format   string
	above    *float64
	doc      string
}

var (
	nought   = 0.0
	optional = refinement{optional: true}
	positive = refinement{above: &nought}
	uuids    = refinement{format: "uuid"}
	dialled  = refinement{doc: "Above 0; 0 for what is of the whole radio"}
	modes    = refinement{of: []any{"", "FM", "AM", "SSB", "CW", "DIGITAL"}}
)

var refinements = map[string]map[string]refinement{
	"RecordSubject": {
		"maker": optional, "serial": optional, "date_code": optional, "firmware": optional, "come_by_note": optional,
		"changes":      {optional: true, doc: "Changes made to the unit before or during the review"},
		"come_by":      {optional: true, of: []any{"", "bought", "lent", "given-by-maker", "given-by-seller"}, doc: "How the unit was come by"},
		"interest":     {optional: true, of: []any{"", "none", "sells", "earns-on-links"}, doc: "Whether the reviewer sells it or earns on links"},
		"supply_min_v": positive, "supply_v": positive, "supply_max_v": positive, "most_w": positive, "key_s": positive, "rest_s": positive, "clocks_hz": positive,
		"itu_region": {of: []any{0.0, 1.0, 2.0, 3.0}, doc: "ITU region whose amateur bands count; 0 for the second"},
	},
	"Publication": {"itu_region": {of: []any{0.0, 1.0, 2.0, 3.0}}},
	"RecordClaim": {"source": optional, "read_on": optional},
	"RecordRules": {
		"decision_rule": {of: []any{"guarded", "simple"}}, "scheme": {of: []any{"tolerance", "percent"}}, "pass_percent": positive,
		"source_swr": {doc: "The radio's own SWR at its harmonics; 0 takes the typical 3"},
	},
	"RecordPathPart":    {"kit_id": uuids, "setting": {optional: true, doc: "Position, scale or input, where the item has several"}, "stack_id": {doc: "The measurement whose loss replaces the printed one"}},
	"RecordPathSupply":  {"kit_id": uuids, "set_v": positive},
	"RecordStackPoint":  {"frequency_hz": positive},
	"RecordBaselineRow": {"frequency_hz": positive},
	"TakeWrite":         {"mode": modes, "frequency_hz": dialled},
	"TakeNew":           {"mode": modes, "frequency_hz": dialled},
	"KeyingAsk":         {"mode": modes, "frequency_hz": positive},
	"KitSpec":           {"pre_amplifier": {of: []any{"", "none", "fitted"}}},
}

// refine applies the refinements.
func refine(schemas map[string]*huma.Schema) {
	for name, fields := range refinements {
		schema := schemas[name]
		if schema == nil {
			continue // of another description
		}
		for field, r := range fields {
			property := schema.Properties[field]
			if r.optional {
				schema.Required = slices.DeleteFunc(schema.Required, func(f string) bool { return f == field })
			}
			if r.of != nil {
				property.Enum = r.of
			}
			if r.format != "" {
				property.Format = r.format
			}
			if r.above != nil && property.Items != nil { // each of several
				property.Items.ExclusiveMinimum = r.above
				property.Items.PrecomputeMessages()
			} else if r.above != nil {
				property.ExclusiveMinimum = r.above
			}
			if r.doc != "" {
				property.Description = r.doc
			}
			property.PrecomputeMessages()
		}
		schema.PrecomputeMessages()
	}
}
