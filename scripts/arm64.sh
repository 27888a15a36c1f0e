#!/usr/bin/env bash
# Builds the core and the command line for 64-bit ARM and runs their tests under emulation: scripts/arm64.sh [TEST...]
# TEST is a name or a file, [#mesh_test], as core_tests takes them; without one only the laws and the reference cases are
# built and run, which takes minutes instead of the hours of all. Needs root: the cross compiler and the libraries go into
# a Debian of its own, build/arm64-root (debootstrap), which is kept for the next time; this machine stays as it is. Where
# that Debian cannot be made it ends with 3.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
[ "$(id -u)" -eq 0 ] || { echo "This makes a Debian of its own: run it as root." >&2; exit 3; }
source scripts/packages.sh
source scripts/clean_root.sh
root=$PWD/build/arm64-root
[ -e "$root/ready" ] || {
    rm -rf "$root"
    rm_make_root "$root" || exit 3
    rm_inside "$root" dpkg --add-architecture arm64 && rm_inside "$root" apt-get update -q >/dev/null || exit 3
    libraries="boost nlopt nlopt-cxx openblas lapacke tbb muparser spdlog fmt cairo2 dxflib rapidcheck"
    rm_inside "$root" apt-get install -y -q --no-install-recommends g++-aarch64-linux-gnu cmake ninja-build pkg-config \
        qemu-user-static python3 nlohmann-json3-dev libcli11-dev libeigen3-dev fonts-dejavu-core catch2:arm64 \
        $(printf 'lib%s-dev:arm64 ' $libraries) >"$root/install.log" 2>&1 || { tail -20 "$root/install.log" >&2; exit 3; }
    touch "$root/ready"
}
# Only what has changed, so that only that is built again.
mkdir -p "$root/src"
git ls-files -z -c -o --exclude-standard | while IFS= read -r -d '' file; do
    [ ! -e "$file" ] || cmp -s "$file" "$root/src/$file" || { mkdir -p "$root/src/$(dirname "$file")"; cp -p "$file" "$root/src/$file"; }
done
mount -t proc proc "$root/proc" || exit 3
trap 'umount "$root/proc"' EXIT
inside() { rm_inside "$root" env -C /src OPENBLAS_NUM_THREADS=1 "$@"; }
tests=("$@")
only="" && [ ${#tests[@]} -gt 0 ] || only="/(main|(engine_laws|reference|numerics|kernel|linear|dense_lu|field_rings)_test)\\.cpp$"
inside cmake --preset arm64 -DRM_CORE_TESTS_MATCH="$only" >"$root/configure.log" 2>&1 || { tail -20 "$root/configure.log" >&2; exit 1; }
inside cmake --build --preset arm64 --target reedmast-cli core_tests
inside qemu-aarch64-static build/arm64/src/cli/reedmast-cli verify tests/reference/wires.json
inside qemu-aarch64-static build/arm64/tests/core_tests -# "${tests[@]}"
