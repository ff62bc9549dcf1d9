# PostgreSQL: a cluster of the checkout's own on loopback, or an existing server through PGHOST and its kin.
# Sourced after ground.sh. Exports PGHOST, PGPORT, PGUSER, PGPASSWORD, PGDATABASE.

postgres_programs() {
  local folder
  folder=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -1)
  if [ -z "$folder" ] || [ ! -x "$folder/initdb" ]; then
    debian_packages PostgreSQL postgresql
    folder=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -1)
  fi
  [ -x "$folder/initdb" ] || fail "PostgreSQL's programs were not found under /usr/lib/postgresql."
  PROGRAMS=$folder
}

# PostgreSQL refuses to run as root; then it runs as the user that Debian made for it.
as_postgres() {
  if [ "$(id -u)" = 0 ]; then
    (cd / && setpriv --reuid=postgres --regid=postgres --init-groups "$@" 9>&-)
  else
    "$@" 9>&-
  fi
}

# Below a folder that is closed to others the postgres user cannot reach the checkout; then the data lies outside it.
data_folder() {
  DATA="$RUN/postgres"
  [ "$(id -u)" = 0 ] || { mkdir -p "$DATA" && chmod 700 "$DATA"; return; }
  mkdir -p "$DATA" && chown postgres: "$DATA" && chmod 700 "$DATA"
  if ! as_postgres test -w "$DATA" 2>/dev/null; then
    rmdir "$DATA" 2>/dev/null
    DATA="/var/lib/hakobu/$(printf %s "$ROOT" | sha256sum | cut -c1-12)"
    mkdir -p "$DATA" && chown postgres: "$DATA" && chmod 700 "$DATA"
  fi
}

port_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() { # FIRST
  local port=$1
  while ! port_free "$port"; do
    port=$((port + 1))
    [ "$port" -lt $(($1 + 100)) ] || fail "no free port was found from $1 on."
  done
  echo "$port"
}

database_up() {
  if [ -n "${PGHOST:-}" ]; then
    export PGHOST PGPORT="${PGPORT:-5432}" PGUSER="${PGUSER:-hakobu}" PGPASSWORD="${PGPASSWORD:-}" PGDATABASE="${PGDATABASE:-hakobu}"
    return
  fi
  postgres_programs
  data_folder
  # PGUSER owns the database of the application and those of its tests; the cluster is another user's.
  export PGHOST=127.0.0.1 PGUSER=hakobu_app PGDATABASE=hakobu
  [ -f "$RUN/postgres.secret" ] && [ -f "$DATA/PG_VERSION" ] && [ -f "$RUN/postgres.made" ] || database_new
  if database_runs; then
    PGPORT=$(sed -n 4p "$DATA/postmaster.pid" 2>/dev/null); export PGPORT
    "$PROGRAMS/pg_isready" -q -t 30 && database_role && return
    say "PostgreSQL runs and does not answer; starting it again ..."
    as_postgres "$PROGRAMS/pg_ctl" -D "$DATA" -m immediate -w stop >/dev/null 2>&1
  fi
  database_clear
  database_start
  database_role
}

secret() { umask 077; head -c 24 /dev/urandom | base64 | tr -d '+/=\n'; }

as_owner() { PGUSER=hakobu PGPASSWORD=$(cat "$RUN/postgres.secret") "$PROGRAMS/psql" -q -X -v ON_ERROR_STOP=1 "$@" 9>&-; }

