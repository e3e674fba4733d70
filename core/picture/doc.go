// Package picture reads figures off a picture of a screen: two clicks set each axis, and a
// place on the picture is then a frequency and a level, with how well it is read.
//
// Start from Axes.
package picture
