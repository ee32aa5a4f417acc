#!/bin/sh
# Schemas that people run, out of Debian's packages, for the tests that attach databases: fetched and unpacked, never installed.
set -e
cd "$(dirname "$0")/.."
to=$PWD/out/schemas
[ -f "$to/done" ] && exit 0
command -v apt-get >/dev/null 2>&1 || { echo "Without apt-get there are no foreign schemas; the tests that attach them are skipped."; exit 0; }
work=$(mktemp -d); trap 'rm -rf "$work"' EXIT
chmod 755 "$work"; mkdir -p "$to"; cd "$work"
fetch() {
  apt-get download -qq "$1" >/dev/null 2>&1 || { $sudo apt-get update -qq >/dev/null 2>&1; apt-get download -qq "$1" >/dev/null 2>&1; } || return 1
  dpkg -x "$1"_*.deb "$1"
}
sudo=""; [ "$(id -u)" = 0 ] || sudo=sudo
data=usr/share/dbconfig-common/data
fetch gammu && cp gammu/usr/share/doc/gammu/examples/sql/pgsql.sql "$to/messages.postgres.sql" \
  && cp gammu/usr/share/doc/gammu/examples/sql/sqlite.sql "$to/messages.sqlite.sql"
fetch pdns-backend-pgsql && cp pdns-backend-pgsql/usr/share/pdns-backend-pgsql/schema/schema.pgsql.sql "$to/names.postgres.sql"
fetch pdns-backend-sqlite3 && cp pdns-backend-sqlite3/usr/share/pdns-backend-sqlite3/schema/schema.sqlite3.sql "$to/names.sqlite.sql"
fetch bacula-director-pgsql && cp bacula-director-pgsql/$data/bacula-director-pgsql/install/pgsql "$to/backups.postgres.sql"
fetch bacula-director-sqlite3 && cp bacula-director-sqlite3/$data/bacula-director-sqlite3/install/sqlite3 "$to/backups.sqlite.sql"
fetch roundcube-core && cp roundcube-core/$data/roundcube/install/pgsql "$to/mail.postgres.sql" \
  && cp roundcube-core/$data/roundcube/install/sqlite3 "$to/mail.sqlite.sql"
fetch kea-admin && cp kea-admin/usr/share/kea/scripts/pgsql/dhcpdb_create.pgsql "$to/leases.postgres.sql"
fetch kamailio-postgres-modules && (cd kamailio-postgres-modules/usr/share/kamailio/postgres \
  && cat standard-create.sql $(ls *-create.sql | grep -v '^standard-')) > "$to/calls.postgres.sql"
fetch tt-rss && find tt-rss -path '*install/pgsql' -exec cp {} "$to/news.postgres.sql" \;
# Some come with lines for a program, and not for the database.
sed -i 's/^\\connect.*//' "$to"/*.sql
touch "$to/done"
