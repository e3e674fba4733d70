// Package scripts has the shell scripts behind the make targets, and tests of
// them: that they say plainly what is in the way, and leave nothing running.
package scripts
