# Sourced by bin/rilta: the servers and workers. A supervisor (runit) starts them, brings back what dies, and keeps their logs short.
SERVICES=(supplier fpm events nginx)
SERVE=$RUN/services

# Whom servers and workers run as: a user of their own if we are root, and it can read what it has to.
service_user() {
    if [ "$(id -u)" -ne 0 ]; then
        id -un
    elif [ -n "${RILTA_USER:-}" ]; then
        echo "$RILTA_USER"
    elif id rilta >/dev/null 2>&1 && runuser -u rilta -- test -r "$ROOT/app/console" -a -x "$ROOT"; then
        echo rilta
    else
        echo root
    fi
}

own_user() {
    [ "$(id -u)" -eq 0 ] && [ -z "${RILTA_USER:-}" ] || return 0
    id rilta >/dev/null 2>&1 || useradd --system --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin rilta || fail "the user rilta could not be made"
    [ "$(service_user)" = rilta ] || echo "rilta: the user rilta cannot read $ROOT, so servers run as root; move the folder to where everybody can read it" >&2
}

# The data belong to whoever serves them, and to nobody else.
owned() {
    local user
    user=$(service_user)
    mkdir -p "$RILTA_DATA/log" "$RUN"
    chmod 700 "$RILTA_DATA"
    [ "$(id -u)" -ne 0 ] || [ -z "$(find "$RILTA_DATA" ! -user "$user" -print -quit)" ] || chown -R "$user:" "$RILTA_DATA"
}

as_service() {
    local user
    user=$(service_user)
    if [ "$user" = "$(id -un)" ]; then "$@"; else runuser -u "$user" --preserve-environment -- "$@"; fi
}

# A service is a folder with a script; runit's own files lie beside it.
service() { # name, command
    local folder=$SERVE/$1 new
    mkdir -p "$folder/log" "$RILTA_DATA/log/$1"
    # Children of a server that was killed would hold its port: they go before it begins anew.
    new=$(printf '#!/bin/sh\nexec 2>&1\numask 077\n%s .\necho $$ >group\n%s\n' "'$ROOT/ops/reap'" "$2")
    if [ "$(cat "$folder/run" 2>/dev/null)" != "$new" ]; then
        printf '%s\n' "$new" >"$folder/run"
        chmod 700 "$folder/run"
        # What runs by an older script begins anew.
        [ ! -e "$folder/supervise/ok" ] || sv restart "$folder" >/dev/null 2>&1 || true
    fi
    if [ ! -x "$folder/log/run" ]; then
        # Ten logs of a megabyte each.
        printf '#!/bin/sh\nexec svlogd -tt %s\n' "'$RILTA_DATA/log/$1'" >"$folder/log/run"
        chmod 700 "$folder/log/run"
        printf 's1000000\nn10\n' >"$RILTA_DATA/log/$1/config"
    fi
    rm -f "$folder/down"
}

supervised() { [ -f "$RUN/supervisor.pid" ] && kill -0 "$(cat "$RUN/supervisor.pid")" 2>/dev/null && grep -qaF "$SERVE" "/proc/$(cat "$RUN/supervisor.pid")/cmdline"; }

supervise() {
    supervised && return
    owned
    # The whole environment is ours; services get it as it is.
    local launch=(setsid runsvdir -P "$SERVE")
    [ "$(service_user)" = "$(id -un)" ] || launch=(setsid runuser -u "$(service_user)" --preserve-environment -- runsvdir -P "$SERVE")
    HOME=$RUN "${launch[@]}" </dev/null >/dev/null 2>&1 9>&- &
    local i one
    for i in $(seq 50); do
        # Not the program that changed the user, but what it became; at first there is none.
        for one in $(pgrep -f -- "runsvdir -P $SERVE\$"); do
            grep -qa ^runsvdir "/proc/$one/cmdline" 2>/dev/null || continue
            echo "$one" >"$RUN/supervisor.pid"
            return
        done
        sleep 0.1
    done
    fail "the supervisor did not start"
}

running() { [ -e "$SERVE/$1/supervise/ok" ] && sv status "$SERVE/$1" 2>/dev/null | grep -q '^run:'; }
process_of() { sv status "$SERVE/$1" 2>/dev/null | sed -n 's/^run: [^(]*(pid \([0-9]*\)).*/\1/p'; }

