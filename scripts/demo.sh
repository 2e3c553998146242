#!/usr/bin/env bash
# Installs what is missing, builds, fills the demo workspace and serves it on http://localhost:3000.
# "npm run demo -- --fresh" begins the demo workspace anew.
source "$(dirname "$0")/install.sh"
npx nuxt build
node scripts/bundled.mjs demo/fill.ts "$@"
echo "Sky Lever: http://localhost:${PORT:-3000}"
PORT="${PORT:-3000}" exec node .output/server/index.mjs
