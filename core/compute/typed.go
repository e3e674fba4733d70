package compute

import (
	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/looks"
	"talloak/core/problem"
	"talloak/core/units"
)

// ClaimIn is a text of claims as a person says them, read for a region of the ITU, the second
// where none is given.
type ClaimIn struct {
	Text   *string `json:"text"`
	Region *int    `json:"region,omitempty"`
}

func readClaim(in *ClaimIn) (claims.Said, error) {
	var bad problem.List
	if in.Text == nil {
		bad.Add("text", "is missing; give what is claimed, such as 2m 25/10/5")
	}
	region := or(in.Region, int(bands.Region2))
	if region < int(bands.Region1) || region > int(bands.Region3) {
		bad.Add("region", "give 1, 2 or 3")
	}
	if err := bad.Err(); err != nil {
		return claims.Said{}, err
	}
	return claims.Read(*in.Text, bands.Region(region))
}

// LookTextIn is a look as it is typed, on a carrier.
type LookTextIn struct {
	Text          *string  `json:"text"`
	FundamentalHz *float64 `json:"fundamental_hz,omitempty"`
}

func readLook(in *LookTextIn) (looks.Typed, error) {
	var bad problem.List
	if in.Text == nil {
		bad.Add("text", "is missing; give what was seen, such as 30-1000 floor -70 2h -62")
	}
	if in.FundamentalHz != nil && !(*in.FundamentalHz > 0) {
		bad.Add("fundamental_hz", "give more than 0 Hz")
	}
	if err := bad.Err(); err != nil {
		return looks.Typed{}, err
	}
	return looks.Read("text", *in.Text, units.Hertz(or(in.FundamentalHz, 0)))
}
