// Package claims holds measured power against what a maker or seller claims,
// and reads claims as a person types them: "2m 25/10/5".
//
// Emissions are package judge. Start from Compare and ParseLine.
package claims
