#!/bin/sh
# Everything: C# built with its analyzers beside the front end's checks, build and tests; then all tests. Ends with the plain closing line.
cd "$(dirname "$0")/.."
# The service as it is delivered.
BRIGHTTIER_SERVICE=$PWD/out/service/BrightTier.Service.dll
export BRIGHTTIER_SERVICE
# What these start lives too briefly for watching how it runs to pay, for collecting little garbage often, or for mapping a method's memory twice to write it.
DOTNET_TieredPGO=0
DOTNET_GCgen0size=4000000
DOTNET_EnableWriteXorExecute=0
export DOTNET_TieredPGO DOTNET_GCgen0size DOTNET_EnableWriteXorExecute
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
# Runs one part; what it says and how long it took are in its log. Where a part fails, its file "failed" says so.
part() {
  name=$1; shift
  since=$(date +%s)
  "$@" > "$logs/$name" 2>&1 || touch "$logs/$name.failed"
  echo "== $name: $(($(date +%s) - since)) s" >> "$logs/$name"
}
tell() {
  echo "== $1"
  cat "$logs/$1"
  [ ! -e "$logs/$1.failed" ] || { fail=1; echo "FAILED: $1"; }
}
front_end() {
  part packages make -s web-packages
  part check npm --prefix web run --silent check
  part pages npm --prefix web run --silent build
  part web npm --prefix web run --silent test -- --reporter=default
}
run() { project=$1; shift; part "$project" dotnet "tests/BrightTier.$project.Tests/bin/Release/net10.0/BrightTier.$project.Tests.dll" -noColor "$@"; }
# What is compiled uses one core well and the second now and then: that one is the front end's meanwhile; so is it while what only reckons is tested.
front_end &
part build make -s compiled
part format make -s formatted
run Architecture
run Core
wait
for name in build format packages check pages web Architecture Core; do tell $name; done
# Some of these wait, for a lease to run out or a page to be drawn: with two more than there are processors at a time, no processor does.
for project in Service EndToEnd; do
  run $project -maxThreads $(($(nproc) + 2))
  tell $project
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
