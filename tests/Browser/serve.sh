#!/bin/sh
# Serves the application for browser tests, on data of its own: serve.sh PORT [keep]
cd "$(dirname "$0")/../.." || exit 1
data="$PWD/storage/testing-$1"
mkdir -p "$data"
export DB_DATABASE="$data/browser.sqlite" MERRY_ORBIT_RECYCLE_MARK="$data/recycle" MERRY_ORBIT_QUEUE=${MERRY_ORBIT_QUEUE:-no} MERRY_ORBIT_POST_OFFICE="$data/letters"
if [ "${2:-}" != keep ]; then
    rm -rf "$data"/*
    : >"$DB_DATABASE"
    php artisan migrate --force --quiet && php artisan orbit:demo --quiet || exit 1
fi
export MERRY_ORBIT_PARENTS="${MERRY_ORBIT_PARENTS:-}"
exec bin/serve 127.0.0.1 "$1" "${MERRY_ORBIT_PROCESSES:-3}"
