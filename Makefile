# Dynacor. `make demo` shows it, `make test` proves it; both install what is missing first.
SHELL := /bin/bash
.DELETE_ON_ERROR:
.PHONY: demo demo-fresh test check format generate build bench soak screenshots setup setup-test fuzz

NPM_STAMP := web/node_modules/.installed
FRONT     := web/dist/app/index.html
POCKET    := web/src/pocket/pocket.wasm
POCKET_SRC := $(shell find core internal cmd/pocket -name '*.go' ! -name '*_test.go') go.mod
BENCH     := web/src/bench/bench.wasm
BENCH_SRC := $(shell find core/bench core/drill core/elastic core/pass core/sequence core/refusal core/unit internal/trying internal/contract cmd/bench -name '*.go' ! -name '*_test.go') go.mod
FRONT_SRC := $(shell find web/src web/public -type f ! -name '*.wasm' 2>/dev/null) $(POCKET) $(BENCH) web/index.html web/vite.config.ts web/tsconfig.json

demo: build
	@exec ./bin/dynacor demo

demo-fresh: build
	@exec ./bin/dynacor demo --fresh

build: setup $(FRONT)
	go build -o bin/dynacor ./cmd/dynacor

# Debian's packages, installed only when they are missing; an ordinary user needs sudo for that once.
setup:
	@ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || scripts/install postgresql

setup-test: setup
	@command -v chromium >/dev/null || scripts/install chromium
	@command -v pdftotext >/dev/null || scripts/install poppler-utils

$(NPM_STAMP): web/package.json web/package-lock.json
	cd web && npm ci --no-fund --no-audit
	@touch $@

# The judge that devices take along. Without inlining it is a tenth smaller, and fast enough. What is the same stays as old as
# it is, so that the front end is not built anew for nothing.
$(POCKET): $(POCKET_SRC)
	GOOS=js GOARCH=wasm go build -trimpath -gcflags=all=-l -ldflags="-s -w" -o $@.new ./cmd/pocket
	cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" $(@D)/
	@cmp -s $@.new $@ && rm $@.new || mv $@.new $@

# What the Bench tries joints with. It counts more than it says, so it is inlined.
$(BENCH): $(BENCH_SRC)
	GOOS=js GOARCH=wasm go build -trimpath -ldflags="-s -w" -o $@.new ./cmd/bench
	@cmp -s $@.new $@ && rm $@.new || mv $@.new $@

$(FRONT): $(NPM_STAMP) $(FRONT_SRC)
	cd web && npm run --silent build

# The contract's Go and TypeScript types.
generate: $(NPM_STAMP)
	go tool oapi-codegen -config api/models.yaml -o internal/contract/models.gen.go api/openapi.yaml
	go tool oapi-codegen -config api/server.yaml -o internal/contract/server.gen.go api/openapi.yaml
	cd web && npm run --silent generate

check: $(NPM_STAMP)
	@test -z "$$(gofmt -l $$(git ls-files '*.go'))" || { gofmt -l $$(git ls-files '*.go'); exit 1; }
	go vet ./...
	go tool staticcheck ./...
	cd web && npm run --silent check

format: $(NPM_STAMP)
	gofmt -w $$(git ls-files '*.go')
	cd web && npm run --silent format

test: setup-test $(FRONT) check
	cd web && npm run --silent test
	go test -timeout 30m ./...

bench: setup-test build
	go test -run '^$$' -bench . -benchmem ./core/...
	DYNACOR_BENCH=1 go test -run 'TestMeasure' -count 1 -v ./e2e

# Kills server and database at random while twelve people work; SOAK=30m for longer.
SOAK ?= 5m
soak: setup-test build
	DYNACOR_SOAK=$(SOAK) go test -run TestSoak -count 1 -timeout 2h -v ./e2e

screenshots: setup-test build
	go run ./e2e/shots

# Every fuzz target, one after the other; FUZZTIME=5m for longer.
FUZZTIME ?= 60s
fuzz:
	@set -eo pipefail; for f in $$(grep -rlE '^func Fuzz' --include='*_test.go' core internal | sort); do \
	  for t in $$(grep -hoE '^func Fuzz[A-Za-z0-9]+' $$f | cut -c6-); do \
	    echo "$$f $$t"; go test ./$$(dirname $$f) -run '^$$' -fuzz "^$$t\$$" -fuzztime $(FUZZTIME) -fuzzminimizetime 1s | tail -3; \
	  done; done
