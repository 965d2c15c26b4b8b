# make demo         the application with demo data on http://127.0.0.1:8080
# make test         everything: vet, format, staticcheck, unit, page and browser tests
# make screenshots  docs/screenshots from the demo data
# make bench        what reading, adapting and a page cost
# make words        every word of what a demand shuts out, in ten places of twenty recipes: some twenty minutes
# make fuzz         every fuzz target, five minutes each (FUZZTIME=30m for longer)
# make dist         what is given out, for six systems, into dist/
# make vendor       what ships with the pages, from npm into the tree

.PHONY: demo test tools screenshots bench words fuzz vendor build dist

build:
	go build -o bin/kollaris ./cmd/kollaris

demo:
	go run ./cmd/kollaris demo

test: export GOGC = 300
test: tools
	go vet ./...
	@unformatted=$$(gofmt -l .); test -z "$$unformatted" || { echo "not gofmt'd:"; echo "$$unformatted"; exit 1; }
	go mod tidy -diff
	go tool staticcheck ./...
	go test ./...

# A browser, a runner for the modules, the reference table of units and a reader of printed pages, from Debian's
# packages where missing.
tools:
	@command -v chromium-headless-shell >/dev/null || command -v chromium >/dev/null || command -v google-chrome >/dev/null || tools/apt-install.sh chromium-headless-shell fonts-dejavu-core || tools/apt-install.sh chromium fonts-dejavu-core
	@command -v node >/dev/null || tools/apt-install.sh nodejs
	@command -v units >/dev/null || tools/apt-install.sh units
	@command -v pdftotext >/dev/null || tools/apt-install.sh poppler-utils

screenshots: tools
	@mkdir -p docs/screenshots
	KOLLARIS_SCREENSHOTS=$(CURDIR)/docs/screenshots go test ./e2e -run Screenshots -count=1

bench:
	go test ./core/... ./internal/web -run XXX -bench . -benchtime 200x | grep -E 'Benchmark|^pkg'
	tools/load/bench.sh

words:
	KOLLARIS_WORDS=all go test ./core/adapt -run TestNoWordIsHandedOut -count=1 -v -timeout 60m

fuzz: FUZZTIME ?= 5m
fuzz:
	@git ls-files '*_test.go' | xargs grep -o '^func Fuzz[A-Za-z]*' | sed 's/:func / /' | while read -r file target; do \
		echo "$$target in $$(dirname $$file)"; \
		go test ./$$(dirname $$file) -run XXX -fuzz "^$$target$$" -fuzztime $(FUZZTIME) -fuzzminimizetime 1x </dev/null || exit 1; \
	done

dist:
	go run ./tools/dist dist

vendor:
	tools/vendor/vendor.sh
