// Package httpapi is the application over HTTP, on Echo: one table of routes, what minds
// them (log, recover, gzip, limits, names, log-in), validation, problem responses and
// their OpenAPI description. Handlers are thin; what a person does is package app. Start
// from New.
package httpapi
