# Installs what is missing: packages, and with "--browser" Debian's Chromium. Sourced by the other scripts.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
export NUXT_TELEMETRY_DISABLED=1

# The stamp says which lockfile the installed packages belong to, so that a second start installs nothing.
stamp=node_modules/.sky-lever-lock
if [ ! -d node_modules ] || ! cmp -s package-lock.json "$stamp"; then
  echo "Installing packages (the first time compiles SQLite, which takes some minutes) …"
  npm ci
  cp package-lock.json "$stamp"
fi

if [ "${1:-}" = "--browser" ] && [ ! -x /usr/bin/chromium-headless-shell ]; then
  echo "Installing Chromium …"
  sudo=""
  [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq
  $sudo env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium-headless-shell
fi
