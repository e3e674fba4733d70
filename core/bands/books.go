package bands

import "strings"

// DefaultBook is the rule book that a review begins with.
const DefaultBook = "us-amateur"

// services are the rule books of services that have one of their own, by their bands.
var services = map[string]string{"GMRS": "us-gmrs", "FRS": "us-frs", "MURS": "us-murs", "CB": "us-cb", "marine": "us-marine-vhf"}

// Book is the rule book that a band has of its own in a region, empty where that is the
// default or not known.
func (b Band) Book(r Region) string {
	name, _, _ := strings.Cut(b.Name, " ")
	if id := services[name]; id != "" {
		return id
	}
	if b.Service == Amateur && r == Region1 {
		return "itu-region-1-amateur"
	}
	return ""
}
