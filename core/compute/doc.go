// Package compute offers the core's calculations by name, JSON in and JSON out,
// exactly as the contract of `talloak compute` and POST /api/v1/compute says.
//
// It only translates: each calculation lives in its own package. Start from
// Engine.Run.
package compute
