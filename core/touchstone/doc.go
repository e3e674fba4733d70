// Package touchstone reads the text of .s1p, .s2p and .sNp files, versions 1
// and 2: S-parameters over frequency. It writes the losses of two-ports.
//
// It reads text, not files, and stays with S-parameters: noise data are
// skipped, other parameter kinds refused. Start from Parse and WriteLoss.
package touchstone
