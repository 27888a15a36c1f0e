#!/usr/bin/env bash
# Takes the pictures in docs/screenshots from the demo, at 1280x800, without a display. Builds what it needs.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
source scripts/packages.sh
rm_build reedmast-screenshots reedmast-cli
shots=build/$RM_PRESET/src/tools/reedmast-screenshots
export QT_QPA_PLATFORM=offscreen XDG_RUNTIME_DIR="${XDG_RUNTIME_DIR:-/tmp}"
take() { "$shots" demo/heron_point.json "docs/screenshots/$1.png" "${@:2}" 2>/dev/null; }
take bench-light --design 1
take build-light --design 7 --view build
take radials-light --design 9 --view radials
take height-study-light --design 1 --select site --view heights
take hands-light --design 7 --part 1 --grip "director 3, right tip"
take site-light --design 10 --part 1 --view site
take gallery-light --design 4 --view gallery
take trim-light --design 3 --band 3 --view trim
take match-light --design 3 --view match
take match-german --design 3 --view match --language de
take band-measured-light --design 3 --band 3 --view band
take compare-light --design 2 --view compare
take field-dark --design 3 --band 3 --view field --dark
take boom-light --design 7 --view boom
take paper-light --design 7 --view paper
take proposal-light --design 7 --view proposal
take clear-light --design 3 --band 3 --view clear
results=$(mktemp -d)
"build/$RM_PRESET/src/cli/reedmast-cli" study demo/apex_and_leg.study.json --out "$results/apex_and_leg.csv" --quiet
take results-light --design 1 --result "$results/apex_and_leg.csv"
rm -r "$results"
take trade-light --design 7 --view trade
