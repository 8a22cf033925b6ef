# Sourced by bin/test: a PostgreSQL and a Redis of one's own that keep nothing; PostgreSQL is reached by a socket in its folder.
# shellcheck shell=sh

# Says on what address it is, as DB_URL; end it with stop_postgres. With an address and a network, also machines of that are let in.
start_postgres() {
    pg_bin=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | tail -1)
    pg_folder=$(mktemp -d /tmp/merry-orbit-postgres.XXXXXX)
    chmod 755 "$pg_folder"
    if [ "$(id -u)" = 0 ]; then
        chown postgres "$pg_folder"
        as_postgres() { setpriv --reuid=postgres --regid=postgres --clear-groups env -C "$pg_folder" "$@"; }
    else
        as_postgres() { env -C "$pg_folder" "$@"; }
    fi
    as_postgres "$pg_bin/initdb" -D "$pg_folder/data" -A trust -U merry_orbit -E UTF8 --locale=C --no-sync >"$pg_folder/log" 2>&1 &&
        { [ -z "${2:-}" ] || echo "host all all $2 trust" >>"$pg_folder/data/pg_hba.conf"; } &&
        as_postgres "$pg_bin/pg_ctl" -D "$pg_folder/data" -l "$pg_folder/server.log" -w \
            -o "-c listen_addresses='${1:-}' -c unix_socket_directories=$pg_folder -c fsync=off -c synchronous_commit=off -c full_page_writes=off" \
            start >/dev/null 2>&1 &&
        as_postgres "$pg_bin/createdb" -h "$pg_folder" -U merry_orbit merry_orbit || { cat "$pg_folder"/*log >&2; return 1; }
    DB_URL="pgsql://merry_orbit@localhost/merry_orbit?host=$pg_folder"
    [ -z "${1:-}" ] || DB_URL="pgsql://merry_orbit@$1/merry_orbit"
}

stop_postgres() {
    [ -n "${pg_folder:-}" ] || return 0
    as_postgres "$pg_bin/pg_ctl" -D "$pg_folder/data" -m immediate stop >/dev/null 2>&1
    rm -rf "$pg_folder"
    pg_folder=
}

# Says where it is, as REDIS_URL; end it with stop_redis.
start_redis() {
    redis-server --bind 127.0.0.1 --port 8786 --save '' --appendonly no --loglevel warning >/dev/null 2>&1 &
    redis_pid=$!
    REDIS_URL=redis://127.0.0.1:8786
    tries=0
    until redis-cli -p 8786 ping >/dev/null 2>&1; do
        tries=$((tries + 1))
        [ $tries -lt 50 ] || return 1
        sleep 0.1
    done
}

stop_redis() {
    [ -n "${redis_pid:-}" ] || return 0
    kill "$redis_pid" 2>/dev/null
    wait "$redis_pid" 2>/dev/null
    redis_pid=
}
