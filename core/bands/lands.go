package bands

import "talloak/core/units"

// landing is a stretch of spectrum that others use.
type landing struct {
	from, to units.Hertz
	who      string
}

// landings are who uses what, as the Radio Regulations of the ITU (Article 5) give it in
// most countries, recalled from memory; narrower stretches come before the wider ones
// they lie in. For information: what may be used where is for local law to say.
var landings = []landing{
	{121.45e6, 121.55e6, "aeronautical distress, 121.5 MHz"},
	{156.7625e6, 156.8375e6, "marine distress and calling, 156.8 MHz"},
	{242.95e6, 243.05e6, "military aeronautical distress, 243 MHz"},
	{406e6, 406.1e6, "distress beacons to satellites, 406 MHz"},
	{74.8e6, 75.2e6, "aeronautical marker beacons"},
	{87.5e6, 108e6, "FM sound broadcasting"},
	{108e6, 117.975e6, "aeronautical navigation"},
	{117.975e6, 137e6, "aeronautical speech"},
	{137e6, 138e6, "weather satellites"},
	{144e6, 146e6, "amateur, 2 m"},
	{156e6, 162.05e6, "marine VHF"},
	{174e6, 230e6, "broadcasting, band III"},
	{230e6, 328.6e6, "military aeronautical"},
	{328.6e6, 335.4e6, "aeronautical glide path"},
	{335.4e6, 380e6, "military aeronautical"},
	{380e6, 400e6, "public safety, in many countries"},
	{430e6, 440e6, "amateur, 70 cm"},
	{470e6, 694e6, "television"},
	{694e6, 960e6, "mobile telephones and others"},
	{960e6, 1164e6, "aeronautical navigation, transponders"},
	{1164e6, 1300e6, "satellite navigation"},
	{1400e6, 1427e6, "radio astronomy and passive sensing: no transmission at all"},
	{1525e6, 1559e6, "mobile satellites, to earth"},
	{1559e6, 1610e6, "satellite navigation"},
	{1610e6, 1660.5e6, "mobile satellites, and radio astronomy"},
	{1670e6, 1710e6, "weather satellites"},
	{1710e6, 2170e6, "mobile telephones"},
	{2400e6, 2483.5e6, "licence-free devices"},
	{2690e6, 2700e6, "radio astronomy and passive sensing: no transmission at all"},
	{2700e6, 2900e6, "aeronautical radar"},
}

// Lands tells whose spectrum a product falls into; empty where the list has nothing.
func Lands(f units.Hertz) string {
	for _, l := range landings {
		if f >= l.from && f <= l.to {
			return l.who
		}
	}
	return ""
}
