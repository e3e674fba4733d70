// Package httpapi offers the store, the dossier and the core over HTTP: routes,
// validation, problem responses and their OpenAPI description. Handlers are
// thin; nothing is calculated here. Start from New.
package httpapi
