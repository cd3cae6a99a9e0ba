#!/bin/sh
# All checks and tests: lint, format, types, import directions, unit and server tests, then the whole in a browser.
set -eu

browser=${CHROMIUM:-/usr/bin/chromium}
if [ ! -x "$browser" ]; then
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    echo "Installing Debian's Chromium for the browser tests"
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium >/dev/null
  else
    echo "The browser tests need Chromium at $browser. Install it (Debian: apt-get install chromium, as root), or set CHROMIUM to another." >&2
    exit 2
  fi
fi

# One command a line: `set -e` does not see a failure in the middle of an && list.
echo "== lint"
npm run --silent lint
echo "== format"
npm run --silent format:check
echo "== types"
npm run --silent typecheck
echo "== import directions"
npm run --silent imports
echo "== build"
node scripts/build.mjs
touch dist/.made
echo "== unit, firmware and server tests"
npm run --silent unit
echo "== campaign, one minute of it (npm run campaign for more)"
npm run --silent campaign -- --minutes 1 --seed 11
echo "== browser tests"
npm run --silent e2e
