#!/usr/bin/env bash
# Runs `bralto demo`: on the display where there is one, else as a tour under Xvfb.
set -euo pipefail
if [ -n "${DISPLAY:-}${WAYLAND_DISPLAY:-}" ]; then
  exec "$@"
fi
shots=${BRALTO_TOUR:-$PWD/out/tour}
echo "No display: showing each place once under Xvfb. Screenshots:"
exec xvfb-run -a -s "-screen 0 1280x800x24" env QT_QPA_PLATFORM=xcb "$@" --tour "$shots"
