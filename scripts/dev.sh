#!/usr/bin/env bash
# The development server over the demo workspace, reloading as files change.
source "$(dirname "$0")/install.sh"
node scripts/bundled.mjs demo/fill.ts
exec npx nuxt dev --no-fork
