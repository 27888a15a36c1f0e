#!/usr/bin/env bash
# Formats the code as .clang-format says, or with --check says where it is not.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
# New files, too: what is not yet known to git is committed next.
mapfile -t files < <(git ls-files --cached --others --exclude-standard '*.cpp' '*.h' | sort -u)
if [ "${1:-}" = "--check" ]; then
    clang-format --dry-run -Werror "${files[@]}"
    echo "format: ${#files[@]} files as they should be"
else
    clang-format -i "${files[@]}"
fi
