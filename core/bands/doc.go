// Package bands knows the bands a person names ("2m") with their edges and
// where to measure in them, as data recalled from memory of the published band
// plans (IARU regions 1 and 2) and channel tables (ITU Radio Regulations App. 18).
//
// Whether somebody may transmit there is not known here. Start from Find.
package bands
