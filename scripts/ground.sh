# Shared by ./start, ./test and ./hakobu: where things lie, how things are said, what a machine must have.
# Sourced, never run; expects ROOT.

RUN="$ROOT/.run"
VENV="$ROOT/.venv"
PYTHON="$VENV/bin/python"
# Compiled modules are kept: without them every start of Python takes seconds longer.
unset PYTHONDONTWRITEBYTECODE
# The compiled kernels lie with the checkout.
export HAKOBU_CACHE="$RUN/cache"
mkdir -p "$RUN" || { echo "hakobu: $RUN cannot be made; is this folder yours to write in?" >&2; exit 1; }

say() { printf '%s\n' "$*" >&2; }
fail() { printf 'hakobu: %s\n' "$*" >&2; exit 1; }

# One setup at a time: two that run side by side would spoil each other's work.
alone() {
  exec 9>"$RUN/lock"
  flock -w 900 9 || fail "another ./start or ./test has held this checkout for a quarter of an hour; end it and try again."
}

# stamp NAME FILES...: whether NAME was finished with just these files; stamped NAME FILES... says that it was.
fingerprint() { cat "$@" 2>/dev/null | sha256sum | cut -d' ' -f1; }
fresh() { local name=$1; shift; [ "$(cat "$RUN/$name.done" 2>/dev/null)" = "$(fingerprint "$@")" ]; }
finished() { local name=$1; shift; fingerprint "$@" > "$RUN/$name.done"; }

# Whether a process is there and has not ended: one that nobody has waited for yet still has its number.
lives() { local state; state=$(sed 's/.*) //; s/ .*//' "/proc/$1/stat" 2>/dev/null) && [ -n "$state" ] && [ "$state" != Z ]; }

room_for() { # MEGABYTES WHAT
  local free
  free=$(df -Pm "$ROOT" | awk 'NR==2 {print $4}')
  [ "$free" -ge "$1" ] || fail "only $free MB are free here, and $2 needs about $1 MB; make room and run this again."
}

debian_packages() { # WHAT PACKAGES...
  local what=$1 as=(); shift
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || fail "$what is missing, and without root or sudo it cannot be installed: apt-get install $*"
    as=(sudo)
  fi
  command -v apt-get >/dev/null || fail "$what is missing and this is no Debian machine; install it and run this again."
  say "Installing $what (Debian's $*), about a minute ..."
  room_for 900 "$what"
  "${as[@]}" apt-get update -qq >"$RUN/apt.log" 2>&1 || true
  "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@" >>"$RUN/apt.log" 2>&1 9>&- ||
    fail "$what could not be installed; the reason stands at the end of .run/apt.log."
}
