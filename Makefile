# Everything that there is to do here. `make demo` and `make test` set up what
# they need by themselves.
export CGO_ENABLED = 0

.PHONY: demo test soak formats container bench bench-layout assets fmt build shots browser modules

demo: build
	./bin/mevrin demo --data data/demo $(ARGS)

build:
	go build -o bin/mevrin ./cmd/mevrin

# The style sheet, vendored scripts, fonts and icons, from what
# assets/package-lock.json pins.
assets: modules
	go run ./assets/contract .
	cd assets && node build.mjs

modules:
	./scripts/modules.sh

browser:
	./scripts/browser.sh

test: browser modules
	./scripts/test.sh

# Property tests with new random cases, many of them; what is shared between requests,
# with the race detector; a hundred kills amid edits; and an attack on a server of its
# own, which measures what each request takes of memory and of others' time.
soak: build browser
	go run ./e2e/attack -binary bin/mevrin
	./scripts/race.sh
	go run ./e2e/load -binary bin/mevrin
	go run ./e2e/load -binary bin/mevrin -kills 200 -for 10m
	MEVRIN_KILLS=100 go test ./e2e -run 'TestWhatWasAnswered|TestTheKillTest|TestEverythingIsWithin|TestAllThatAStop|TestTwentyPropositions|TestSixLinked|TestUndoPast|TestTwoWindowsApart|TestColoursOfOnesOwn|TestARouteIsMadeInManyWays|TestThreeWaysToAMap|TestTheEditorFits' -count=1
	go test ./format/formats -run XXX -fuzz 'FuzzRead$$' -fuzztime 10m
	go test ./core/conceptmap ./core/structure ./core/layout/... ./draw/scene ./draw/svg ./store ./core/check ./format/outline -count=1 -rapid.checks=3000 -rapid.seed=$$(date +%s) -timeout 30m

# What is written is opened by other programs; every reader is fuzzed.
formats: build
	./scripts/programs.sh
	MEVRIN_PROGRAMS=1 go test ./format/formats -run 'TestOtherPrograms|TestWordsOfEvery' -count=1 -timeout 20m

# The container is built as docs/running.md says, and used.
container: browser
	./scripts/container.sh

bench: build browser
	./scripts/bench.sh

# The patterns against general layout engines (bench/layout/README.md).
bench-layout:
	go build -o bin/bench-layout ./bench/layout
	bin/bench-layout -others
	bin/bench-layout -kept -pattern levels
	bin/bench-layout -steady -most 150

shots: build browser
	go run ./e2e/shots -binary bin/mevrin -out docs/screenshots

fmt:
	gofmt -w .
