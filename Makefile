# Two commands are enough: make demo, make test. What is missing on the
# machine is installed; what is there is left alone.

GO   ?= go
NPM  ?= npm
ADDR ?= 127.0.0.1:8460

# Front-end sources; the build goes into the binary.
WEB_SOURCES := $(shell find web/src web/public web/index.html -type f 2>/dev/null)

.DELETE_ON_ERROR:
.PHONY: outside cross demo serve build dist test soak faults load growth mutate replica lint types tests bench compare screenshots clean tools browser-tools

demo: build
	./bin/nexufix demo --addr $(ADDR)

serve: build
	./bin/nexufix serve --addr $(ADDR)

build: bin/nexufix

# Go decides by itself what has to be compiled again.
.PHONY: bin/nexufix
bin/nexufix: web/dist/index.html | tools
	$(GO) build -o $@ ./cmd/nexufix

# This version, kept by its commit beside those before it: nexufix verify --dist lets the one that made a document judge it again. And what
# is handed out of it: archives, packages, checksums, licences, what is in it (packaging/release).
dist: web/dist/index.html | tools
	@command -v dpkg-deb >/dev/null || sh .ci/debian-install dpkg-dev
	@test -z "$$(git status --porcelain)" || { echo "there are changes that are not committed: what is kept has a commit"; exit 1; }
	@rev=$$(git rev-parse HEAD | cut -c1-12); mkdir -p dist; test -e dist/nexufix-$$rev || { \
	$(GO) build -trimpath -buildvcs=true -o dist/nexufix-$$rev ./cmd/nexufix && (cd dist && sha256sum nexufix-$$rev >> SHA256SUMS); }; echo dist/nexufix-$$rev
	GO="$(GO)" sh packaging/release

web/dist/index.html: go.sum web/node_modules/.installed web/vite.config.ts web/tsconfig.json $(WEB_SOURCES)
	cd web && $(NPM) run --silent build
	$(GO) run ./cmd/licences > web/dist/assets/licences.txt

web/node_modules/.installed: web/package.json web/package-lock.json | tools
	cd web && $(NPM) ci --no-audit --no-fund --loglevel=error
	touch $@

test: build lint browser-tools
	$(GO) test ./... -timeout 40m $(if $(FUSE),,-skip FaultyDisk)
	$(GO) test -race ./core/workers ./store ./server -run '$(RACING)' -timeout 20m
	@test -n "$(FUSE)" || echo "Not checked here, as there is no /dev/fuse: a disk that fails at any call (TestFaultyDisk)."
	@echo "All tests passed."

# A disk that fails at any call is tried through FUSE, where there is one.
FUSE := $(shell test -w /dev/fuse && echo yes)

# The tests of many at once, which are run under the race detector as well.
RACING = Many|Taken|Busy|Another|Waiting|Panic

# The long form of the tests that try many things: hours of use in minutes.
soak: build browser-tools
	$(GO) test ./server -run 'Random|ManyWriters|Hostile|ModelOfRights' -timeout 180m -count=1 -v -args -long
	$(GO) test ./cmd/nexufix -run Killed -count=1 -v
	$(GO) test ./cmd/nexufix -run BenchmarksAreThere -timeout 60m -args -long
	NEXUFIX_LONG=1 $(GO) test ./core/... -timeout 60m -count=1
	$(GO) test -race ./core/... ./app/... ./store ./exchange/... ./server -timeout 180m -count=1
	for target in FuzzRead FuzzMatch FuzzPlace FuzzSteps; do $(GO) test ./exchange -run xxx -fuzz "^$$target\$$" -fuzztime $(FUZZ) || exit 1; done
	for target in FuzzOpen FuzzSafe; do $(GO) test ./exchange/tabular -run xxx -fuzz "^$$target\$$" -fuzztime $(FUZZ) || exit 1; done
	$(GO) test ./core/quantity -run xxx -fuzz FuzzParse -fuzztime $(FUZZ)
	$(GO) test ./core/probe -run xxx -fuzz FuzzSolve -fuzztime $(FUZZ)

FUZZ ?= 5m

# A disk that fails at any call: FUSE, as root.
faults:
	NEXUFIX_FAULTS=10000 $(GO) test ./store -run FaultyDisk -count=1 -v -timeout 60m

# Many people at once, and how long they wait. By hand, when the machine has nothing else to do.
load: build
	$(GO) run ./e2e/load

# Limits that no test holds: mutants of each package against its own tests, 40 drawn by lot of each (SAMPLE=0: all, which takes days). By hand.
mutate:
	$(GO) run ./e2e/mutate -sample $(or $(SAMPLE),40) $(or $(PACKAGES),$(shell $(GO) list -f '{{.Dir}}' ./core/... | sed "s|$(CURDIR)/||"))

# A database after years: 100,000 displays and approvals, a million writes. By hand; about half an hour.
growth:
	$(GO) run ./e2e/growth

# Continuous copying by Litestream, tried: the writer is killed under load, and
# what was acknowledged is looked for in the copy. By hand; it builds Litestream.
replica: build
	test -x bin/litestream || GOBIN=$(CURDIR)/bin $(GO) install github.com/benbjohnson/litestream/cmd/litestream@v0.5.18
	$(GO) run ./e2e/replica -litestream bin/litestream
	$(GO) run ./e2e/replica -litestream bin/litestream -to bucket

