# Shared by ./run and ./test: what must be installed, building, and a private PostgreSQL server. Sourced, not run.
# shellcheck shell=bash

export npm_config_update_notifier=false DOTNET_CLI_WORKLOAD_UPDATE_NOTIFY_DISABLE=1
export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1 DOTNET_GENERATE_ASPNET_CERTIFICATE=false PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1

say() { printf '%s\n' "$*"; }
fail() {
  printf '%s\n' "$*" >&2
  exit 1
}

need_tools() {
  command -v dotnet >/dev/null || fail "The .NET 10 SDK is missing: install it so that “dotnet --version” prints 10.x."
  dotnet --list-sdks | grep -q '^10\.' || fail "The .NET SDK here is $(dotnet --version 2>/dev/null); version 10 is needed."
  command -v node >/dev/null && command -v npm >/dev/null ||
    fail "Node.js 20 with npm is missing: install it so that “node --version” prints v20 or later."
}

# Installs Debian packages: as root, or through sudo when that needs no password or there is somebody to type it; else says what
# to do.
install_packages() {
  local log as=()
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || fail "$* must be installed first. Type: su -c 'apt-get install $*'"
    sudo -n true 2>/dev/null || { [ -t 0 ] && say "To install $*, sudo asks for your password." && sudo -v; } ||
      fail "$* must be installed first. Type: sudo apt-get install $*"
    as=(sudo)
  fi
  say "Installing $* from Debian's packages."
  log=$(mktemp)
  # The private server is all that is wanted: no system-wide one.
  if [ ! -e /etc/postgresql-common/createcluster.conf ] && [[ " $* " == *" postgresql "* ]]; then
    "${as[@]}" mkdir -p /etc/postgresql-common
    printf 'create_main_cluster = false\n' | "${as[@]}" tee /etc/postgresql-common/createcluster.conf >/dev/null
  fi
  if ! { "${as[@]}" apt-get update -q &&
    "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -q -y --no-install-recommends "$@"; } >"$log" 2>&1; then
    tail -n 20 "$log" >&2
    fail "$* could not be installed: the lines above say why."
  fi
  rm -f "$log"
}

find_postgres() {
  PG_BIN=$(find /usr/lib/postgresql -mindepth 2 -maxdepth 2 -name bin 2>/dev/null | sort -V | tail -n 1)
  [ -n "$PG_BIN" ] && [ -x "$PG_BIN/initdb" ]
}

need_postgres() {
  find_postgres && return
  install_packages postgresql
  find_postgres || fail "PostgreSQL was installed, but its server programs are not under /usr/lib/postgresql."
}

# PostgreSQL refuses to run as root, so root runs it as the account that Debian's package makes.
as_postgres() {
  if [ "$(id -u)" = 0 ]; then runuser -u postgres -- "$@"; else "$@"; fi
}

node_modules() {
  if [ ! -e node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
    say "Fetching the packages for the pages."
    npm ci --ignore-scripts --no-audit --no-fund --loglevel=error ||
      fail "npm could not fetch the packages that package-lock.json names: the lines above say why."
    touch node_modules/.package-lock.json
  fi
}

# The web application in .build/web, made anew when something it is made of is newer; with “--built”, of what is built already.
build_web() {
  local stamp=.build/web.stamp
  if [ ! -e "$stamp" ] ||
    [ -n "$(find src demo Directory.Build.props Directory.Build.targets Directory.Packages.props package-lock.json \
      -newer "$stamp" -type f -not -path '*/wwwroot/*' -print -quit)" ]; then
    say "Building."
    mkdir -p .build
    touch "$stamp.new"
    [ "${1:-}" = --built ] || node src/Auxilium.Web/Frontend/build.mjs 2>/dev/null || npm run build ||
      fail "The pages could not be built: the lines above say why."
    rm -rf .build/web
    dotnet publish src/Auxilium.Web -c Release -o .build/web -v quiet --nologo ${1:+--no-build} ||
      fail "The application could not be built: the lines above say why."
    mv "$stamp.new" "$stamp"
  fi
}

port_in_use() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() { node -e 'const s=require("net").createServer().listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'; }

# start_postgres DIR: a private server on loopback with its data in DIR/postgres and a generated password that only the owner
# of DIR/secret can read. Further arguments go to the server. Sets PG_PORT, PG_PASSWORD and PG_PID.
start_postgres() {
  local dir=$1 data=$1/postgres
  shift
  if [ "$(id -u)" = 0 ]; then
    chmod 711 "$dir"
    as_postgres test -x "$dir" || fail "The account “postgres” cannot reach $dir: name a folder it can, such as --data /var/lib/auxilium."
  fi
  if [ ! -s "$dir/secret" ]; then
    (umask 077 && od -An -N24 -tx1 /dev/urandom | tr -d ' \n' >"$dir/secret") || fail "$dir cannot be written to."
  fi
  PG_PASSWORD=$(cat "$dir/secret")
  if [ ! -d "$data" ]; then
    local fresh=$dir/postgres.new pwfile
    rm -rf "$fresh"
    mkdir -m 700 "$fresh"
    pwfile=$(mktemp)
    cat "$dir/secret" >"$pwfile"
    [ "$(id -u)" = 0 ] && chown postgres "$fresh" "$pwfile"
    as_postgres "$PG_BIN/initdb" -D "$fresh" -U auxilium --pwfile="$pwfile" --auth=scram-sha-256 --encoding=UTF8 \
      --locale=C.UTF-8 >"$dir/postgres-setup.log" 2>&1 ||
      { rm -f "$pwfile"
        tail -n 5 "$dir/postgres-setup.log" >&2; fail "The database could not be set up in $dir: the lines above say why."; }
    rm -f "$pwfile"
    mv "$fresh" "$data"
  fi
  # Left running by a start that was killed: stopped, so that there is one server on the data.
  if [ -e "$data/postmaster.pid" ]; then as_postgres "$PG_BIN/pg_ctl" -D "$data" -m fast -w -t 30 stop >/dev/null 2>&1 || true; fi
  PG_PORT=$(free_port)
  local log=$dir/postgres.log
  : >"$log"
  [ "$(id -u)" = 0 ] && chown postgres "$log"
  as_postgres "$PG_BIN/postgres" -D "$data" -p "$PG_PORT" -c listen_addresses=127.0.0.1 \
    -c unix_socket_directories='' "$@" >>"$log" 2>&1 9>&- &
  PG_PID=$!
  local tries
  for ((tries = 0; tries < 600; tries++)); do
    if "$PG_BIN/pg_isready" -q -h 127.0.0.1 -p "$PG_PORT"; then return; fi
    kill -0 "$PG_PID" 2>/dev/null || break
    sleep 0.1
  done
  tail -n 5 "$log" >&2
  fail "The database server did not start: the lines above, from $log, say why."
}

stop_postgres() { as_postgres "$PG_BIN/pg_ctl" -D "$1/postgres" -m fast -w -t 30 stop >/dev/null 2>&1 || true; }
