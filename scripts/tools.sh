#!/bin/sh
# Says plainly which tool is missing, and installs the Debian packages the tests need when they are absent.
set -e
cd "$(dirname "$0")/.."
command -v dotnet >/dev/null 2>&1 || { echo "Missing: the .NET SDK, version 10.0.400 or later. Install it and try again." >&2; exit 2; }
case "$(dotnet --version 2>/dev/null)" in 10.*) ;; *) echo "The .NET SDK must be version 10.0.400 or later; 'dotnet --version' says: $(dotnet --version 2>&1 | head -1)" >&2; exit 2;; esac
command -v node >/dev/null 2>&1 || { echo "Missing: Node.js, version 20.19 or later. Install it and try again." >&2; exit 2; }
node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)' || { echo "Node.js must be 20.19 or later; here it is $(node -v)." >&2; exit 2; }
[ "$1" = tests ] || exit 0
need=""
[ -x /usr/bin/chromium-headless-shell ] || need="$need chromium-headless-shell"
[ -d /usr/lib/postgresql ] || need="$need postgresql"
command -v sqlite3 >/dev/null 2>&1 || need="$need sqlite3"
[ -z "$need" ] && exit 0
command -v apt-get >/dev/null 2>&1 || { echo "Missing:$need. Install and try again." >&2; exit 2; }
sudo=""; [ "$(id -u)" = 0 ] || sudo=sudo
echo "Installing:$need"
$sudo apt-get update -qq >/dev/null
DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq $need >/dev/null
