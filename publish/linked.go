package publish

import "time"

// linked is what machines read of a page: the edition as a review of a product, and its measurements as a dataset
// (schema.org, in JSON-LD; from memory).
func linked(d Document, sum string) any {
	type thing = map[string]any
	named := func(kind, name string) thing { return thing{"@type": kind, "name": name} }
	product := thing{"@type": "Product", "name": d.Subject.Maker + " " + d.Subject.Model, "brand": named("Brand", d.Subject.Maker)}
	if d.Subject.Serial != "" {
		product["serialNumber"] = d.Subject.Serial
	}
	review := thing{
		"@type": "Review", "name": d.Board.Title, "itemReviewed": product, "reviewBody": d.Board.Headline, "abstract": d.Plain, "inLanguage": "en",
		"datePublished": d.FrozenAt.UTC().Format(time.RFC3339), "identifier": "sha256:" + sum,
	}
	data := thing{
		"@type": "Dataset", "name": "Measurements of " + d.Board.Title, "description": d.Board.Headline, "dateCreated": d.FrozenAt.UTC().Format(time.RFC3339),
		"identifier": "sha256:" + sum, "measurementTechnique": "conducted, at the antenna connector into 50 ohm",
	}
	if p := d.Publication; p.Name != "" {
		review["author"], review["publisher"], data["creator"] = named("Organization", p.Name), named("Organization", p.Name), named("Organization", p.Name)
	}
	if l := d.Publication.Licence; l != "" {
		review["license"], data["license"] = l, l
	}
	if at := d.address(); isLink(at) {
		review["url"], data["url"] = at, at
		data["distribution"] = thing{"@type": "DataDownload", "encodingFormat": "application/zip", "contentUrl": d.Publication.Address + "/api/v1/editions/" + d.ID + "/package"}
	}
	return thing{"@context": "https://schema.org", "@graph": []any{review, data}}
}
