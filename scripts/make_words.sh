#!/usr/bin/env bash
# Gathers what the program says into the catalogues of po: what is new is there to be translated, what is gone leaves.
# With --check it says whether that would change anything but the places where something is said. Needs gettext.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
made="$(mktemp -d)"
trap 'rm -rf "$made"' EXIT
find src/core src/app \( -name "*.cpp" -o -name "*.h" \) | LC_ALL=C sort >"$made/files"
# tr and trn in the window, say, sayMany and later in the core: see core/words and app/look/text.h.
xgettext --language=C++ --from-code=UTF-8 --add-location=file --no-wrap -k -ktr:1 -ktrn:1,2 -ksay:1 -ksayMany:2,3 \
    -klater:1 --package-name="Reed Mast" -f "$made/files" -o "$made/words.pot"
# Places for values in our texts are not those of printf.
sed -i '/^#, .*format/d' "$made/words.pot"
for catalogue in po/*.po; do
    merged="$made/$(basename "$catalogue")"
    msgmerge --quiet --no-wrap --no-fuzzy-matching --sort-by-file --add-location=file "$catalogue" "$made/words.pot" |
        msgattrib --no-obsolete --no-wrap --no-fuzzy -o "$merged"
    sed -i '/^"POT-Creation-Date/d' "$merged"
    if [ "${1:-}" = "--check" ]; then
        for file in "$catalogue" "$merged"; do msgcat --no-location --no-wrap --sort-output "$file" >"$made/$(basename "$(dirname "$file")").txt"; done
        cmp -s "$made/po.txt" "$made/$(basename "$made").txt" || { echo "$catalogue: run scripts/make_words.sh and translate what is new" >&2; exit 1; }
        echo "$catalogue: $(msgattrib --translated --no-wrap "$catalogue" | grep -c '^msgid ') texts, as the code says them"
    else
        cp "$merged" "$catalogue"
    fi
done
