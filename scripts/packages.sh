# Python and npm packages, from the lock files. Sourced after ground.sh.

system_python() {
  local candidate others=()
  # As root, one that every user may run comes first: the programs are run by one that is not root.
  [ "$(id -u)" = 0 ] && for candidate in /usr/bin/python3.{11,12,13}; do
    "$candidate" -c 'import ensurepip' 2>/dev/null && others+=("$candidate")
  done
  for candidate in "${others[@]}" python3.11 python3.12 python3.13 python3; do
    if command -v "$candidate" >/dev/null && "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      echo "$candidate"
      return
    fi
  done
  fail "Python 3.11 or newer is needed, and none was found."
}

python_environment() {
  [ -x "$PYTHON" ] && "$PYTHON" -c 'import encodings' 2>/dev/null && [ -x "$VENV/bin/uv" ] && return
  local base
  base=$(system_python) || exit 1
  "$base" -c 'import ensurepip' 2>/dev/null || debian_packages "Python's venv" python3-venv
  room_for 1500 "the Python environment"
  say "Making the Python environment ..."
  rm -rf "$VENV" "$RUN"/python-*.done
  "$base" -m venv "$VENV" || fail "the Python environment could not be made; look above."
  "$VENV/bin/pip" install -q uv==0.13.9 >"$RUN/pip.log" 2>&1 9>&- ||
    fail "uv could not be installed; the reason stands at the end of .run/pip.log."
}

python_packages() { # run or dev
  python_environment
  local lock="$ROOT/requirements/$1.txt"
  fresh "python-$1" "$lock" && return
  say "Installing Python packages ($1) ..."
  "$VENV/bin/uv" pip install -q --compile-bytecode --python "$PYTHON" -r "$lock" >"$RUN/pip.log" 2>&1 9>&- ||
    fail "Python packages could not be installed; the reason stands at the end of .run/pip.log."
  # The core lies in the checkout; this line makes it a package of the environment.
  echo "$ROOT/core" > "$("$PYTHON" -c 'import sysconfig; print(sysconfig.get_path("purelib"))')/hakobu.pth"
  finished "python-$1" "$lock"
}

web_packages() {
  command -v npm >/dev/null || fail "Node 20 with npm is needed for the web side, and npm was not found."
  node -e 'process.exit(+(process.versions.node.split(".")[0] < 20))' || fail "Node 20 or newer is needed, $(node -v) was found."
  fresh web-packages "$ROOT/web/package-lock.json" && [ -d "$ROOT/web/node_modules" ] && return
  room_for 800 "the web side"
  say "Installing npm packages ..."
  (cd "$ROOT/web" && npm ci --no-audit --no-fund >"$RUN/npm.log" 2>&1 9>&-) ||
    fail "npm packages could not be installed; the reason stands at the end of .run/npm.log."
  finished web-packages "$ROOT/web/package-lock.json"
}

web_sources() { find "$ROOT/web/src" "$ROOT/web/public" "$ROOT/web"/*.json "$ROOT/web"/*.ts -type f | LC_ALL=C sort; }

web_bundle() {
  web_packages
  local files
  mapfile -t files < <(web_sources)
  fresh web-bundle "${files[@]}" && [ -f "$ROOT/web/dist/manifest.json" ] && return
  say "Building the web side ..."
  (cd "$ROOT/web" && npx vite build >"$RUN/vite.log" 2>&1 9>&-) ||
    fail "the web side could not be built; the reason stands at the end of .run/vite.log."
  rm -f "$RUN/static.done"
  finished web-bundle "${files[@]}"
}

# Kernels are compiled by numba and linked by a C compiler.
compiler() {
  "$PYTHON" -c 'import os, sysconfig as s; raise SystemExit(not os.path.exists(s.get_path("include") + "/Python.h"))' &&
    command -v cc >/dev/null && command -v g++ >/dev/null && return
  debian_packages "a C compiler" gcc g++ libc6-dev python3-dev
}

kernel_files() { find "$ROOT/core/hakobu" \( -path '*/kernels/*.py' -o -path '*/compiled/*.py' \) | LC_ALL=C sort; }

kernels_fresh() {
  local files
  mapfile -t files < <(kernel_files)
  fresh kernels "${files[@]}" "$RUN"/python-run.done && [ -d "$HAKOBU_CACHE" ]
}

# One process builds at a time, under a lock of its own; whoever comes later waits and finds it done.
kernels_build() {
  local files
  mapfile -t files < <(kernel_files)
  "$PYTHON" -m hakobu.compiled.build >"$RUN/kernels.log" 2>&1 9>&- ||
    fail "the kernels could not be compiled; the reason stands at the end of .run/kernels.log."
  finished kernels "${files[@]}" "$RUN"/python-run.done
}

kernels() {
  kernels_fresh && return
  compiler
  say "Compiling the kernels on $(nproc) processors: one to three minutes ..."
  kernels_build
}

# The application starts meanwhile; what needs a kernel says how far it is.
kernels_behind() {
  kernels_fresh && return
  compiler
  say "Compiling the kernels in the background, on $(nproc) processors: one to three minutes ..."
  (trap '' HUP; renice -n 10 $BASHPID; kernels_build) >/dev/null 2>"$RUN/kernels-behind.log" </dev/null 9>&- &
}
