package httpapi

import (
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"talloak/publish"
)

// EditionSchema is the JSON Schema of an edition's data.
func EditionSchema() map[string]any {
	registry := huma.NewMapRegistry("#/$defs/", schemaName)
	root := registry.Schema(reflect.TypeFor[publish.Document](), true, "Edition")
	edition := registry.SchemaFromRef(root.Ref)
	edition.Properties["board"] = registry.Schema(reflect.TypeFor[publish.BoardForm](), true, "EditionBoard")
	edition.Properties["signature"] = registry.Schema(reflect.TypeFor[publish.Signature](), true, "Signature")
	edition.Properties["sum"] = &huma.Schema{Type: huma.TypeString, Pattern: "^[0-9a-f]{64}$", Description: "SHA-256 of every byte before this field's comma, in hexadecimal digits: the data end in it"}
	edition.Required = append(edition.Required, "sum")
	for _, s := range registry.Map() {
		open(s)
	}
	return map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "The data of an edition of Tall Oak", "$ref": root.Ref, "$defs": registry.Map(),
	}
}

// open lets a schema be met by data that have more in them, null where there is nothing, and whatever a kind keeps.
func open(s *huma.Schema) {
	if s == nil {
		return
	}
	if s.Type == huma.TypeObject && s.AdditionalProperties == false {
		s.AdditionalProperties = nil
	}
	s.Format = ""
	if s.Type == huma.TypeArray { // none is null
		s.Nullable = true
	}
	for name, p := range s.Properties {
		if p.Ref != "" { // nullable where it is not there
			s.Properties[name] = &huma.Schema{AnyOf: []*huma.Schema{p, {Type: "null"}}}
			continue
		}
		open(p)
	}
	open(s.Items)
}
