# Sourced by bin/rilta: everything that CI runs, part by part.
PARTS=(style types core web)

tests() {
    if [ "${1:-}" = --help ]; then
        echo "bin/rilta test [PART …]   parts: ${PARTS[*]}"
        return
    fi
    local part
    mkdir -p "$RUN" "$RILTA_DATA/log"
    packages "${RUNTIME[@]}"
    vendor
    node_modules
    cd "$ROOT"
    for part in "${@:-${PARTS[@]}}"; do
        say "Tests: $part"
        "test_$part" || fail "the part \"$part\" failed"
    done
    say "All parts passed"
}

test_style() { "${PHP[@]}" vendor/bin/php-cs-fixer check --show-progress=none; }
test_types() { "${PHP[@]}" vendor/bin/phpstan analyse --no-progress --memory-limit=3G; }
test_core() { "${PHP[@]}" vendor/bin/phpunit --configuration core/phpunit.xml; }
test_web() {
    npm run --silent types >/dev/null && npm run --silent check && npm run --silent build -- --logLevel warn
}
