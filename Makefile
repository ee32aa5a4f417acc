.PHONY: vectors demo test build bench tools test-tools web client service format

demo: build
	@scripts/demo.sh

test: test-tools build tests-build
	@scripts/test.sh

bench: build
	@dotnet build bench/BrightTier.Bench -c Release --nologo -v q
	@dotnet publish bench/Smallest -c Release -r linux-x64 -o out/smallest --nologo -v q
	@BRIGHTTIER_SERVICE=$(CURDIR)/out/service/BrightTier.Service.dll dotnet bench/BrightTier.Bench/bin/Release/net10.0/BrightTier.Bench.dll

build: tools service web client

tools:
	@scripts/tools.sh

test-tools:
	@scripts/tools.sh tests

# The OpenAPI document comes out of the service's build; the front end's types come out of the document, of which docs/ keeps what was looked at.
openapi: service
	@cp out/openapi/BrightTier.Service.json docs/openapi.json
	@npm --prefix web run --silent api
.PHONY: openapi

service:
	@dotnet build src/BrightTier.Service -c Release --nologo -v q
	@dotnet publish src/BrightTier.Service -c Release -r linux-x64 --self-contained false -p:PublishReadyToRun=true -p:OpenApiGenerateDocumentsOnBuild=false -o out/service --nologo -v q

web: web/node_modules/.package-lock.json service
	@npm --prefix web run --silent build

web/node_modules/.package-lock.json: web/package-lock.json
	@npm --prefix web ci --silent
	@touch $@

client: out/cli/brighttier

out/cli/brighttier: $(shell find src/BrightTier.Cli src/BrightTier.Client src/BrightTier.Contracts src/BrightTier.Core -name '*.cs' -not -path '*/obj/*' -o -name '*.csproj') Directory.Packages.props
	@dotnet publish src/BrightTier.Cli -c Release -r linux-x64 -o out/cli --nologo -v q

.PHONY: tests-build
tests-build:
	@for project in Core Service EndToEnd; do dotnet build tests/BrightTier.$$project.Tests -c Release --nologo -v q || exit 1; done

format:
	@dotnet format --no-restore

# The conformance data both evaluators are held to, made anew from the package, and the trees that travel to the browser.
vectors: web/node_modules/.package-lock.json
	@node scripts/cel-vectors.mjs
	@dotnet build tests/BrightTier.Core.Tests -c Release --nologo -v q
	@BRIGHTTIER_WRITE_VECTORS=1 dotnet tests/BrightTier.Core.Tests/bin/Release/net10.0/BrightTier.Core.Tests.dll -noColor -method "*carr*" -method "*hold_what*"

# What must survive, in full: 200 kills on either database, thousands of streams, mutated input for ten minutes. Takes more than half an hour.
endure: test-tools service
	@dotnet build tests/BrightTier.Service.Tests -c Release --nologo -v q
	@BRIGHTTIER_SERVICE=$(CURDIR)/out/service/BrightTier.Service.dll BRIGHTTIER_ENDURE_KILLS=200 BRIGHTTIER_ENDURE_STREAMS=8000 BRIGHTTIER_ENDURE_RELEASES=50 BRIGHTTIER_ENDURE_COST=2000 BRIGHTTIER_ENDURE_TEXTS=1 dotnet tests/BrightTier.Service.Tests/bin/Release/net10.0/BrightTier.Service.Tests.dll -noColor -class "*.EnduranceTests" -class "*.SurvivalTests" -class "*.ProcessesTests" -class "*.BackupTests" -class "*.TogetherTests" -class "*.DamageTests" -class "*.CostTests" -class "*.HostileTextTests" -class "*.GuardTests" -showliveoutput
	@dotnet build tests/BrightTier.Core.Tests -c Release --nologo -v q
	@BRIGHTTIER_ENDURE_TEXTS=1 dotnet tests/BrightTier.Core.Tests/bin/Release/net10.0/BrightTier.Core.Tests.dll -noColor -class "*.TextTests" -class "*.CostlyFileTests"
	@$(MAKE) fuzz SECONDS=600
.PHONY: endure

# Mutated input for so many seconds: make fuzz SECONDS=300. SEED makes a run again.
fuzz:
	@dotnet build fuzz/BrightTier.Fuzz.csproj -c Release --nologo -v q
	@dotnet fuzz/bin/Release/net10.0/BrightTier.Fuzz.dll $(or $(SECONDS),60) $(SEED)
.PHONY: fuzz