# A supervisor that has just begun does not listen to all services yet, whatever the last one has left in their folders.
up() {
    local i
    for i in $(seq 100); do
        sv up "$SERVE/$1" >/dev/null 2>&1 && return
        sleep 0.1
    done
    fail "the supervisor does not start $1: $(sv up "$SERVE/$1" 2>&1)"
}

# The name that people call it by, whole, without signs that files of settings have for themselves.
host_pattern() {
    local name=${RILTA_ADDRESS#*://}
    name=${name%%/*}
    name=${name%%:*}
    [[ "$name" =~ ^[A-Za-z0-9.-]+$ ]] || fail "RILTA_ADDRESS: expected an address like https://rilta.example, found \"$RILTA_ADDRESS\""
    printf '^%s(?!.)' "${name//./[.]}"
}

# Tells whether it is another than before.
config() {
    local before
    before=$(cat "$RUN/$1" 2>/dev/null || true)
    # Without a port that is closed on an open server, or one for a proxy, no line names it.
    sed -e "$([ -n "$CLOSED_PORT" ] || echo '/@CLOSED_PORT@/d;') $([ -n "$PROXY_PORT" ] || echo '/@PROXY_PORT@/d;') s#@PROXY_PORT@#$PROXY_PORT#g; s#@DATA@#$RILTA_DATA#g; s#@ROOT@#$ROOT#g; s#@PORT@#$PORT#g; s#@CLOSED_PORT@#$CLOSED_PORT#g; s#@OPEN@#$OPEN#g; s#@ADDRESS@#$RILTA_ADDRESS#g; s#@HOST@#$(host_pattern)#g; s#@USER@#$(service_user)#g" "$ROOT/ops/$1" >"$RUN/$1"
    [ "$before" != "$(cat "$RUN/$1")" ]
}

sql() { as_service mariadb --no-defaults --socket="$RUN/mariadb.sock" --user="$(service_user)" "$@"; }

database() {
    own_user
    local begins=
    if ! running mariadb; then
        # Secrets may be others than the last time; what runs keeps those that it began with.
        begins="ALTER USER 'rilta'@'127.0.0.1' IDENTIFIED BY '$PASSWORD';"
        port_free "$DB_PORT" || fail "port $DB_PORT is taken by something else; set RILTA_DB_PORT to another"
    fi
    owned
    if [ ! -d "$RILTA_DATA/mariadb/mysql" ]; then
        say "Creating a private MariaDB"
        as_service mariadb-install-db --no-defaults --user="$(service_user)" --datadir="$RILTA_DATA/mariadb" --auth-root-authentication-method=socket \
            --auth-root-socket-user="$(service_user)" --skip-test-db >"$RILTA_DATA/log/mariadb-install.log" 2>&1 || fail "MariaDB could not be set up; see $RILTA_DATA/log/mariadb-install.log"
    fi
    adopt_database
    service mariadb "exec chpst -P mariadbd --no-defaults --user=$(service_user) --datadir='$RILTA_DATA/mariadb' --bind-address=127.0.0.1 --port=$DB_PORT --socket='$RUN/mariadb.sock' --pid-file='$RUN/mariadb.pid' --innodb-buffer-pool-size=256M --max-allowed-packet=64M --skip-name-resolve"
    supervise
    up mariadb
    local i
    for i in $(seq 150); do
        sql -e 'SELECT 1' >/dev/null 2>&1 && break
        [ "$i" -lt 150 ] || fail "MariaDB did not start within 30 s; see $RILTA_DATA/log/mariadb/current"
        sleep 0.2
    done
    sql <<SQL
CREATE DATABASE IF NOT EXISTS \`$DATABASE\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
CREATE USER IF NOT EXISTS 'rilta'@'127.0.0.1' IDENTIFIED BY '$PASSWORD';
$begins
GRANT ALL ON \`rilta%\`.* TO 'rilta'@'127.0.0.1';
SQL
}

# A database that another user has set up is opened to the one that serves it now.
adopt_database() {
    local user
    user=$(service_user)
    [ "$(cat "$RILTA_DATA/mariadb/.owner" 2>/dev/null)" = "$user" ] && return
    if [ -d "$RILTA_DATA/mariadb/rilta" ] || [ -d "$RILTA_DATA/mariadb/rilta_test" ]; then
        as_service mariadbd --no-defaults --user="$user" --datadir="$RILTA_DATA/mariadb" --bootstrap --skip-grant-tables=0 >>"$RILTA_DATA/log/mariadb-install.log" 2>&1 <<SQL || true
FLUSH PRIVILEGES;
CREATE USER IF NOT EXISTS '$user'@'localhost' IDENTIFIED VIA unix_socket;
GRANT ALL PRIVILEGES ON *.* TO '$user'@'localhost' WITH GRANT OPTION;
FLUSH PRIVILEGES;
SQL
    fi
    echo "$user" >"$RILTA_DATA/mariadb/.owner"
}

servers() {
    local n php
    php=$(printf "'%s' " "${PHP[@]}")
    # A stand-in for an outside service: the catalogue of a supplier of maps.
    if ! running supplier; then port_free "$SUPPLIER_PORT" || fail "port $SUPPLIER_PORT is taken by something else; set RILTA_SUPPLIER_PORT to another"; fi
    mkdir -p "$RILTA_DATA/supplier"
    if ! running nginx; then port_free "$PORT" || fail "port $PORT is taken by something else; set RILTA_PORT to another"; fi
    if config php-fpm.conf; then halt fpm; fi
    for n in nginx.conf site.conf proxied.conf php.conf headers.conf; do
        if config "$n"; then halt nginx; fi
    done
    echo "$PORT" >"$RUN/port"
    service supplier "export RILTA_SUPPLIER_DATA='$RILTA_DATA/supplier' PHP_CLI_SERVER_WORKERS=3; exec chpst -P $php -S 127.0.0.1:$SUPPLIER_PORT '$ROOT/supplier/index.php'"
    service fpm "exec chpst -P php-fpm8.2 $([ "$(service_user)" = root ] && echo --allow-to-run-as-root) -F --fpm-config '$RUN/php-fpm.conf' ${JIT[*]}"
    service nginx "exec chpst -P nginx -e stderr -c '$RUN/nginx.conf' -g 'daemon off;'"
    service events "exec chpst -P $php '$ROOT/app/console' events"
    for n in $(seq "$WORKERS"); do
        # Whoever waits at a screen comes first.
        service "worker-$n" "exec chpst -P nice -n 10 $php '$ROOT/app/console' work"
    done
    # Fewer workers than the last time.
    for n in "$SERVE"/worker-*; do
        [ "${n##*worker-}" -le "$WORKERS" ] || { sv force-stop "$n" >/dev/null 2>&1 || true; rm -rf "$n"; }
    done
    owned
    supervise
    for n in supplier fpm events nginx $(seq -f 'worker-%g' "$WORKERS"); do up "$n"; done
}

halt() { # services that nobody wants now; the supervisor stays
    local name
    for name in "$@"; do
        [ ! -e "$SERVE/$name/supervise/ok" ] || sv -w 20 force-stop "$SERVE/$name" >/dev/null 2>&1 || true
    done
}

# Whether anything still watches over a service.
watched() { sv status "$SERVE"/* 2>/dev/null | grep -qE '^(run|down|finish)'; }

stop() {
    local name
    if supervised; then
        # Those first that use the others; the database has time to close its files.
        for name in $(cd "$SERVE" && ls -d worker-* 2>/dev/null) nginx events fpm supplier; do
            running "$name" && echo "stopped $name"
            halt "$name"
        done
        running mariadb && echo "stopped mariadb"
        [ ! -e "$SERVE/mariadb/supervise/ok" ] || sv -w 60 force-stop "$SERVE/mariadb" >/dev/null 2>&1 || true
        # Told so, it ends all that watch over a service, and then itself.
        kill -HUP "$(cat "$RUN/supervisor.pid")" 2>/dev/null || true
        for _ in $(seq 100); do
            supervised || watched || break
            sleep 0.1
        done
    fi
    # What a killed server or supervisor has left.
    for name in "$SERVE"/*/group; do
        [ -s "$name" ] || continue
        "$ROOT/ops/reap" "${name%/group}"
        rm -f "$name"
    done
    rm -f "$RUN/supervisor.pid"
}

status() {
    local name
    echo "data: $RILTA_DATA"
    for name in $(joined || echo mariadb) "${SERVICES[@]}" $(seq -f 'worker-%g' "$WORKERS"); do
        if supervised && running "$name"; then echo "$name: running, process $(process_of "$name")"; else echo "$name: not running"; fi
    done
    if supervised && running nginx; then echo "address: http://127.0.0.1:$(cat "$RUN/port")/"; fi
}