# Format, vet, staticcheck, errors that nobody looks at, tangles, eslint, tsc, and whether the front end's types are
# those of the API.
lint: web/node_modules/.installed
	@test -z "$$(gofmt -l cage lease seal cmd core demo e2e exchange app language render server standins store version web/*.go)" || { gofmt -l cage lease seal cmd core demo e2e exchange app language render server standins store version web/*.go; echo "run gofmt -w on these"; exit 1; }
	$(GO) vet ./...
	$(GO) vet -tags outside ./e2e
	$(GO) tool staticcheck ./...
	$(GO) tool errcheck -ignoretests -exclude .ci/errcheck.txt ./...
	$(GO) tool gocyclo -over 30 -ignore '_test|node_modules' .
	cd web && $(NPM) run --silent lint && $(NPM) run --silent check
	$(GO) run ./cmd/nexufix openapi > web/openapi.json.tmp
	cd web && npx --no-install openapi-typescript openapi.json.tmp -o node_modules/.api.d.ts >/dev/null
	@cmp -s web/node_modules/.api.d.ts web/src/gen/api.d.ts || { echo "web/src/gen/api.d.ts is stale: run make types"; exit 1; }
	@$(GO) run ./cmd/comments | cmp -s - server/comments.json || { echo "server/comments.json is stale: run make types"; exit 1; }
	cd web && npx --no-install redocly lint --config ../.ci/redocly.yaml openapi.json.tmp >node_modules/.redocly 2>&1 || { cat node_modules/.redocly; exit 1; }
	cd web && npx --no-install spectral lint --ruleset ../.ci/spectral.yaml --fail-severity=warn --quiet openapi.json.tmp
	node .ci/schemas.cjs
	@for of in en de; do $(GO) run ./cmd/nexufix words $$of | cmp -s - web/src/gen/words.$$of.ts || { echo "web/src/gen/words.$$of.ts is stale: run make types"; exit 1; }; done
	cp web/src/locales/de.po web/node_modules/.de.po && cd web && npx --no-install lingui extract >/dev/null && cmp -s src/locales/de.po node_modules/.de.po || { echo "web/src/locales/de.po is stale: run make types, and translate what is new"; exit 1; }

# Whether it builds for the other systems that it runs on. It takes minutes the first time.
cross:
	for of in darwin/arm64 windows/amd64 linux/arm64; do echo $$of; GOOS=$${of%/*} GOARCH=$${of#*/} CGO_ENABLED=0 $(GO) build -o /dev/null ./cmd/nexufix || exit 1; done

# Generates the front end's types from the API's Go types.
types: web/node_modules/.installed
	$(GO) run ./cmd/comments > server/comments.json.tmp && mv server/comments.json.tmp server/comments.json
	$(GO) run ./cmd/nexufix openapi > web/openapi.json.tmp
	cd web && npx --no-install openapi-typescript openapi.json.tmp -o src/gen/api.d.ts
	for of in en de; do $(GO) run ./cmd/nexufix words $$of > web/src/gen/words.$$of.ts || exit 1; done
	cd web && npx --no-install lingui extract --clean
	$(GO) run ./cmd/nexufix schema docs/schema

bench: build
	$(GO) test -run '^$$' -bench . -benchmem ./core/... ./app/... ./server

# The matrix beside a SQLite query and a sheet of LibreOffice Calc, by hand.
compare: tools
	command -v soffice >/dev/null || sh .ci/debian-install libreoffice-calc
	$(GO) run ./e2e/compare

# Takes the pictures in docs/screenshots anew, from the demo data.
screenshots: build browser-tools
	$(GO) run ./e2e/shots

clean:
	rm -rf bin web/dist/* web/node_modules

# Debian packages, only where a command is missing; then whether Go and Node are new
# enough, which those of older Debians are not.
tools:
	@need=""; \
	command -v git >/dev/null || need="$$need git"; \
	command -v $(NPM) >/dev/null || need="$$need nodejs npm"; \
	command -v $(GO) >/dev/null || need="$$need golang-go"; \
	test -z "$$need" || sh .ci/debian-install $$need
	@sh .ci/new-enough Go 1.26 "$$($(GO) env GOVERSION)" "Debian's own may be older: take it from the Go project."
	@sh .ci/new-enough Node 20.19 "$$(node --version)" "Debian's own may be older: take it from the Node project."

# The page in Firefox and WebKit, and a client that oapi-codegen makes: what make test does not need.
outside: build
	command -v firefox-esr >/dev/null && command -v WebKitWebDriver >/dev/null && command -v xvfb-run >/dev/null || \
		sh .ci/debian-install firefox-esr webkit2gtk-driver xvfb
	$(GO) test -tags outside ./e2e -run 'TestOtherBrowsers|TestGeneratedClient' -timeout 20m

browser-tools:
	@need=""; \
	command -v chromium-headless-shell >/dev/null || need="$$need chromium-headless-shell"; \
	command -v gcc >/dev/null || need="$$need gcc libc6-dev"; \
	command -v pdftoppm >/dev/null || need="$$need poppler-utils"; \
	command -v qpdf >/dev/null || need="$$need qpdf"; \
	command -v zbarimg >/dev/null || need="$$need zbar-tools"; \
	command -v fusermount3 >/dev/null || need="$$need fuse3"; \
	command -v openssl >/dev/null || need="$$need openssl"; \
	command -v units >/dev/null || need="$$need units"; \
	/usr/bin/python3 -c "import ezdxf" 2>/dev/null || need="$$need python3-ezdxf"; \
	command -v ogrinfo >/dev/null || need="$$need gdal-bin"; \
	command -v soffice >/dev/null || need="$$need libreoffice-calc"; \
	test -z "$$need" || sh .ci/debian-install $$need
