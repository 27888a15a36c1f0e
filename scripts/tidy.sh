#!/usr/bin/env bash
# Runs clang-tidy over the files named, or over the floors that it reads in seconds: a file that includes the JSON
# library takes it a minute. Needs `cmake --preset tidy` once. A warning fails.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
files=("$@")
[ ${#files[@]} -gt 0 ] || mapfile -t files < <(git ls-files 'src/core/quantity/*.cpp' 'src/app/plot/*.cpp' \
    'src/app/look/*.cpp')
tidy() { clang-tidy -p build/tidy --quiet -extra-arg=-Wno-unknown-warning-option \
    -extra-arg=-Wno-unused-command-line-argument "$1" 2>/dev/null; }
export -f tidy
failed=0
said=$(printf '%s\n' "${files[@]}" | xargs -P "$(nproc)" -I{} bash -c 'tidy {}') || failed=1
if [ -n "$said" ]; then echo "$said"; failed=1; fi
[ $failed -eq 0 ] && echo "tidy: ${#files[@]} files without a warning"
exit $failed
