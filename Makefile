.PHONY: demo test bench build tools test-tools web web-packages client service quick-service whole compiled format

# The service and its pages, compiled side by side to be run and nothing else.
demo: tools
	@$(MAKE) --no-print-directory -j2 quick-service web
	@scripts/demo.sh

# Everything, looked at by analyzers and type checks; the service as it is delivered.
test: test-tools
	@scripts/test.sh

bench: test-tools service web client
	@scripts/compile.sh build bench/BrightTier.Bench -c Release --nologo -v q
	@dotnet publish bench/Smallest -c Release -r linux-x64 -o out/smallest --nologo -v q
	@BRIGHTTIER_SERVICE=$(CURDIR)/out/service/BrightTier.Service.dll dotnet bench/BrightTier.Bench/bin/Release/net10.0/BrightTier.Bench.dll

build: tools service web client

tools:
	@scripts/tools.sh

test-tools:
	@scripts/tools.sh tests
	@scripts/foreign-schemas.sh

# The OpenAPI document comes out of the service's build; the front end's types come out of the document, of which docs/ keeps what was looked at.
openapi: whole
	@cp out/openapi/BrightTier.Service.json docs/openapi.json
	@npm --prefix web run --silent api
	@node scripts/api-calls.mjs
.PHONY: openapi

# The reference of all commands, as a page and as a man page, out of the client itself.
commands:
	@./brighttier reference > docs/commands.md
	@./brighttier reference --format man > docs/brighttier.1
.PHONY: commands

service:
	@scripts/compile.sh publish src/BrightTier.Service -c Release -p:ToRun=true -o out/service --nologo -v q

# Compiled ahead it starts a second sooner and takes half a minute longer to build: not for a first look.
quick-service:
	@echo "Building the service and its pages ..."
	@scripts/compile.sh publish src/BrightTier.Service -c Release -p:ToRun=true -p:Precompiled=false -o out/service --nologo -v q

whole: web-packages compiled
	@npm --prefix web run --silent build

# All C#, with analyzers and the OpenAPI document; the service as it is delivered.
compiled:
	@scripts/compile.sh build BrightTier.slnx -c Release --nologo -v q
	@dotnet publish src/BrightTier.Service -c Release --no-build -o out/service --nologo -v q

web-packages: web/node_modules/.bin/vitest

web: web/node_modules/.bin/vite
	@npm --prefix web run --silent build

# What draws pages comes first and alone; what looks at them only for the tests.
web/node_modules/.bin/vite: web/package-lock.json
	@npm --prefix web ci --silent --omit=dev
	@touch $@

web/node_modules/.bin/vitest: web/package-lock.json
	@npm --prefix web ci --silent
	@touch $@ web/node_modules/.bin/vite

# The client as a program of its own, which needs gcc; ./brighttier does without.
client: out/cli/brighttier

out/cli/brighttier: $(shell find src/BrightTier.Cli src/BrightTier.Client src/BrightTier.Contracts src/BrightTier.Core -name '*.cs' -not -path '*/obj/*' -o -name '*.csproj') Directory.Packages.props
	@dotnet publish src/BrightTier.Cli -c Release -r linux-x64 -p:Native=true -o out/cli --nologo -v q

# Where lines break is not a matter of taste: the tests refuse what these would change.
format: web-packages
	@dotnet tool restore >/dev/null
	@dotnet csharpier format src tests bench fuzz
	@cd web && npx prettier --write . --log-level warn

formatted:
	@dotnet tool restore >/dev/null
	@dotnet csharpier check src tests bench fuzz
.PHONY: formatted

# The conformance data both evaluators are held to, made anew from the package, and the trees that travel to the browser.
vectors: web/node_modules/.bin/vitest
	@node scripts/cel-vectors.mjs
	@dotnet build tests/BrightTier.Core.Tests -c Release --nologo -v q
	@BRIGHTTIER_WRITE_VECTORS=1 dotnet tests/BrightTier.Core.Tests/bin/Release/net10.0/BrightTier.Core.Tests.dll -noColor -method "*carr*" -method "*hold_what*" -method "*take_the_values*"
	@BRIGHTTIER_WRITE_VECTORS=1 dotnet tests/BrightTier.Core.Tests/bin/Release/net10.0/BrightTier.Core.Tests.dll -noColor -class "*.LayoutVectorTests" || true
	@cd web && BRIGHTTIER_WRITE_VECTORS=1 npx vitest run layout/tests/vectors.test.ts form/tests/folds.test.ts