# The user that the programs are: it may make databases, and is nobody in those of others. Of a cluster from before, what
# is in the database becomes its own.
database_role() {
  [ -s "$RUN/database.secret" ] && [ -f "$RUN/database.role" ] || {
    (umask 077; secret > "$RUN/database.secret")
    as_owner -d postgres -v secret="$(cat "$RUN/database.secret")" >"$RUN/role.log" 2>&1 <<'SQL' || fail "the database's user could not be made; the reason stands in .run/role.log."
select 'create role hakobu_app login createdb' where not exists (select from pg_roles where rolname = 'hakobu_app') \gexec
alter role hakobu_app password :'secret';
select 'alter database hakobu owner to hakobu_app' where exists (select from pg_database where datname = 'hakobu') \gexec
select format('drop database %I', datname) from pg_database where datname like 'test\_hakobu%' \gexec
SQL
    if [ -n "$(as_owner -d postgres -At -c "select 1 from pg_database where datname = 'hakobu'")" ]; then
      as_owner -d hakobu >>"$RUN/role.log" 2>&1 <<'SQL' || fail "the database could not be given to its user; the reason stands in .run/role.log."
alter schema public owner to hakobu_app;
select format('alter table %s owner to hakobu_app', c.oid::regclass) from pg_class c
  where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p', 'v', 'm') \gexec
select format('alter sequence %s owner to hakobu_app', c.oid::regclass) from pg_class c
  where c.relnamespace = 'public'::regnamespace and c.relkind = 'S'
  and not exists (select from pg_depend d where d.objid = c.oid and d.deptype in ('a', 'i')) \gexec
select format('alter function %s owner to hakobu_app', p.oid::regprocedure) from pg_proc p
  where p.pronamespace = 'public'::regnamespace \gexec
select format('alter type %s owner to hakobu_app', t.oid::regtype) from pg_type t
  where t.typnamespace = 'public'::regnamespace and t.typtype in ('e', 'd') \gexec
SQL
    fi
    touch "$RUN/database.role"
  }
  PGPASSWORD=$(cat "$RUN/database.secret"); export PGPASSWORD
}

# pg_ctl takes a process that was killed and that nobody has waited for yet for a running one.
database_runs() { local pid; pid=$(sed -n 1p "$DATA/postmaster.pid" 2>/dev/null) && [ -n "$pid" ] && lives "$pid" && is_postgres "$pid"; }
is_postgres() { [ "$(readlink "/proc/$1/cwd" 2>/dev/null)" = "$(readlink -f "$DATA")" ]; }

# After a hard stop: its processes end by themselves when they see that the first one is gone, or are ended; then what
# says that it runs goes.
database_clear() {
  local pid pids
  for _ in $(seq 100); do
    pids=
    for pid in $(ls /proc | grep -E '^[0-9]+$'); do is_postgres "$pid" && lives "$pid" && pids="$pids $pid"; done
    [ -z "$pids" ] && break
    sleep 0.1
  done
  [ -z "$pids" ] || kill -9 $pids 2>/dev/null
  rm -f "$DATA/postmaster.pid"
}

database_new() {
  room_for 300 "the database"
  say "Making the database cluster ..."
  as_postgres "$PROGRAMS/pg_ctl" -D "$DATA" -m immediate -w stop >/dev/null 2>&1
  # A half-made cluster holds nothing of anybody's: a whole one has left its mark.
  rm -rf "${DATA:?}"/* "$RUN/postgres.made" "$RUN/database.role"
  (umask 077; secret > "$RUN/postgres.secret")
  local password; password=$(mktemp)
  cp "$RUN/postgres.secret" "$password"
  [ "$(id -u)" = 0 ] && chown postgres: "$password"
  as_postgres "$PROGRAMS/initdb" -D "$DATA" --username=hakobu --pwfile="$password" --auth=scram-sha-256 \
    --encoding=UTF8 --locale=C.UTF-8 --no-sync >"$RUN/initdb.log" 2>&1 ||
    { rm -f "$password"; fail "the database cluster could not be made; the reason stands in .run/initdb.log."; }
  rm -f "$password"
  touch "$RUN/postgres.made"
}

database_start() {
  say "Starting PostgreSQL ..."
  # A pid file of a process that is gone, or that is no PostgreSQL, is what a hard stop leaves.
  PGPORT=$(free_port "${HAKOBU_PG_PORT:-54330}") || exit 1
  export PGPORT
  as_postgres "$PROGRAMS/pg_ctl" -D "$DATA" -w -t 60 -l "$DATA/server.log" \
    -o "-c listen_addresses=127.0.0.1 -c port=$PGPORT -c unix_socket_directories='' -c ssl=off -c max_connections=100" \
    start >"$RUN/pg_ctl.log" 2>&1 9>&- || fail "PostgreSQL did not start; the reason stands at the end of $DATA/server.log."
}

database_down() {
  [ -n "${PGHOST:-}" ] && return
  postgres_programs
  data_folder
  as_postgres "$PROGRAMS/pg_ctl" -D "$DATA" status >/dev/null 2>&1 || return 0
  as_postgres "$PROGRAMS/pg_ctl" -D "$DATA" -m fast -w stop >/dev/null 2>&1
  say "PostgreSQL stopped."
}
