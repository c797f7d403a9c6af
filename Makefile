# Two commands matter: make demo, make test. The rest serves them.
.DEFAULT_GOAL := help
SHELL := /bin/bash
TOOL := go tool -modfile=tools/go.mod

help: ## list the commands
	@grep -hE '^[a-z-]+:.*## ' $(MAKEFILE_LIST) | sed 's/:.*## /\t/' | expand -t 14

demo: ## install what is missing, build, serve the demonstration on 127.0.0.1:8080
	@scripts/install.sh demo
	@$(MAKE) --no-print-directory build
	@exec bin/obturon demo

serve: ## install what is missing, build, serve a practice of your own (see the README)
	@scripts/install.sh demo
	@$(MAKE) --no-print-directory build
	@exec bin/obturon serve

test: ## everything: generated code, lint, Go, front end, browser
	@scripts/install.sh test
	@scripts/test.sh

build: web/dist/index.html bin/obturon ## build the front end and the binary

bin/obturon: $(shell find cmd core internal web/embed.go go.mod -type f -not -name '*_test.go') web/dist/index.html
	go build -o $@ ./cmd/obturon

web/node_modules/.package-lock.json: web/package-lock.json
	cd web && npm ci --no-audit --no-fund --loglevel=error
	ln -sfn ../web/node_modules e2e/node_modules

web/dist/index.html: web/node_modules/.package-lock.json $(shell find web/src web/public web/index.html web/vite.config.ts scripts/precompress.mjs -type f)
	rm -rf web/dist/assets web/dist/index.html.*
	cd web && npm run --silent build

generate: web/node_modules/.package-lock.json ## regenerate code and schemas from the contract and the core's values
	node scripts/criterion-ids.mjs
	go run ./internal/document/generate
	$(TOOL) oapi-codegen -config internal/document/oapi-codegen.yaml internal/document/openapi.yaml
	$(TOOL) oapi-codegen -config internal/api/oapi-codegen.yaml .data/generate/server.yaml
	cd web && npm run --silent generate

lint: web/node_modules/.package-lock.json ## all linters of both languages (building golangci-lint takes minutes once)
	$(TOOL) golangci-lint run ./...
	cd web && npm run --silent check

fuzz: ## fuzz the readers, half a minute each, and every door of the server
	go test ./internal/document -run '^$$' -fuzz FuzzReadCase -fuzztime 30s
	go test ./internal/document -run '^$$' -fuzz FuzzReadKit -fuzztime 30s
	go test ./core/notation -run '^$$' -fuzz FuzzParse -fuzztime 30s
	go test ./core/school -run '^$$' -fuzz FuzzRead -fuzztime 30s
	go test ./core/solid -run '^$$' -fuzz FuzzBurPaths -fuzztime 30s
	go test ./internal/document -run '^$$' -fuzz FuzzCheckText -fuzztime 30s
	go test ./internal/api -run '^$$' -fuzz FuzzEveryDoor -fuzztime 2m

load: ## 64 people drag for a minute: how long answers take, how much memory there is
	OBTURON_LOAD=1m go test ./internal/api -run TestManyDragAtOnce -count 1 -v | grep -v '^time='

golden: ## compare every recorded plan (338 of them) with what is planned now
	OBTURON_GOLDEN=all go test ./internal/plan -run TestPlansAreAsRecorded -count 1 -timeout 60m

random: ## make up RANDOM cases (2400) from SEED (1) on and plan them; lists the refusals
	OBTURON_RANDOM=$(or $(RANDOM),2400) OBTURON_SEED=$(or $(SEED),1) go test ./internal/plan -run RandomCasesStandUp -count 1 -timeout 60m -v | grep -v '^time='

usual: ## plan USUAL usual cases (300) from SEED (1) on; lists misses and nears by check
	OBTURON_USUAL=$(or $(USUAL),300) OBTURON_SEED=$(or $(SEED),1) go test ./internal/plan -run UsualProposals -count 1 -timeout 60m -v | grep -v "^time="

tables: ## rehearse every tooth of QUADRANTS (12345678) in every class (an hour); lists what the kit does not make
	OBTURON_TABLES=$(or $(QUADRANTS),12345678) go test ./internal/plan -run "EveryToothInEveryClass|ClassTablesAreRehearsed|DovetailAndGroovesHold|FillingsOfTheClassTables|HangOnTheGrid" -count 1 -timeout 180m -v | grep -v '^time='

bench: ## the kernel's figures beside their targets, and peers where installed (npm install in bench/)
	@node bench/run.mjs

screenshots: build ## refresh docs/screenshots from the demonstration
	cd web && OBTURON_SHOTS=1 npx playwright test --config ../e2e/playwright.config.ts screenshots

.PHONY: help demo serve test build generate lint fuzz load golden random usual tables bench screenshots
