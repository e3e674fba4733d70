// Package origin looks for what a spurious line could come from: another carrier of the
// radio, a clock that mixes with the carrier, an image of an intermediate frequency, its
// twin on the other side of a multiple. Each is told with how many lines chance alone
// would explain so, since with many places tried some always fit.
//
// It proves nothing: what goes away with the thing that is switched off comes from it.
// Start from Explain.
package origin
