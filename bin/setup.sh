# Sourced by bin/start and bin/test: installs and builds what is missing, each step only when it is needed.
# shellcheck shell=sh

export COMPOSER_ALLOW_SUPERUSER=1 COMPOSER_NO_INTERACTION=1 DEBIAN_FRONTEND=noninteractive

say() { printf '%s\n' "$*" >&2; }
fail() { say "$*"; exit 1; }
# What is fetched may not come at once: once more, and once more.
again() { "$@" || { sleep 5; "$@"; } || { sleep 30; "$@"; }; }

# need_debian COMMAND-THAT-SUCCEEDS-WHEN-THERE PACKAGE …
missing_packages=
need_debian() {
    sh -c "$1" >/dev/null 2>&1 && return
    shift
    missing_packages="$missing_packages $*"
}
install_debian() {
    [ -z "$missing_packages" ] && return
    if [ "$(id -u)" != 0 ] || ! command -v apt-get >/dev/null; then
        fail "Debian packages are missing. Install them as root, then start again: apt-get install$missing_packages"
    fi
    say "Installing Debian packages:$missing_packages"
    again apt-get update -qq >/dev/null 2>&1
    # shellcheck disable=SC2086
    again apt-get install -y -qq --no-install-recommends $missing_packages >storage/logs/apt.log 2>&1 || { cat storage/logs/apt.log >&2; fail "apt-get could not install$missing_packages"; }
    missing_packages=
}

# Debian's own Node may be older than what builds the page. Then one from the npm registry, for this clone alone.
node_able() { node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 22 || (a === 22 && b >= 12) || (a === 20 && b >= 19) ? 0 : 1)' 2>/dev/null; }
setup_node() {
    node_able && return
    if [ ! -f .node/.complete ]; then
        say "Installing a newer Node than $(node --version), for this folder alone"
        again npm install --prefix .node --no-audit --no-fund --loglevel=error node@22 npm@10 >&2 || fail "A Node of at least 20.19 is needed, and npm could not install it."
        touch .node/.complete
        # What the older one installed may lack the parts of its own kind.
        rm -f node_modules/.complete
    fi
    PATH=$PWD/.node/node_modules/.bin:$PATH
    export PATH
    node_able || fail "A Node of at least 20.19 is needed; this one is $(node --version)."
}

setup_packages() {
    mkdir -p storage/app storage/framework/cache storage/framework/sessions storage/framework/views storage/framework/programs storage/logs
    need_debian 'command -v php' php8.2-cli
    extensions=$(php -m 2>/dev/null)
    for extension in pdo_sqlite:sqlite3 mbstring:mbstring intl:intl dom:xml zip:zip gd:gd; do
        case "
$extensions
" in *"
${extension%%:*}
"*) ;; *) need_debian false "php8.2-${extension##*:}" ;; esac
    done
    need_debian 'command -v composer' composer
    need_debian 'command -v node && command -v npm' nodejs npm
    need_debian 'command -v unzip || php -m | grep -qx zip' unzip
    need_debian 'command -v pkill' procps
    install_debian
    setup_node
    if [ ! -f vendor/.complete ] || [ composer.json -nt vendor/.complete ]; then
        say "Installing PHP packages"
        again composer install --no-scripts --no-progress --quiet || fail "Composer could not install the PHP packages."
        # Of the library for stores of objects only that part stays.
        composer dump-autoload --optimize --quiet
        touch vendor/.complete
    fi
    if [ ! -f node_modules/.complete ] || [ package-lock.json -nt node_modules/.complete ]; then
        say "Installing JavaScript packages"
        again npm ci --no-audit --no-fund --loglevel=error >&2 || fail "npm could not install the JavaScript packages."
        touch node_modules/.complete
    fi
}

# The page's types of what docs/openapi.yaml describes; needed to check types, not to build.
setup_types() {
    types=resources/js/api/openapi.d.ts
    if [ ! -f "$types" ] || [ docs/openapi.yaml -nt "$types" ] || [ package-lock.json -nt "$types" ]; then
        npx openapi-typescript docs/openapi.yaml --array-length -o "$types" >/dev/null || fail "The types of the API could not be made from docs/openapi.yaml."
    fi
}

setup_build() {
    if [ ! -f public/build/manifest.json ] || [ -n "$(find resources/js vite.config.ts package-lock.json tsconfig.json -newer public/build/manifest.json -print -quit)" ]; then
        say "Building the page"
        npx vite build --logLevel=warn >&2 || fail "The page could not be built."
    fi
}

setup_application() {
    # The key, sessions, logs and what people made are nobody else's on this machine.
    umask 077
    [ -f .env ] || cp .env.example .env
    chmod 600 .env
    chmod -R go-rwx storage database/*.sqlite* 2>/dev/null
    grep -q '^APP_KEY=.' .env || php artisan key:generate --no-interaction --quiet
    database=${DB_DATABASE:-database/merry-orbit.sqlite}
    stamp=$database.$(cat database/migrations/*.php demo/*.json demo/files/* | cksum | cut -d' ' -f1).ready
    if [ ! -f "$database" ] || [ ! -f "$stamp" ]; then
        say "Preparing the database"
        if [ -s "$database" ] && ! php artisan migrate:status --pending 2>/dev/null | grep -q 'No pending'; then
            php artisan orbit:backup storage/backups/before-migration --keep=3 --quiet || fail "No backup could be made, so the database was left as it is."
        fi
        [ -f "$database" ] || { : >"$database"; chmod 600 "$database"; }
        php artisan migrate --force --no-interaction --quiet || fail "The database could not be prepared."
        php artisan orbit:demo --quiet || fail "The demo studies could not be put in place."
        rm -f "$database".*.ready
        : >"$stamp"
    fi
}
