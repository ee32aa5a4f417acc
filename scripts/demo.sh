#!/bin/sh
# Starts the service with the demo application. PORT (5080) and DATA (.data/demo) say where; started twice, it says so and leaves the first alone.
set -e
cd "$(dirname "$0")/.."
port=${PORT:-5080}
data=${DATA:-.data/demo}
case "$port" in ''|*[!0-9]*) echo "PORT must be a number; it is '$port'." >&2; exit 2;; esac
say() {
  cat <<TEXT

  Bright Tier is ready at   http://127.0.0.1:$port/

  Be whoever you like, without a password:
    Ada Wader      harbour office   designs and publishes forms
    Bram Klaasen   quay hand        works in Dutch, sees no money
    Cleo Marsh     harbour master   sees everything
    Dirk Hoist     yard foreman
    Esme Ledger    bookkeeper
    Farid Naseem   auditor          only reads, in Arabic
    Greta Root     administrator
    Hanna Slip     form reviewer    comments and approves, changes nothing

  From a terminal: ./brighttier sign-in --as ada --server http://127.0.0.1:$port

TEXT
}
ready() { node -e 'fetch("http://127.0.0.1:'"$port"'/health/ready").then(r=>process.exit(r.ok?0:1),()=>process.exit(1))'; }
if ready; then say; echo "  It was running already; nothing was started."; exit 0; fi
node -e 'const s=require("net").connect('"$port"',"127.0.0.1");s.on("connect",()=>process.exit(0));s.on("error",()=>process.exit(1))' && { echo "Something else answers at port $port; choose another: make demo PORT=5090" >&2; exit 2; }
mkdir -p "$data"
dotnet out/service/BrightTier.Service.dll --urls "http://127.0.0.1:$port" --Data "$data" --Seed demo --PickPeople true &
service=$!
trap 'kill $service 2>/dev/null; wait $service 2>/dev/null; exit 0' INT TERM
for _ in $(seq 240); do
  kill -0 $service 2>/dev/null || { echo "The service ended before it was ready." >&2; exit 1; }
  if ready; then say; echo "  Ctrl+C stops it."; break; fi
  sleep 0.25
done
wait $service
