// Package strictjson reads JSON into Go structs and says everything that is
// wrong with it at once, each under its dotted path. Unlike encoding/json it
// refuses unknown and doubled names, compares names exactly, and names
// numbers that do not fit a float.
//
// It does not judge values: ranges and combinations belong to the calculations.
package strictjson
