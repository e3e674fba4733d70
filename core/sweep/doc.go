// Package sweep holds spectrum traces as an analyzer displayed them: reading
// them from CSV, their noise floor, the lines that stand out of it, and evenly
// spaced combs among those.
//
// It does not know a path or a limit; that is package judge. Start from Trace
// and ParseCSV.
package sweep
