#!/usr/bin/env bash
# Sets up whatever is missing: npm packages, and with --browser Chromium from Debian's packages. Sourced by ./demo and ./check.
set -euo pipefail
export NEXT_TELEMETRY_DISABLED=1
cd "$(dirname "${BASH_SOURCE[0]}")/.."

node -e 'const [a,b]=process.versions.node.split(".").map(Number); if (a<20||(a===20&&b<20)) { console.error("Sorter needs Node 20.20 or newer; this is "+process.version+"."); process.exit(1) }'

packages() {
  # Installed and of this very lock file: nothing to do.
  local stamp=node_modules/.sorter-lock
  if [ -f "$stamp" ] && cmp -s package-lock.json "$stamp"; then return; fi
  echo "Installing packages …"
  npm ci --no-audit --no-fund --loglevel=error
  cp package-lock.json "$stamp"
}

browser() {
  if command -v chromium >/dev/null; then return; fi
  if [ "$(id -u)" != 0 ]; then
    echo "Chromium is not installed and this is not root. Install Debian's package 'chromium', then run this again." >&2
    exit 1
  fi
  echo "Installing Chromium …"
  apt-get update -qq
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium >/dev/null
}

# Builds only when a source is newer than the last build.
build() {
  local stamp=.next/BUILD_ID
  if [ -f "$stamp" ] && [ -z "$(find src knowledge demo-shop scripts package-lock.json next.config.ts -newer "$stamp" -print -quit)" ]; then return; fi
  echo "Building …"
  npm run --silent build
}
