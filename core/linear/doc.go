// Package linear has what is known at points and supposed straight between them: losses
// in tables and files over frequency, measured losses, reflections. The numerics are
// those of gonum's interp. Start with Through.
package linear
