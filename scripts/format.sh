#!/usr/bin/env bash
# Formats the code as .clang-format says, or with --check says where it is not.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
mapfile -t files < <(git ls-files '*.cpp' '*.h')
if [ "${1:-}" = "--check" ]; then
    clang-format --dry-run -Werror "${files[@]}"
    echo "format: ${#files[@]} files as they should be"
else
    clang-format -i "${files[@]}"
fi
