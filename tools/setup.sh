#!/usr/bin/env bash
# Sets a fresh Debian-like machine up: Qt's shared libraries and Xvfb, then the locked packages in .venv.
set -euo pipefail
cd "$(dirname "$0")/.."

# Shared library -> Debian package. What PyQt6's wheels expect of the system (xcb and offscreen).
declare -A LIBRARIES=(
  [libEGL.so.1]=libegl1 [libGL.so.1]=libgl1 [libxkbcommon-x11.so.0]=libxkbcommon-x11-0
  [libdbus-1.so.3]=libdbus-1-3 [libxcb-cursor.so.0]=libxcb-cursor0 [libxcb-icccm.so.4]=libxcb-icccm4
  [libxcb-keysyms.so.1]=libxcb-keysyms1 [libxcb-image.so.0]=libxcb-image0
  [libxcb-render-util.so.0]=libxcb-render-util0 [libxcb-xinerama.so.0]=libxcb-xinerama0
  [libxcb-shape.so.0]=libxcb-shape0 [libfontconfig.so.1]=libfontconfig1 [libglib-2.0.so.0]=libglib2.0-0
)
missing=()
known=$(ldconfig -p)
for library in "${!LIBRARIES[@]}"; do
  grep -q "$library" <<<"$known" || missing+=("${LIBRARIES[$library]}")
done
command -v Xvfb >/dev/null || missing+=(xvfb)
command -v xauth >/dev/null || missing+=(xauth)

# A Python of 3.11 or newer that can make virtual environments; the first that works.
python=""
for candidate in python3 python3.13 python3.12 python3.11 /usr/bin/python3; do
  if "$candidate" -c 'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
    python=$candidate
    break
  fi
done
[ -n "$python" ] || missing+=(python3-venv)

if [ ${#missing[@]} -gt 0 ]; then
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    echo "Installing: ${missing[*]}"
    export DEBIAN_FRONTEND=noninteractive
    # A new machine may still be installing by itself, or another clone here: wait for its turn.
    apt-get -o DPkg::Lock::Timeout=300 update -qq
    apt-get -o DPkg::Lock::Timeout=300 install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
    [ -n "$python" ] || python=python3
  else
    echo "Some system packages are missing. Type this, then try again:" >&2
    echo "  sudo apt-get install ${missing[*]}" >&2
    exit 1
  fi
fi
if ! "$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))'; then
  echo "Bralto needs Python 3.11 or newer; this machine's python3 is older." >&2
  exit 1
fi

[ -x .venv/bin/python ] || "$python" -m venv .venv
echo "Installing the locked packages into .venv"
.venv/bin/python -m pip install --quiet --disable-pip-version-check --only-binary :all: \
  --requirement requirements.lock
.venv/bin/python -m pip install --quiet --disable-pip-version-check --no-deps --editable .
# Compiled once here: where Python may not write what it compiles, every start would do it again.
.venv/bin/python -m compileall -q src
