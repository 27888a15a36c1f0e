# Sourced by ./run and ./test: installs the Debian packages that are missing, and says so.
RM_PACKAGES="g++ cmake ninja-build pkg-config qt6-base-dev qt6-svg-dev qt6-l10n-tools qt6-translations-l10n libgl1-mesa-dev
 libeigen3-dev libopenblas-dev liblapacke-dev libboost-dev libnlopt-dev libnlopt-cxx-dev libtbb-dev libmuparser-dev
 nlohmann-json3-dev libcli11-dev libspdlog-dev libfmt-dev catch2 librapidcheck-dev libbenchmark-dev libcairo2-dev libdxflib-dev fonts-dejavu-core python3"

rm_install_packages() {
    local missing="" package
    for package in $RM_PACKAGES; do
        dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q "install ok installed" || missing="$missing $package"
    done
    [ -z "$missing" ] && return 0
    echo "Installing missing packages:$missing"
    local root=""
    if [ "$(id -u)" -ne 0 ]; then
        command -v sudo >/dev/null || { echo "Not root and no sudo: install these packages and start again." >&2; return 1; }
        root="sudo"
    fi
    $root apt-get update -q && $root env DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends $missing
}

# The preset that is built; CI takes one in which warnings are errors.
RM_PRESET="${RM_PRESET:-release}"

# rm_build TARGET...: configures where needed and builds with Ninja on both cores.
rm_build() {
    if [ ! -f "build/$RM_PRESET/build.ninja" ]; then
        mkdir -p build
        cmake --preset "$RM_PRESET" >build/configure.log 2>&1 || { cat build/configure.log >&2; return 1; }
    fi
    cmake --build --preset "$RM_PRESET" --target "$@"
}
