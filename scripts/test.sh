#!/usr/bin/env bash
# Installs what is missing, Chromium too, and runs everything: types, lint, unit, end to end.
source "$(dirname "$0")/install.sh" --browser
exec node scripts/test.mjs
