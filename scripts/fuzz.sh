#!/usr/bin/env bash
# Runs the fuzz targets under sanitizers: scripts/fuzz.sh [--seconds N | --runs N] [--seed N] [TARGET...]
# Without either each runs for a minute. What breaks one is left in build/fuzz/broken; after the mend it goes into
# fuzz/corpus and stays there.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
source scripts/packages.sh
RM_PACKAGES="$RM_PACKAGES clang libclang-rt-dev"
limit="-max_total_time=60"
seed="-seed=0"
while [[ "${1:-}" == --* ]]; do
    case "$1" in
        --seconds) limit="-max_total_time=$2" ;;
        --runs) limit="-runs=$2" ;;
        --seed) seed="-seed=$2" ;;
        *) echo "Unknown option $1" >&2; exit 2 ;;
    esac
    shift 2
done
targets=("$@")
[ ${#targets[@]} -gt 0 ] || targets=(project goals touchstone table formula cases design)

rm_install_packages
cmake --preset fuzz >/dev/null
cmake --build --preset fuzz --target "${targets[@]/#/fuzz_}"
mkdir -p build/fuzz/broken build/fuzz/grown

# One target with its corpus; what it finds on the way grows a corpus of this machine's own.
run() {
    mkdir -p "build/fuzz/grown/$1"
    "build/fuzz/fuzz/fuzz_$1" "$limit" "$seed" -max_len=16384 -timeout=60 -rss_limit_mb=3000 -entropic=0 -verbosity=0 -print_final_stats=1 \
        -artifact_prefix="build/fuzz/broken/$1-" "build/fuzz/grown/$1" "fuzz/corpus/$1" >"build/fuzz/$1.log" 2>&1 ||
        { tail -60 "build/fuzz/$1.log" >&2; echo "$1: broken, see build/fuzz/broken" >&2; return 1; }
    echo "$1: $(grep -o 'number_of_executed_units: *[0-9]*' "build/fuzz/$1.log" | grep -o '[0-9]*$') runs"
}
export -f run
export limit seed OPENBLAS_NUM_THREADS=1
# Leaks are looked for once, at the end: looking after every input would take the time of ten.
export ASAN_OPTIONS=detect_leaks=0 UBSAN_OPTIONS=halt_on_error=1:print_stacktrace=1
printf '%s\n' "${targets[@]}" | xargs -P 2 -I{} bash -c 'run {}'
