// Package drawing draws pictures once for SVG, PNG and PDF: on a Sheet, in the house's inks and faces, with gonum's
// vg underneath. What a picture shows is said elsewhere; here lives how a line, a word or the shape of a ruling
// comes onto paper.
//
// Start from Picture.
package drawing
