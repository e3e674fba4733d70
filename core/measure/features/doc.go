// Package features is what the box, manual or sales page says beside figures: yes or no, what is in
// the box, what fits. The type to start from is Draft.
package features
