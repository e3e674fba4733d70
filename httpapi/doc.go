// Package httpapi is the application over HTTP. There is one server, Echo, and one way in for whatever
// speaks JSON: Huma sits on Echo (adapter.go), so that each operation is registered once (routes.go, and
// kinds.go and compute.go for what follows from their lists) and its validation, its problem responses
// and its OpenAPI description all come of that. What is no JSON is registered on Echo itself, beside its
// description: files of up to 64 MiB and photographs, which are the body as it is, server-sent events,
// log-in, and the front end. What minds them all (log, recover, gzip, limits, names, log-in) is Echo's
// middleware in server.go and guard.go.
//
// Handlers are thin; what a person does is package app. Start from New.
package httpapi
