#!/usr/bin/env bash
# The development server over the demo workspace, reloading as files change.
source "$(dirname "$0")/install.sh"
node scripts/fill.mjs
exec npx nuxt dev --no-fork
