// Package e2e drives the real interface in headless Chromium against a real
// server and database. It has only tests; `make screenshots` takes the pictures
// of the README with them.
package e2e
