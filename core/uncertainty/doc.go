// Package uncertainty combines the parts of a measurement's uncertainty, line
// by line, after JCGM 100:2008 (the GUM). Everything is relative in power, so
// that lines from percent, watts and decibels add.
//
// Which parts a reading has is decided where the reading is made (package
// reading, package path). Start from Budget.
package uncertainty
