# Sourced by ./run and ./test: makes .venv, installs Red Crate, and sees to the system libraries.
# Usage: prepare EXTRAS   (EXTRAS is "[window]" or "[test]"). Does nothing where nothing has changed.

QT_LIBRARIES="libegl1 libgl1 libxkbcommon0 libfontconfig1 libglib2.0-0 libdbus-1-3"
QT_X_LIBRARIES="libxcb-cursor0 libxcb-icccm4 libxcb-keysyms1 libxcb-shape0 libxcb-image0 libxcb-render-util0 libxcb-xinerama0 libxcb-xkb1 libxkbcommon-x11-0"

BROWSER="chromium chromium-driver"

say() { printf '%s\n' "$*" >&2; }

# Install Debian packages where that is allowed; else print the one command to type.
install_packages() {
    local as_root=""
    if [ "$(id -u)" != 0 ]; then
        if command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then
            as_root="sudo -n"
        else
            say "Red Crate needs some system packages. Please type:"
            say "    sudo apt-get install $*"
            return 1
        fi
    fi
    command -v apt-get >/dev/null 2>&1 || { say "Please install: $*"; return 1; }
    say "Installing system packages: $*"
    $as_root apt-get update -qq >/dev/null 2>&1
    DEBIAN_FRONTEND=noninteractive $as_root apt-get install -qq -y --no-install-recommends "$@" \
        >/dev/null 2>&1 || { say "They could not be installed. Please type: sudo apt-get install $*"; return 1; }
}

find_python() {
    local name
    for name in python3.11 python3.12 python3.13 python3; do
        if command -v "$name" >/dev/null 2>&1 &&
            "$name" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
            printf '%s' "$name"
            return
        fi
    done
    say "Red Crate needs Python 3.11 or newer."
    return 1
}

make_venv() {
    local python
    python=$(find_python) || return 1
    say "Making .venv with $python"
    rm -rf .venv
    "$python" -m venv .venv >/dev/null 2>&1 && return
    install_packages python3-venv || return 1
    rm -rf .venv
    "$python" -m venv .venv
}

qt_loads() {
    QT_QPA_PLATFORM=offscreen .venv/bin/python -c \
        'from PyQt6.QtWidgets import QApplication; from PyQt6.QtSvg import QSvgRenderer; QApplication([])' >/dev/null 2>&1
}

# The X plugin lacks libraries of its own where Qt as such loads.
x_plugin_loads() {
    local plugin
    plugin=$(ls .venv/lib/python3*/site-packages/PyQt6/Qt6/plugins/platforms/libqxcb.so 2>/dev/null) || return 0
    ! ldd "$plugin" 2>/dev/null | grep -q 'not found'
}

# A browser and its driver, for the proof; where it may not be installed, the command to type is said.
see_to_browser() {
    command -v chromedriver >/dev/null 2>&1 && command -v chromium >/dev/null 2>&1 && return
    install_packages $BROWSER
}

prepare() {
    local extras="$1" stamp
    stamp="$(cat pyproject.toml constraints.txt | sha256sum | cut -c1-16)$extras"
    if [ ! -x .venv/bin/python ] || ! .venv/bin/python -c '' 2>/dev/null; then
        make_venv || return 1
    fi
    # what "[test]" has installed is enough for the others too
    if ! grep -qxF -e "$stamp" -e "${stamp%%[*}[test]" .venv/prepared 2>/dev/null; then
        say "Installing Red Crate and what it needs into .venv (once)"
        .venv/bin/python -m pip install --quiet --disable-pip-version-check \
            -c constraints.txt -e ".$extras" 2>&1 | grep -v 'WARNING: ' >&2
        .venv/bin/python -c 'import redcrate.core.session' || return 1
        qt_loads || install_packages $QT_LIBRARIES || return 1
        qt_loads || { say "Qt does not load, although its packages are there."; return 1; }
        printf '%s\n' "$stamp" >> .venv/prepared
    fi
    if [ -n "${DISPLAY:-}" ] && ! x_plugin_loads; then
        install_packages $QT_X_LIBRARIES || return 1
    fi
}
