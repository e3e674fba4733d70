// Package reading turns what a power meter showed into the power at the radio's
// antenna connector, with a budget of its uncertainty and what is odd about it.
//
// Whether that makes the claim is package claims. Start from Refer.
package reading
