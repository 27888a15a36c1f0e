#!/usr/bin/env bash
# Installs the package in a clean Debian and uses it there, without the source: packaging/test_deb.sh [PACKAGE.deb]
# Needs root and a Debian mirror (debootstrap): that of this machine, or RM_MIRROR. Prints one line for each thing that was
# seen to work.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
[ "$(id -u)" -eq 0 ] || { echo "This makes a Debian of its own: run it as root." >&2; exit 1; }
source scripts/packages.sh
source scripts/clean_root.sh
deb=$(realpath "${1:-$(ls build/package/reedmast_*.deb)}")
root=$(mktemp -d)
chmod 755 "$root"
cleanup() {
    umount "$root/proc" 2>/dev/null || true
    rm -rf "$root"
}
trap cleanup EXIT

rm_make_root "$root"
mount -t proc proc "$root/proc"
cp "$deb" "$root/tmp/reedmast.deb"
inside() { rm_inside "$root" "$@"; }
seen() { echo "seen: $*"; }
all_files() { (cd "$root" && find usr etc -xdev -not -path 'usr/share/doc/*' | sort); }

inside apt-get update -q >/dev/null
# What a desktop has anyway; its caches are there before and after.
inside apt-get install -y -q --no-install-recommends xdg-utils shared-mime-info desktop-file-utils libfile-mimeinfo-perl man-db >/dev/null
all_files >"$root.before"
inside apt-get install -y -q --no-install-recommends /tmp/reedmast.deb >/dev/null
seen "$(inside dpkg-query -W -f='${Package} ${Version} ${Status}' reedmast)"

inside useradd -m designer
as_designer() { inside su designer -s /bin/bash -c "cd; export XDG_RUNTIME_DIR=/tmp/run QT_QPA_PLATFORM=offscreen XDG_CURRENT_DESKTOP=X-Generic; mkdir -p -m 700 /tmp/run; $*"; }
[ "$(as_designer reedmast-cli --version)" = "reedmast-cli $(inside dpkg-query -W -f='${Version}' reedmast)" ]
seen "the command line has the version of the package"
as_designer "cp /usr/share/reedmast/demo/heron_point.reedmast.json garden.reedmast.json; cp /usr/share/reedmast/demo/heron_point.reedmast.json plain.json"
as_designer "reedmast-cli solve garden.reedmast.json --design 'Yagi, 70 MHz'" | grep -q "SWR"
seen "the command line solves the demo"
as_designer "reedmast-cli starter dipole --band '20 m' --out mine.reedmast.json" >/dev/null 2>&1 || as_designer "reedmast-cli starters" | grep -qi dipole
seen "starters without the source"
# The window says its version, opens a project, and is there until it is ended.
as_designer "reedmast --version" | grep -q "$(inside dpkg-query -W -f='${Version}' reedmast)"
as_designer "(timeout -s TERM 8 reedmast garden.reedmast.json; test \$? -eq 124)"
seen "the window opens the demo and stays"

[ "$(as_designer "mimetype -b garden.reedmast.json")" = "application/vnd.reedmast.project+json" ]
[ "$(as_designer "mimetype -M -b plain.json")" = "application/vnd.reedmast.project+json" ]
seen "a project is known by its name and by its contents"
[ "$(as_designer "xdg-mime query default application/vnd.reedmast.project+json")" = "org.reedmast.ReedMast.desktop" ]
# Opened by its type: what the desktop starts is our program with the file.
inside mv /usr/bin/reedmast /usr/bin/reedmast.real
printf '#!/bin/sh\necho "$@" > /tmp/opened\n' >"$root/usr/bin/reedmast"
chmod 755 "$root/usr/bin/reedmast"
as_designer "DISPLAY=:0 xdg-open garden.reedmast.json; sleep 1"
grep -q "garden.reedmast.json" "$root/tmp/opened"
inside mv /usr/bin/reedmast.real /usr/bin/reedmast
seen "a project is opened by its type"
for page in reedmast reedmast-cli reedmast-analyser; do inside man -w "$page" >/dev/null; done
[ -s "$root/usr/share/doc/reedmast/guide.html" ] && grep -o 'src="[^"]*"' "$root/usr/share/doc/reedmast/guide.html" | cut -d'"' -f2 |
    while read -r picture; do [ -s "$root/usr/share/doc/reedmast/$picture" ]; done
seen "manuals, and the guide with its pictures"

inside apt-get purge -y -q reedmast >/dev/null
inside apt-get autoremove -y -q >/dev/null
all_files >"$root.after"
diff <(grep -E "reedmast|reed-mast" "$root.before" || true) <(grep -E "reedmast|reed-mast" "$root.after" || true)
[ -s "$root/home/designer/garden.reedmast.json" ]
rm -f "$root.before" "$root.after"
seen "removed without a trace but the designer's files"
