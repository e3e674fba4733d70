# make demo    set everything up, load the demo, serve on http://127.0.0.1:7373
# make test    the same, then all tests
SHELL := /bin/bash
.DELETE_ON_ERROR:
.PHONY: demo demo-reset test setup build api check bench screenshots

web-sources := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json
go-sources := $(shell find . -path ./web/node_modules -prune -o -path ./.data -prune -o \( -name '*.go' -o -name '*.sql' -o -name 'page.html' \) -print) go.mod go.sum $(wildcard rulebooks/*.json)

demo: setup build
	@exec scripts/demo.sh

demo-reset: setup build
	@scripts/reset.sh
	@exec scripts/demo.sh

test: setup build
	@scripts/test.sh

setup:
	@scripts/setup.sh

build: bin/talloak

web/node_modules/.stamp: web/package.json web/package-lock.json
	cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

web/dist/index.html: web/node_modules/.stamp $(web-sources)
	cd web && npm run --silent build
	@touch $@

bin/talloak: web/dist/index.html $(go-sources)
	go build -o $@ ./cmd/talloak

# The description of the API and the types made from it.
api: web/node_modules/.stamp
	go run ./cmd/talloak openapi > httpapi/openapi.json
	go run ./cmd/talloak bench-schema > docs/bench.schema.json
	go run ./cmd/talloak edition-schema > docs/edition.schema.json
	go run ./cmd/talloak driver-schema > docs/driver.schema.json
	cd web && npm run --silent api

# What must hold beside the tests.
check: web/node_modules/.stamp
	@test -z "$$(gofmt -l $$(git ls-files '*.go'))" || { echo "gofmt has something to say about:"; gofmt -l $$(git ls-files '*.go'); exit 1; }
	go vet ./...
	go tool staticcheck ./...
	cd web && npm run --silent typecheck
	cd web && npm run --silent lint
	@$(MAKE) --no-print-directory api
	@git diff --exit-code -- httpapi/openapi.json docs/bench.schema.json docs/edition.schema.json docs/driver.schema.json web/src/shared/server/schema.gen.ts || { echo "the description of the API has drifted: commit what make api made"; exit 1; }

bench:
	go test -run '^$$' -bench . ./core/... ./httpapi ./demo

# Current pictures of the main views, from the demo, into docs/screenshots.
screenshots: build
	@TALLOAK_SCREENSHOTS=$(CURDIR)/docs/screenshots scripts/test.sh -run 'TestAnInstrumentIsTried|TestAFirstAfternoon$$|TestScreenshots' -count 1 -v ./e2e
