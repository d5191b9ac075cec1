# Sourced by bin/rilta: everything that CI runs, part by part. Tests have a folder, a database and ports of their own.
PARTS=(style types app web e2e core parity attack)

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
    second stop >/dev/null
    # Tests of what people do together use a port where they sign in.
    export RILTA_OPEN=1
    OPEN=1 CLOSED_PORT=$(free_port 8460) PROXY_PORT=$(free_port 8465) PORT=$(free_port 8430) DB_PORT=$(free_port 8440) SUPPLIER_PORT=$(free_port 8450)
    mkdir -p "$RUN" "$RILTA_DATA/log" "$RILTA_DATA/parity"
    packages "${RUNTIME[@]}" "${FOR_TESTS[@]}"
    vendor
    node_modules
    cd "$ROOT"
    trap 'stop >/dev/null; second stop >/dev/null; small_disk_away; [ -z "$BESIDE" ] || pkill -P "$BESIDE" || true' EXIT
    for part in "${@:-${PARTS[@]}}"; do
        declare -F "test_$part" >/dev/null || fail "there is no part \"$part\"; there are ${PARTS[*]}"
    done
    # What keeps one processor busy and needs nothing of the others takes what they leave.
    if [ $# -eq 0 ]; then
        say "Tests: core and the kernel's share of parity, beside the next ones"
        (renice -n 19 -p "$BASHPID" >/dev/null; test_core && parity_cases) >"$RILTA_DATA/log/beside.log" 2>&1 &
        BESIDE=$!
    fi
    for part in "${@:-${PARTS[@]}}"; do
        SECONDS=0
        say "Tests: $part"
        if [ "$part" = core ] && [ -n "$BESIDE" ]; then
            wait "$BESIDE" || { cat "$RILTA_DATA/log/beside.log"; fail "the part \"core\", or the kernel's share of parity, failed"; }
            BESIDE= PARITY_CASES=there
            cat "$RILTA_DATA/log/beside.log"
        else
            "test_$part" || fail "the part \"$part\" failed"
        fi
        say "$part: $SECONDS s"
    done
    say "All parts passed"
}
BESIDE= PARITY_CASES= FIRST_DAY=

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

# The same documents in the browser's shaders and in the kernel. RILTA_PARITY=long takes five times as many random ones.
test_parity() {
    { [ -n "$PARITY_CASES" ] || parity_cases; } &&
        npx vite build --config e2e/parity/vite.config.ts --mode page --logLevel error &&
        npx vite build --config e2e/parity/vite.config.ts --mode materialx --logLevel error &&
        npm run --silent e2e -- --project parity --workers 2
}
parity_cases() {
    local what
    for what in cases recipes light formats materialx; do
        "${PHP[@]}" "core/tests/Parity/$what.php" "$RILTA_DATA/parity/$what.json" || return 1
    done
}

# The application as it is on the first day, with its demo.
first_day() {
    stop >/dev/null
    small_disk_away
    rm -rf "$RILTA_DATA"/{mariadb,files,bakes,secrets}
    # The second time it is what the first one made.
    if [ -n "$FIRST_DAY" ]; then
        cp -a "$RILTA_DATA"/first-day/. "$RILTA_DATA" || fail "the first day could not be brought back"
    else
        start
        stop >/dev/null
        rm -rf "$RILTA_DATA/first-day"
        mkdir "$RILTA_DATA/first-day"
        cp -a "$RILTA_DATA"/{mariadb,files,secrets} "$RILTA_DATA/first-day" || fail "the first day could not be kept"
        FIRST_DAY=there
    fi
    start
}

# Tests that start and stop it find it by these.
in_browser() { RILTA_CLOSED_PORT="$CLOSED_PORT" RILTA_PROXY_PORT="$PROXY_PORT" RILTA_ADDRESS="http://127.0.0.1:$PORT" RILTA_PORT="$PORT" RILTA_DB_PORT="$DB_PORT" RILTA_SUPPLIER_PORT="$SUPPLIER_PORT" npm run --silent e2e -- --project "$@"; }

# Two tests at a time: the second one has an application of its own, with what the first one has on its first day.
second() { RILTA_DATA=$ROOT/var/test-2 "$ROOT/bin/rilta" "$@"; }

test_e2e() {
    first_day || return 1
    rm -rf "$ROOT/var/test-2"
    mkdir "$ROOT/var/test-2"
    cp -a "$RILTA_DATA"/first-day/. "$ROOT/var/test-2" || fail "the first day could not be copied"
    local -x RILTA_PORT_1 RILTA_DB_PORT_1 RILTA_SUPPLIER_PORT_1 RILTA_CLOSED_PORT_1 RILTA_PROXY_PORT_1 RILTA_ADDRESS_1 RILTA_DATA_1=$ROOT/var/test-2
    RILTA_PORT_1=$(free_port 8430) RILTA_DB_PORT_1=$(free_port 8440) RILTA_SUPPLIER_PORT_1=$(free_port 8450) RILTA_CLOSED_PORT_1=$(free_port 8460) RILTA_PROXY_PORT_1=$(free_port 8465)
    RILTA_ADDRESS_1=http://127.0.0.1:$RILTA_PORT_1
    RILTA_PORT=$RILTA_PORT_1 RILTA_DB_PORT=$RILTA_DB_PORT_1 RILTA_SUPPLIER_PORT=$RILTA_SUPPLIER_PORT_1 RILTA_CLOSED_PORT=$RILTA_CLOSED_PORT_1 RILTA_PROXY_PORT=$RILTA_PROXY_PORT_1 RILTA_ADDRESS=$RILTA_ADDRESS_1 second start || return 1
    in_browser application --workers 2 && second stop >/dev/null
}

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
