# Sourced by bin/rilta: everything that CI runs, part by part. Tests have a folder, a database and ports of their own.
PARTS=(style types app web core parity e2e attack)

tests() {
    if [ "${1:-}" = --help ]; then
        echo "bin/rilta test [PART …]   parts: ${PARTS[*]}"
        return
    fi
    local part
    export RILTA_DATA=$ROOT/var/test
    RUN=$RILTA_DATA/run SERVE=$RILTA_DATA/run/services
    # What an interrupted run left behind.
    stop >/dev/null
    PORT=$(free_port 8430) DB_PORT=$(free_port 8440) SUPPLIER_PORT=$(free_port 8450)
    mkdir -p "$RUN" "$RILTA_DATA/log" "$RILTA_DATA/parity"
    packages "${RUNTIME[@]}" "${FOR_TESTS[@]}"
    vendor
    node_modules
    cd "$ROOT"
    trap 'stop >/dev/null; small_disk_away; [ -z "$BESIDE" ] || kill "$BESIDE" 2>/dev/null || true' EXIT
    for part in "${@:-${PARTS[@]}}"; do
        declare -F "test_$part" >/dev/null || fail "there is no part \"$part\"; there are ${PARTS[*]}"
    done
    # The core's tests keep one processor busy and need nothing of the others.
    if [ $# -eq 0 ]; then
        say "Tests: core, beside the next ones"
        test_core >"$RILTA_DATA/log/core.log" 2>&1 &
        BESIDE=$!
    fi
    for part in "${@:-${PARTS[@]}}"; do
        SECONDS=0
        say "Tests: $part"
        if [ "$part" = core ] && [ -n "$BESIDE" ]; then
            wait "$BESIDE" || { cat "$RILTA_DATA/log/core.log"; fail "the part \"core\" failed"; }
            BESIDE=
            cat "$RILTA_DATA/log/core.log"
        else
            "test_$part" || fail "the part \"$part\" failed"
        fi
        say "$part: $SECONDS s"
    done
    say "All parts passed"
}
BESIDE=

# The first port from the given one on that nobody listens on.
free_port() {
    local port=$1
    until port_free "$port"; do port=$((port + 1)); done
    echo "$port"
}

test_style() { "${PHP[@]}" vendor/bin/php-cs-fixer check --show-progress=none && npm run --silent lint; }
test_types() { "${PHP[@]}" vendor/bin/phpstan analyse --no-progress --memory-limit=3G && "${PHP[@]}" docs/graph.php && npm run --silent types >/dev/null && npm run --silent check; }
test_core() { "${PHP[@]}" vendor/bin/phpunit --configuration core/phpunit.xml; }

test_app() {
    environment
    database
    renew_container halt_readers
    (
        DATABASE=rilta_test
        environment
        sql -e "CREATE DATABASE IF NOT EXISTS $DATABASE CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci"
        export APP_ENV=test
        rm -rf "$RILTA_DATA/symfony/test"
        console doctrine:migrations:migrate --no-interaction --quiet &&
            { console doctrine:schema:validate --quiet || { console doctrine:schema:validate; false; }; } &&
            "${PHP[@]}" vendor/bin/phpunit --configuration app/phpunit.xml
    )
}

test_web() { npm run --silent types >/dev/null && npm run --silent unit; }

# The same documents in the browser's shaders and in the kernel.
test_parity() {
    "${PHP[@]}" core/tests/Parity/cases.php "$RILTA_DATA/parity/cases.json" &&
        "${PHP[@]}" core/tests/Parity/recipes.php "$RILTA_DATA/parity/recipes.json" &&
        "${PHP[@]}" core/tests/Parity/light.php "$RILTA_DATA/parity/light.json" &&
        "${PHP[@]}" core/tests/Parity/formats.php "$RILTA_DATA/parity/formats.json" &&
        npx vite build --config e2e/parity/vite.config.ts --logLevel error &&
        npm run --silent e2e -- --project parity --workers 2
}

# The application as it is on the first day, with its demo.
first_day() {
    stop >/dev/null
    small_disk_away
    rm -rf "$RILTA_DATA"/{mariadb,files,bakes,secrets}
    start
}

# Tests that start and stop it find it by these.
in_browser() { RILTA_ADDRESS="http://127.0.0.1:$PORT" RILTA_PORT="$PORT" RILTA_DB_PORT="$DB_PORT" RILTA_SUPPLIER_PORT="$SUPPLIER_PORT" npm run --silent e2e -- --project "$1"; }

test_e2e() { first_day && in_browser application; }

# Kills, races, damaged requests and files, a full disk, a database that is away: nothing acknowledged is lost, nothing hangs.
# RILTA_ATTACK=long takes an hour; RILTA_ATTACK_SEED another course.
test_attack() {
    local disk=$RILTA_DATA/small-disk
    first_day || return 1
    mkdir -p "$disk"
    # Images lie on a disk that can be filled, where this machine lets us mount one.
    if mount -t tmpfs -o size=200M,mode=700 rilta-attack "$disk" 2>/dev/null; then
        cp -a "$RILTA_DATA/files/." "$disk/" && chown "$(service_user):" "$disk" && mount --bind "$disk" "$RILTA_DATA/files"
        export RILTA_SMALL_DISK=1
    fi
    in_browser attack
}

small_disk_away() {
    local folder
    for folder in "$RILTA_DATA/files" "$RILTA_DATA/small-disk"; do
        ! mountpoint -q "$folder" || umount "$folder"
    done
}
