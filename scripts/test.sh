#!/bin/sh
# Everything: formatting, linters, type checks, all tests. Ends with the plain closing line.
cd "$(dirname "$0")/.."
# The service as it is delivered.
BRIGHTTIER_SERVICE=$PWD/out/service/BrightTier.Service.dll
export BRIGHTTIER_SERVICE
fail=0
logs=$(mktemp -d)
# What tests store is thrown away: where there is room in memory, no test waits for a disk. A process that is killed loses nothing there either.
memory=""
if [ "$(df -Pk /dev/shm 2>/dev/null | awk 'NR==2 {print $4}')" -gt 4000000 ] 2>/dev/null; then
  memory=$(mktemp -d /dev/shm/bright-tier.XXXXXX)
  # Another user's database server finds its folder in it.
  chmod 755 "$memory"
  TMPDIR=$memory
  export TMPDIR
fi
run() {
  name=$1; shift
  echo "== $name"
  since=$(date +%s)
  "$@" || { fail=1; echo "FAILED: $*"; }
  echo "== $name: $(($(date +%s) - since)) s"
}
run "C# formatting" dotnet format whitespace --verify-no-changes --no-restore
run "front end: types and linter" npm --prefix web run --silent check
run "front end: tests" sh -c 'npm --prefix web run --silent test -- --reporter=default > '"$logs"'/web 2>&1; code=$?; cat '"$logs"'/web; exit $code'
for project in Architecture Core Service EndToEnd; do
  if [ $project = Service ]; then
    # The services these start live too briefly for compiling over again what is called often to pay.
    DOTNET_TC_CallCountThreshold=1000 DOTNET_TieredPGO=0
    export DOTNET_TC_CallCountThreshold DOTNET_TieredPGO
  fi
  run "tests: $project" sh -c 'dotnet tests/BrightTier.'$project'.Tests/bin/Release/net10.0/BrightTier.'$project'.Tests.dll -noColor > '"$logs"'/'$project' 2>&1; code=$?; cat '"$logs"'/'$project'; exit $code'
done
node -e '
const fs = require("fs"); let passed = 0, failed = 0, skipped = 0;
for (const name of ["Architecture", "Core", "Service", "EndToEnd"]) {
  let text = ""; try { text = fs.readFileSync(process.argv[1] + "/" + name, "utf8"); } catch {}
  const m = /Total: (\d+), Errors: (\d+), Failed: (\d+), Skipped: (\d+)/.exec(text);
  if (!m) { failed++; continue; }
  passed += m[1] - m[2] - m[3] - m[4]; failed += +m[2] + +m[3]; skipped += +m[4];
}
let web = ""; try { web = fs.readFileSync(process.argv[1] + "/web", "utf8").replace(/\x1b\[[0-9;]*m/g, ""); } catch {}
const line = /^\s*Tests\s+(.*)$/m.exec(web);
if (!line) failed++; else { passed += +(/(\d+) passed/.exec(line[1])?.[1] ?? 0); failed += +(/(\d+) failed/.exec(line[1])?.[1] ?? 0); }
if (+process.argv[2] && !failed) failed = 1;
console.log(`\n${passed} passed, ${failed} failed, ${skipped} skipped`);
process.exit(failed ? 1 : 0);
' "$logs" "$fail"
code=$?
rm -rf "$logs" ${memory:+"$memory"}
exit $code