# How much of the code the tests go over without a browser, and the ten files where least. Built apart: what counts is slower.
COVERED = Core Service
coverage: test-tools whole
	@rm -rf out/coverage && mkdir -p out/coverage
	@-npm --prefix web run --silent coverage
	@for project in $(COVERED); do \
	  scripts/compile.sh build tests/BrightTier.$$project.Tests -c Release -p:Coverage=true -p:ToRun=true --artifacts-path out/coverage/build --nologo -v q && \
	  BRIGHTTIER_SERVICE=$(CURDIR)/out/service/BrightTier.Service.dll dotnet out/coverage/build/bin/BrightTier.$$project.Tests/release/BrightTier.$$project.Tests.dll \
	    --no-progress --coverage --coverage-output-format cobertura --coverage-output $(CURDIR)/out/coverage/$$project.xml > out/coverage/$$project.log || tail -n 5 out/coverage/$$project.log; \
	done
	@node scripts/coverage.mjs out/coverage
.PHONY: coverage

# What must survive, in full: 200 kills on either database, thousands of streams, an hour of a working day, mutated input for
# ten minutes. Takes two hours.
endure: test-tools whole
	@BRIGHTTIER_SERVICE=$(CURDIR)/out/service/BrightTier.Service.dll BRIGHTTIER_ENDURE_KILLS=200 BRIGHTTIER_ENDURE_STREAMS=8000 BRIGHTTIER_ENDURE_RELEASES=50 BRIGHTTIER_ENDURE_COST=2000 BRIGHTTIER_ENDURE_TEXTS=1 dotnet tests/BrightTier.Service.Tests/bin/Release/net10.0/BrightTier.Service.Tests.dll -noColor -class "*.EnduranceTests" -class "*.SurvivalTests" -class "*.ProcessesTests" -class "*.LostProcessTests" -class "*.BackupTests" -class "*.TogetherTests" -class "*.DamageTests" -class "*.CostTests" -class "*.HostileTextTests" -class "*.GuardTests" -showliveoutput
	@$(MAKE) --no-print-directory people MINUTES=60
	@BRIGHTTIER_ENDURE_TEXTS=1 dotnet tests/BrightTier.Core.Tests/bin/Release/net10.0/BrightTier.Core.Tests.dll -noColor -class "*.TextTests" -class "*.CostlyFileTests"
	@$(MAKE) fuzz SECONDS=600
.PHONY: endure

# 50 designers, 10,000 open forms, saves and a release a minute, for so many minutes: make people MINUTES=10 FORMS=10000 PROCESSES=3
people: test-tools service
	@scripts/compile.sh build bench/BrightTier.Bench -c Release --nologo -v q
	@BRIGHTTIER_SERVICE=$(CURDIR)/out/service/BrightTier.Service.dll dotnet bench/BrightTier.Bench/bin/Release/net10.0/BrightTier.Bench.dll people $(or $(MINUTES),10) $(or $(FORMS),10000) $(or $(PROCESSES),1)
.PHONY: people

# Mutated input for so many seconds, then random records and conditions in the service and in the browser: make fuzz SECONDS=300. SEED makes
# a run again.
fuzz: test-tools whole
	@dotnet build fuzz/BrightTier.Fuzz.csproj -c Release --nologo -v q
	@dotnet fuzz/bin/Release/net10.0/BrightTier.Fuzz.dll $(or $(SECONDS),60) $(SEED)
	@BRIGHTTIER_SERVICE=$(CURDIR)/out/service/BrightTier.Service.dll BRIGHTTIER_ENDURE_DECISIONS=$$(($(or $(SECONDS),60) / 20)) dotnet tests/BrightTier.EndToEnd.Tests/bin/Release/net10.0/BrightTier.EndToEnd.Tests.dll -noColor -class "*.DecisionTests"
.PHONY: fuzz
