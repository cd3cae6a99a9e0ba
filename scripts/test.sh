#!/bin/sh
# All checks and tests: lint, format, types, import directions, unit and server tests, then the whole in a browser.
set -eu

only=all
for word in "$@"; do
  case "$word" in
    --only) ;;
    unit | browser | lint) only=$word ;;
    *) echo "./jolly test [--only unit|browser|lint]" >&2; exit 2 ;;
  esac
done
wants() { [ "$only" = all ] || [ "$only" = "$1" ]; }

# Debian's Chromium without the window around it: nobody looks, and two run beside each other.
browser=${CHROMIUM:-/usr/bin/chromium-headless-shell}
if wants browser && [ ! -x "$browser" ]; then
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    echo "Installing Debian's Chromium for the browser tests"
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium-headless-shell >/dev/null
  else
    echo "The browser tests need Chromium at $browser. Install it (Debian: apt-get install chromium-headless-shell, as root), or set CHROMIUM to another." >&2
    exit 2
  fi
fi

# Two at a time, one a core; each says its own when it has ended, and a failure of either ends the whole.
said=$(mktemp -d)
trap 'rm -rf "$said"' EXIT
: >"$said/names"
beside() {
  name=$1
  shift
  echo "$name" >>"$said/names"
  { echo "== $name"; "$@" 2>&1 && touch "$said/$name.fine"; } >"$said/$name" &
}
heard() {
  wait
  while read -r name; do
    cat "$said/$name"
    [ -f "$said/$name.fine" ] || exit 1
  done <"$said/names"
  : >"$said/names"
}

# One command a line: `set -e` does not see a failure in the middle of an && list.
if wants lint; then
  beside lint npm run --silent lint
  beside types npm run --silent typecheck
  heard
  beside format npm run --silent format:check
  beside "import directions" npm run --silent imports
  heard
  # Heard with the build, which does not rest on it.
  beside "unused and undeclared" npm run --silent unused
fi
if wants unit || wants browser; then
  beside build sh -c 'node scripts/build.mjs && touch dist/.made'
fi
heard
if wants unit; then
  echo "== unit, firmware and server tests"
  npm run --silent unit
  beside "campaign, one minute of it (npm run campaign for more)" \
    npm run --silent campaign:built -- --minutes 1 --seed 11
  beside "mutants, a minute of them (npm run mutants for more)" \
    npm run --silent mutants -- --in core,session --seed 12 --count 8 --minutes 1 --calculating --passed --least 50
  heard
fi
if wants browser; then
  echo "== browser tests"
  npm run --silent e2e
fi
