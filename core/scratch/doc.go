// Package scratch is the scratch pad: calculations of the job by themselves, as they are typed, each with
// its formula in figures and where that is from. It adds no arithmetic of its own to that of the core.
// Start from All and Calc.Work.
package scratch
