# Sourced by bin/rilta: backups, and how they come back.
KEPT_BACKUPS=5

dump() { # file.sql.gz; consistent, whatever is written meanwhile
    as_service mariadb-dump --no-defaults --socket="$RUN/mariadb.sock" --user="$(service_user)" --single-transaction --quick --default-character-set=utf8mb4 "$DATABASE" >"$1.part" || return 1
    # A dump that was broken off lacks its last line.
    tail -1 "$1.part" | grep -q 'Dump completed' || return 1
    gzip -c "$1.part" >"$1.gz.part" && mv "$1.gz.part" "$1" && rm -f "$1.part"
}

# Before migrations change it.
secure_database() {
    [ "$(sql -N -e "SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = '$DATABASE' AND table_name = 'material'")" = 1 ] || return 0
    console doctrine:migrations:up-to-date >/dev/null 2>&1 && return 0
    local file
    file=$RILTA_DATA/backups/before-migration-$(date -u +%Y%m%d-%H%M%S).sql.gz
    mkdir -p "$RILTA_DATA/backups"
    owned
    say "Keeping the database as it is in $file"
    dump "$file" || fail "the database could not be kept, so it is not migrated; is the disk full?"
    ls -1t "$RILTA_DATA/backups"/before-migration-*.sql.gz | tail -n +$((KEPT_BACKUPS + 1)) | xargs -r rm -f
}

backup() {
    [ $# -eq 1 ] || fail "usage: bin/rilta backup FILE"
    [ ! -e "$1" ] || fail "$1 exists; name another file"
    local file aside
    file=$(realpath -m "$1")
    [ -d "$(dirname "$file")" ] && [ -w "$(dirname "$file")" ] || fail "$(dirname "$file") is no folder that can be written to"
    ! joined || fail "this machine shares its database and its store with others; they are kept where they are (docs/guide.md, On more than one machine)"
    supervised && running mariadb || fail "Rilta is not running; start it first: bin/rilta start"
    environment
    aside=$RUN/backup-$$
    mkdir -p "$aside"
    # shellcheck disable=SC2064
    trap "rm -rf '$aside' '$file.part'" EXIT
    owned
    # Images are never changed, only added: what the database names was there before it was read.
    dump "$aside/database.sql.gz" || fail "the database could not be read"
    printf 'rilta-backup/1\n%s\n' "$(date -u +%FT%TZ)" >"$aside/backup"
    mkdir -p "$RILTA_DATA/files" "$RILTA_DATA/bakes"
    tar -cf "$file.part" --exclude='*.part' --exclude='*.rows' --warning=no-file-changed -C "$aside" backup database.sql.gz -C "$RILTA_DATA" files bakes || [ $? -eq 1 ] || fail "$file could not be written; is the disk full?"
    chmod 600 "$file.part"
    sync "$file.part"
    mv "$file.part" "$file"
    say "Everything is in $1 ($(du -h "$file" | cut -f1))"
}

restore() {
    [ $# -eq 1 ] || fail "usage: bin/rilta restore FILE"
    ! joined || fail "this machine shares its database and its store with others; they are brought back where they are (docs/guide.md, On more than one machine)"
    [ -f "$1" ] || fail "there is no file $1"
    local file aside
    file=$(realpath "$1")
    tar -xOf "$file" backup 2>/dev/null | head -1 | grep -qx 'rilta-backup/1' || fail "$1 is no backup of Rilta, or is broken off"
    aside=$RUN/restore-$$
    mkdir -p "$aside"
    # shellcheck disable=SC2064
    trap "rm -rf '$aside'" EXIT
    # All of it can be read before anything is touched.
    tar -xf "$file" -C "$aside" || fail "$1 is damaged; nothing was changed"
    gzip -t "$aside/database.sql.gz" && zcat "$aside/database.sql.gz" | tail -1 | grep -q 'Dump completed' || fail "the database in $1 is damaged; nothing was changed"
    environment
    database
    local name kept
    halt nginx events fpm $(cd "$SERVE" && ls -d worker-* 2>/dev/null)
    if [ "$(sql -N -e "SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = '$DATABASE'")" != 0 ]; then
        kept=$RILTA_DATA/backups/before-restore-$(date -u +%Y%m%d-%H%M%S).sql.gz
        mkdir -p "$RILTA_DATA/backups"
        owned
        dump "$kept" || fail "what is there now could not be kept; nothing was changed"
        say "What was there is kept in $kept"
    fi
    # Images are only added: what is there and not in the backup is collected later.
    mkdir -p "$RILTA_DATA/files" "$RILTA_DATA/bakes"
    cp -a "$aside/files/." "$RILTA_DATA/files/"
    cp -a "$aside/bakes/." "$RILTA_DATA/bakes/"
    sql -e "DROP DATABASE IF EXISTS \`$DATABASE\`; CREATE DATABASE \`$DATABASE\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci"
    zcat "$aside/database.sql.gz" | sql "$DATABASE" || fail "the database could not be brought back; what was there is in ${kept:-no file, since there was nothing}"
    say "Restored. Starting"
    start
}
