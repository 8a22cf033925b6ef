#!/bin/sh
# What systemd does, where there is none: starts nginx, php-fpm and the workers of a set-up folder, starts again what dies, begins anew
# when it is told to (HUP, or the memory of compiled models is nearly full), and ends all when it is told to stop. Used by bin/server.
folder=$1 owner=$2 options=$3
conf=$folder/conf run=$folder/run logs=$folder/logs
. "$conf/said"
mkdir -p "$run"
chmod 755 "$run"
echo $$ >"$run/pid"
lives() { [ -n "$1" ] && kill -0 "$1" 2>/dev/null; }
rest() { [ -z "$1" ] || kill -s KILL -- "-$1" 2>/dev/null; }
# shellcheck disable=SC2086
# Each in a session of its own: when a master dies, what it has left, which holds its address, goes with it.
web() { rest "$fpm"; setsid php-fpm8.2 --nodaemonize --fpm-config "$conf/fpm.conf" $options >>"$logs/fpm.log" 2>&1 & fpm=$!; }
front() { rest "$nginx"; setsid nginx -c "$conf/nginx-alone.conf" -g 'daemon off;' >>"$logs/error.log" 2>&1 & nginx=$!; }
work() { setpriv --reuid="$owner" --regid="$owner" --clear-groups nice -n 10 "$folder/current/bin/worker" >>"$logs/worker.log" 2>&1 & }
stop() {
    trap '' TERM INT HUP
    kill -QUIT "$nginx" "$fpm" 2>/dev/null
    for n in $(seq 1 "$workers"); do eval "kill -TERM \"\$worker$n\" 2>/dev/null"; done
    # Workers end their piece of work; what takes longer is taken up again after the next start.
    tries=0
    while [ $tries -lt 100 ]; do
        left=
        for n in $(seq 1 "$workers"); do eval "lives \"\$worker$n\"" && left=yes; done
        lives "$nginx" && left=yes
        lives "$fpm" && left=yes
        [ -n "$left" ] || break
        sleep 0.1
        tries=$((tries + 1))
    done
    for n in $(seq 1 "$workers"); do eval "kill -KILL \"\$worker$n\" 2>/dev/null"; done
    rest "$nginx"; rest "$fpm"
    rm -f "$run/pid"
    exit 0
}
anew() {
    . "$conf/said"
    rm -f "$folder/shared/storage/framework/recycle"
    kill -USR2 "$fpm" 2>/dev/null
    kill -HUP "$nginx" 2>/dev/null
    # Each ends what it is at, and is started again of the version that is there now.
    for n in $(seq 1 "$workers"); do eval "kill -TERM \"\$worker$n\" 2>/dev/null"; done
}
nginx= fpm= again=
trap stop TERM INT
trap 'again=yes' HUP
turn=0
while :; do
    lives "$fpm" || web
    lives "$nginx" || front
    for n in $(seq 1 "$workers"); do
        eval "lives \"\${worker$n:-}\"" || { work; eval "worker$n=\$!"; }
    done
    [ ! -e "$folder/shared/storage/framework/recycle" ] || again=yes
    if [ -n "$again" ]; then again=; anew; fi
    [ $((turn % 7200)) != 20 ] || (cd "$folder/current" && setpriv --reuid="$owner" --regid="$owner" --clear-groups nice -n 19 php artisan orbit:tidy --quiet >>"$logs/worker.log" 2>&1) &
    turn=$((turn + 1))
    sleep 0.5 &
    wait $!
done
