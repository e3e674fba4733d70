package claims

import (
	"cmp"
	"slices"
)

// LevelOrder is the names of the levels of some boxes, from the highest down: where a band has one above High, such as
// turbo, that one comes first for all. Each band orders its own by what is claimed, or as they were typed where nothing
// is; over the bands a level stands where it stands on average. A box without a level has no say.
func LevelOrder(cells []Cell) []string {
	rows := map[string][]Cell{}
	var names, bands []string
	for _, c := range cells {
		if c.Level == "" {
			continue
		}
		key := c.Band.Name + " " + string(c.Mode)
		if rows[key] == nil {
			bands = append(bands, key)
		}
		rows[key] = append(rows[key], c)
		if !slices.Contains(names, c.Level) {
			names = append(names, c.Level)
		}
	}
	sum, n := map[string]float64{}, map[string]float64{}
	for _, key := range bands {
		row := rows[key]
		if !slices.ContainsFunc(row, func(c Cell) bool { return !(c.Claimed > 0) }) {
			slices.SortStableFunc(row, func(a, b Cell) int { return cmp.Compare(b.Claimed, a.Claimed) })
		}
		for i, c := range row {
			sum[c.Level] += float64(i)
			n[c.Level]++
		}
	}
	slices.SortStableFunc(names, func(a, b string) int { return cmp.Compare(sum[a]/n[a], sum[b]/n[b]) })
	return names
}
