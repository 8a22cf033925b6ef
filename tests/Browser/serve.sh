#!/bin/sh
# Serves the application for browser tests, on data of its own: serve.sh PORT [keep]
cd "$(dirname "$0")/../.." || exit 1
data="$PWD/storage/testing-$1"
mkdir -p "$data"
export DB_DATABASE="$data/browser.sqlite" MERRY_ORBIT_RECYCLE_MARK="$data/recycle" MERRY_ORBIT_QUEUE=${MERRY_ORBIT_QUEUE:-no} MERRY_ORBIT_POST_OFFICE="$data/letters"
# On a PostgreSQL and a Redis that all servers of the tests share, each has a part of its own.
if [ -n "${OWN_PART:-}" ]; then
    part=port_$1
    php -r '$p = new PDO(strtr($argv[1], ["pgsql://merry_orbit@localhost/merry_orbit?host=" => "pgsql:dbname=merry_orbit;user=merry_orbit;host="]));
        if ($argv[3] !== "keep") $p->exec("drop schema if exists $argv[2] cascade");
        $p->exec("create schema if not exists $argv[2]");' "$DB_URL" "$part" "${2:-}" || exit 1
    export DB_URL="$DB_URL&search_path=$part" REDIS_PREFIX="$part:"
fi
if [ "${2:-}" != keep ]; then
    rm -rf "$data"/*
    : >"$DB_DATABASE"
    php artisan migrate --force --quiet && php artisan orbit:demo --quiet || exit 1
fi
export MERRY_ORBIT_PARENTS="${MERRY_ORBIT_PARENTS:-}"
exec bin/serve 127.0.0.1 "$1" "${MERRY_ORBIT_PROCESSES:-3}"
