package say

// ComeBy asks how the unit was come by.
func ComeBy() Said { return That("come-by", "say how the unit was come by") }

// Interest asks what the reviewer earns by it.
func Interest() Said { return That("interest", "say whether you sell it or earn on links") }

// NothingMeasured is a review without a measurement of any kind: one of levels below the
// carrier, or of the receiver, needs no reading of power.
func NothingMeasured() Said {
	return That("nothing-measured", "nothing is measured yet: log a reading, or keep a sweep")
}

// BeyondBounds is a setting that decides a ruling and is beyond what it can be.
func BeyondBounds(field, would string) Said {
	return That("beyond-bounds", "%s is beyond what a review can be judged by: %s", field, would)
}

// NameTheUnit is a unit that readers cannot tell from another.
func NameTheUnit() Said {
	return That("unit", "no serial or date code: readers cannot tell which unit this was")
}

// ClaimUnread is a claim that cannot be read, and why.
func ClaimUnread(claim, why string) Said {
	return That("claim-unread", "the claim %q cannot be read: %s", claim, why)
}

// ClaimSource is a claim without its source; the first is number 1.
func ClaimSource(number int, claim string) Said {
	return That("claim-source", "say where claim %d, %q, was read", number, claim)
}

// BookUnchecked is a rule book from memory.
func BookUnchecked(book string) Said {
	return That("book-unchecked", "the rule book %q is recalled from memory and was not checked against the text; the edition says so", book)
}

// KitRating is a part used that has no power rating.
func KitRating(part string) Said {
	return That("kit-rating", "%s has no power rating: write it down on the bench", part)
}

// Practice is a review of a radio that is not there: no edition is made of it.
func Practice() Said {
	return That("practice", "this is practice on a simulated bench: it ends with a score, and never becomes an edition")
}

// SimulatedIn is a real review in which something was read by a simulated instrument.
func SimulatedIn(name string) Said {
	return That("simulated", "%s is a simulated instrument, which measures no real radio: strike what was read by it", name)
}
