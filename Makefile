# Two commands do everything: `make demo` builds and starts the demo, `make test` passes the tests.
SHELL := /bin/bash
.DEFAULT_GOAL := build

# What a release is built for, and what it is called: the commit, where no tag stands on it.
PLATFORMS ?= linux/amd64 linux/arm64 darwin/amd64 darwin/arm64 windows/amd64 windows/arm64
VERSION ?= $(shell git describe --tags --always --dirty 2> /dev/null || echo unversioned)

.PHONY: release check-release build demo test web lint lint-go lint-web generate check-generated test-go test-web test-e2e \
  test-slow test-race-server test-race-program test-race-core test-benchmarks test-mutants mutants speed screenshots \
  chromium clean

# Everything is built in one way, so that it is compiled once: as a release is, without a C compiler, and without a
# format of the web framework that nothing here speaks and whose package takes longest of all to compile.
export GOFLAGS := $(strip $(shell go env GOFLAGS) -trimpath -tags=nomsgpack)
export CGO_ENABLED := 0

node_modules/.stamp: package-lock.json
	npm ci --no-audit --no-fund
	touch $@

web: node_modules/.stamp
	npm run --silent -w web build

build: web
	go build -o bin/envex ./cmd/envex

demo: build
	./bin/envex demo $(ARGS)

# What is made from the Go types: the OpenAPI document, the file schema, the client's types; and the licences of all that
# ships.
generate: node_modules/.stamp
	mkdir -p bin
	go run ./cmd/envex openapi > docs/openapi.json
	go run ./cmd/envex schema > docs/envex.schema.json
	npm run --silent -w web types
	go run ./cmd/licences > bin/licences.json && mv bin/licences.json about/licences/licences.json

# Fails when what is made from the types is stale.
check-generated: node_modules/.stamp
	mkdir -p bin/fresh
	go run ./cmd/envex openapi > bin/fresh/openapi.json
	diff -u docs/openapi.json bin/fresh/openapi.json
	npx openapi-typescript docs/openapi.json -o bin/fresh/schema.gen.ts > /dev/null
	diff -u web/src/api/schema.gen.ts bin/fresh/schema.gen.ts
	go run ./cmd/licences > bin/fresh/licences.json
	diff -u about/licences/licences.json bin/fresh/licences.json

lint: lint-go lint-web

lint-go:
	test -z "$$(gofmt -l about access api cmd core demo disk examples golden lan page store web worked)" || { gofmt -l about access api cmd core demo disk examples golden lan page store web worked; exit 1; }
	go tool staticcheck ./...

lint-web: node_modules/.stamp
	npx biome check --error-on-warnings .
	npm run --silent -w web check
	npx tsc --noEmit -p e2e

# What properties are tried with changes from day to day, and can be tried again.
export RAPID_SEED ?= $(shell date +%Y%m%d)
# Of each property so many cases: another seed every day tries others.
export RAPID_CHECKS ?= 40

# The race detector needs a C compiler. The database itself is left out of what it watches: it locks by itself, and takes
# four times as long when it is watched.
race = CGO_ENABLED=1 go test -race -vet=off -gcflags='modernc.org/...=-race=false'

# The packages that have benchmarks: the tests of each that is named are linked anew.
benchmarked = $$(grep -rl 'func Benchmark' --include=*_test.go core | xargs -n1 dirname | sort -u | sed 's|^|./|')

# Every check of go vet runs with the tests, so that dependencies are read once.
test-go:
	@echo "seed of the properties: RAPID_SEED=$(RAPID_SEED)"
	go test -vet=all ./core/signal ./api ./cmd/envex ./... # those that take longest begin first
	$(beside) test-race-server test-race-program test-race-core test-benchmarks test-mutants

# The race detector watches what is concurrent: the store, the server and its work, and the tests named for it.
test-race-server:
	$(race) -short ./store ./api

test-race-program:
	$(race) -short -run 'AtOnce|Stopping|SecondProgram|Restart|Served|Serving|Running' ./cmd/envex

test-race-core:
	$(race) -run 'Concurrent|Pages' ./core/switching ./core/signal

test-benchmarks:
	go test -vet=off -short -run '^$$' -bench . -benchtime 1x $(benchmarked)

test-mutants:
	go run ./cmd/mutants -n 2 -seed $(RAPID_SEED) -least 0.5 -timeout 20s ./core/operation ./core/midi ./core/wav

# Plants mistakes of one line, one at a time, and says which the tests of their package do not find: some hours for all.
MUTANTS ?= 100
mutants:
	go run ./cmd/mutants -n $(MUTANTS) -seed $(RAPID_SEED) $$(ls -d core/*/ | sed 's|^|./|; s|/$$||' | grep -v '^./core/testdata$$') ./store ./api
	npm run --silent -w web mutants -- $(MUTANTS) $(RAPID_SEED)

test-web: node_modules/.stamp
	npm run --silent -w web test

# The accessibility tests at once, everything else with slow hands: each browser test runs once.
test-e2e: build chromium
	npm run --silent -w e2e test

test-slow: build chromium
	npm run --silent -w e2e test -- --project='slow hands'

# Times what the hand waits for, and keeps the table in docs/speed.md.
speed: build chromium
	SPEED_DOC=1 npm run --silent -w e2e test -- --project=speed --workers=1

# What waits for the disk, the network or one core goes beside what computes.
beside = $(MAKE) --no-print-directory --output-sync=target -j2

test:
	$(beside) lint-go lint-web test-web chromium
	$(MAKE) --no-print-directory check-generated test-go test-e2e check-release

# One file for each system that needs nothing else, with checksums: the same bytes from the same commit, wherever it is
# built.
release: web
	rm -rf dist && mkdir -p dist
	set -e; for p in $(PLATFORMS); do \
	  name=envex-$(VERSION)-$${p%/*}-$${p#*/}; [ $${p%/*} != windows ] || name=$$name.exe; \
	  GOOS=$${p%/*} GOARCH=$${p#*/} go build -buildvcs=false -ldflags '-s -w -X envex/about.version=$(VERSION)' -o dist/$$name ./cmd/envex; \
	done
	cd dist && sha256sum envex-* > SHA256SUMS

# The release for this machine is built, starts, says what it is, and comes out the same from another folder.
check-release:
	./release-check

# Chromium without a window needs two thirds of the time; the one with a window does as well. The tests look for both.
chromium:
	@test -x $(or $(CHROMIUM),/usr/bin/chromium-headless-shell) || { apt-get update && apt-get install -y --no-install-recommends chromium-headless-shell; } || test -x /usr/bin/chromium

# One picture of each view from the demo data.
screenshots: build chromium
	npm run --silent -w e2e screenshots

clean:
	rm -rf bin dist node_modules web/dist/assets
