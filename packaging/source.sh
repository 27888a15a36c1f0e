#!/usr/bin/env bash
# Packs the source of a commit, with everything its tests need: packaging/source.sh [COMMIT] writes
# build/reedmast-VERSION.tar.xz.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
version=$(grep -oP 'project\(ReedMast VERSION \K[0-9.]+' CMakeLists.txt)
mkdir -p build
git archive --format=tar --prefix="reedmast-$version/" "${1:-HEAD}" | xz -T0 >"build/reedmast-$version.tar.xz"
echo "build/reedmast-$version.tar.xz"
