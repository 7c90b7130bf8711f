# Wax Planus. `make demo` serves the made-up shop, `make test` runs everything.

ADDR ?= 127.0.0.1:8080
VERSION ?= 0.1.0
export CGO_ENABLED = 0
GOFLAGS_BUILD = -tags nomsgpack -trimpath -ldflags='-s -w -X main.version=$(VERSION)'
TOOL = go tool -modfile=tools/go.mod

WEB_SOURCES := $(shell find web/src web/public -type f) web/index.html web/vite.config.ts web/tsconfig.json
GO_SOURCES := api/api.go api/openapi.yaml $(shell find cmd core internal -name '*.go' -not -name '*_test.go') $(shell find core -name '*.json') go.mod go.sum
PAGES = internal/web/dist/index.html
FONTS = $(foreach f,text bold head,internal/files/fonts/$(f).ttf internal/files/fonts/$(f)-ext.ttf)
GENERATED = internal/web/api/api.gen.go web/src/api/schema.gen.d.ts docs/dependencies.md $(FONTS)

.PHONY: demo test build generate fresh bench clean

demo: bin/waxplanus
	./bin/waxplanus demo --addr '$(ADDR)'

build: bin/waxplanus

test:
	@scripts/test.sh

bin/waxplanus: $(GO_SOURCES) $(PAGES)
	go build $(GOFLAGS_BUILD) -o bin/waxplanus ./cmd/waxplanus

$(PAGES): web/node_modules/.made $(WEB_SOURCES)
	npm --prefix web run --silent build

web/node_modules/.made: web/package.json web/package-lock.json
	npm --prefix web ci --no-fund --no-audit
	touch $@

e2e/node_modules/.made: e2e/package.json e2e/package-lock.json
	npm --prefix e2e ci --no-fund --no-audit
	touch $@

# Types of both sides from the one contract, the fonts of printed papers, and the list of
# dependencies.
generate: web/node_modules/.made e2e/node_modules/.made
	$(TOOL) oapi-codegen -config api/oapi-codegen.yaml api/openapi.yaml
	npm --prefix web run --silent generate
	node scripts/fonts.mjs
	node scripts/dependencies.mjs > docs/dependencies.md

# Fails when a generated file is not what generate makes.
fresh:
	@scripts/fresh.sh $(GENERATED)

bench:
	go test -run "^$$$$" -bench . ./core/... ./internal/web

clean:
	rm -rf bin web/node_modules e2e/node_modules internal/web/dist/assets internal/web/dist/index.html internal/web/dist/mark.svg
