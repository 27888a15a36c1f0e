#!/usr/bin/env bash
# Builds the Debian package into build/package and holds it against the checks of the distribution:
# packaging/build_deb.sh [--no-check]
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
source scripts/packages.sh
RM_PACKAGES="$RM_PACKAGES libboost-mpi-dev cmark-gfm help2man librsvg2-bin dpkg-dev file lintian desktop-file-utils appstream shared-mime-info"
rm_install_packages
cmake --preset package >/dev/null
cmake --build --preset package
(cd build/package && rm -f ./*.deb && cpack -G DEB >/dev/null)
deb=$(ls build/package/reedmast_*.deb)
[ "${1:-}" = "--no-check" ] && { echo "$deb"; exit 0; }

unpacked=$(mktemp -d)
trap 'rm -rf "$unpacked"' EXIT
dpkg-deb -x "$deb" "$unpacked"
desktop-file-validate "$unpacked/usr/share/applications/org.reedmast.ReedMast.desktop"
appstreamcli validate --no-net "$unpacked/usr/share/metainfo/org.reedmast.ReedMast.metainfo.xml"
bash -n "$unpacked/usr/share/bash-completion/completions/reedmast-cli"
for page in "$unpacked"/usr/share/man/man1/*.1.gz; do
    [ -z "$(man --warnings -E UTF-8 -l -Tutf8 -Z "$page" 2>&1 >/dev/null)" ] || { echo "$(basename "$page"): groff has warnings" >&2; exit 1; }
done
lintian --fail-on error build/package/*.deb
echo "$deb"
