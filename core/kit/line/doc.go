// Package line reads what is typed of the bench in one line: a thing with its figures, such as `pad
// 40dB 10W 3GHz 0.5`, and a path as the parts that it is made of, such as `jumper, pad 40, analyzer`.
// It keeps nothing. Start from Read and Path.
package line
