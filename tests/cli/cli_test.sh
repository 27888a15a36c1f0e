#!/usr/bin/env bash
# The command line contract: exit codes, JSON, one sentence on standard error.
set -u
cli=$1
root=$2
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
failures=0
check() { # check NAME EXPECTED_CODE COMMAND...
    local name=$1 expected=$2
    shift 2
    "$@" >"$work/out" 2>"$work/err"
    local code=$?
    if [ $code -ne "$expected" ]; then echo "FAILED $name: exit $code, expected $expected"; cat "$work/err"; failures=$((failures + 1)); fi
}
has() { grep -q -- "$2" "$work/$1" || { echo "FAILED: no \"$2\" in $1:"; cat "$work/$1"; failures=$((failures + 1)); }; }
json() { python3 -c "import json,sys; d=json.load(open('$work/out')); sys.exit(0 if ($1) else 1)" || { echo "FAILED: $1"; failures=$((failures + 1)); }; }

demo=$root/demo/heron_point.json
check "check" 0 "$cli" check "$demo"
has out "nothing to mend"
check "solve" 0 "$cli" solve "$demo" --design "Yagi, 70 MHz" --resonance
has out "resonant at 70"
check "solve json" 0 "$cli" solve "$demo" --design "Yagi, 70 MHz" --freq 70.1 70.3 --json
json "len(d) == 2 and 15 < d[0]['gain_dbi'] < 18 and d[0]['z'][0][0] > 10"
check "sweep json" 0 "$cli" sweep "$demo" --from 5 --to 5.6 --points 7 --json
json "len(d['points']) == 7 and d['points'][-1]['frequency_hz'] == 5.6e6"
check "sweep band" 0 "$cli" sweep "$demo" --band "60 m" --csv
has out "frequency_MHz,R_ohm"
check "sweep of the design's own band" 0 "$cli" sweep "$demo" --design "Yagi, 70 MHz" --points 3 --csv
has out "^70.25"
sed 's/^ *"4 m"$/"2 m"/' "$demo" >"$work/elsewhere.json"
check "a design for no band of the project" 2 "$cli" sweep "$work/elsewhere.json" --design "Yagi, 70 MHz"
has err "say which with --band"
check "pattern" 0 "$cli" pattern "$demo" --design "Yagi, 70 MHz" --json
json "len(d['azimuth_cut']['bearing_gain']) == 73 and abs(max(g for a, g in d['azimuth_cut']['bearing_gain']) - d['peak_dbi']) < 0.1"
json "[a for a, g in d['azimuth_cut']['bearing_gain'] if g > d['peak_dbi'] - 0.01][0] == 120"
check "no such file" 2 "$cli" solve "$work/none.json"
has err "none.json cannot be opened"
[ "$(wc -l <"$work/err")" -eq 1 ] || { echo "FAILED: not one sentence"; failures=$((failures + 1)); }
check "no such design" 2 "$cli" solve "$demo" --design nothing
has err "nothing"
printf '{"format": "reed-mast project",' >"$work/damaged.json"
check "damaged file" 2 "$cli" solve "$work/damaged.json"
has err "damaged"
sed 's/"leg": "leg"/"leg": "legg"/' "$demo" >"$work/broken.json"
check "check finds" 1 "$cli" check "$work/broken.json"
has out "did you mean leg"
check "never a number for a broken model" 2 "$cli" solve "$work/broken.json"
has err "Inverted V"
check "bad band" 2 "$cli" sweep "$demo" --band "61 m"
check "no command" 2 "$cli"
check "pattern of all directions" 0 "$cli" pattern "$demo" --design "Yagi, 70 MHz" --sphere --step 10
[ "$(grep -c '^[0-9]' "$work/out")" -eq 360 ] || { echo "FAILED: 10 x 36 directions"; failures=$((failures + 1)); }
check "cuts" 0 "$cli" pattern "$demo" --design "Yagi, 70 MHz" --csv
has out "azimuth,120.00"
# Numbers: within limits, or one sentence that names the option.
for freq in 0 -14 nan inf 1e999 1e9 abc 14,2; do
    check "frequency $freq" 2 "$cli" solve "$demo" --freq="$freq"
    has err "MHz"
done
for range in "--from=0 --to=7" "--from=-5 --to=7" "--from=7" "--from=8 --to=7" "--from=nan --to=7"; do
    # shellcheck disable=SC2086
    check "sweep $range" 2 "$cli" sweep "$demo" $range
done
for target in 0 -50 nan; do check "target $target" 2 "$cli" match "$demo" --target="$target"; has err "ohm"; done
for step in 0 1e-9 nan 91; do check "step $step" 2 "$cli" pattern "$demo" --step="$step"; has err "degrees"; done
check "tune without an evaluation" 2 "$cli" tune "$demo" --evaluations=0
check "thick at another frequency" 2 "$cli" solve "$root/tests/found/thick_300mm.json" --freq 432
has err "too much for a wire"
check "a warning goes to standard error" 0 "$cli" solve "$root/tests/found/thick_300mm.json" --freq 40 41 --json
has err "warning: W is"
[ "$(grep -c warning "$work/err")" -eq 2 ] || { echo "FAILED: one warning for each frequency"; failures=$((failures + 1)); }
json "len(d) == 2"
check "a sweep warns at its upper end" 0 "$cli" sweep "$root/tests/found/thick_300mm.json" --from 14 --to 40 --points 3
has err "warning: W is"
check "two feeds in one place" 2 "$cli" solve "$root/tests/found/two_feeds_one_place.json"
has err "same place"
for file in denormal_stod number_overflow span_1e30_oob_read sweep_band_heap_overflow copies_64x64x64x64; do
    check "$file" 2 timeout 20 "$cli" sweep "$root/tests/found/$file.json"
    [ "$(wc -l <"$work/err")" -eq 1 ] || { echo "FAILED: $file is not one sentence"; cat "$work/err"; failures=$((failures + 1)); }
done
mkfifo "$work/pipe"
check "a pipe is no project" 2 timeout 10 "$cli" check "$work/pipe"
check "a device is no project" 2 timeout 10 "$cli" check /dev/zero
python3 - "$root/tests/found/thick_300mm.json" "$work/orders.json" <<'P'
import json, sys
project = json.load(open(sys.argv[1]))
project["title"] = "T\x1b]0;owned\x07"
project["designs"][0]["name"] = "D\n# MHz Z RI R 1"
json.dump(project, open(sys.argv[2], "w"))
P
check "names give no orders" 0 "$cli" solve "$work/orders.json"
if grep -q "$(printf '\033')" "$work/out"; then echo "FAILED: an escape reached the terminal"; failures=$((failures + 1)); fi
check "nor add options to a file" 0 "$cli" sweep "$work/orders.json" --band "20 m" --points 3 --s1p "$work/orders.s1p"
[ "$(grep -c '^#' "$work/orders.s1p")" -eq 1 ] || { echo "FAILED: one option line"; failures=$((failures + 1)); }
check "compare" 0 "$cli" compare "$demo" --json
json "len(d['rows']) == 12 and sum(c is not None for r in d['rows'] for c in r['cells']) >= 20"
check "compare as a table" 0 "$cli" compare "$demo" --figure gain --angle 10
has out "End-fed, sloper"
check "match" 0 "$cli" match "$demo" --design "End-fed, inverted L" --band "20 m" --values e12 --json
json "len(d['matches']) >= 6 and min(m['swr'] for m in d['matches']) < 1.3 and all(m['blocks'] for m in d['matches'])"
check "match at a joint that is not there" 2 "$cli" match "$demo" --design "End-fed, inverted L" --joint 9
has err "joints 0 (the feedpoint) to 3"
check "sweep at the antenna" 0 "$cli" sweep "$demo" --design "End-fed, inverted L" --band "20 m" --at antenna --csv
has out "feed_path_loss_dB"
check "sweep to a Touchstone file" 0 "$cli" sweep "$demo" --design "End-fed, sloper" --band "60 m" --points 21 --s1p "$work/out.s1p"
test "$(grep -c '^[0-9]' "$work/out.s1p")" = 21 || { echo "FAILED: 21 points in the Touchstone file"; failures=$((failures + 1)); }
cat > "$work/goals.json" <<'G'
{"goals": [{"kind": "SWR", "limit": "1.3", "from": "70 MHz", "to": "70.5 MHz"},
           {"kind": "front-to-rear", "limit": "12", "from": "70 MHz", "to": "70.5 MHz"}],
 "may move": [{"dimension": "refl"}, {"dimension": "driven"}, {"dimension": "d1"}],
 "limits": [{"kind": "boom length", "value": "3.5 m"}]}
G
check "tune" 0 "$cli" tune "$demo" --design "Yagi, 70 MHz" --goals "$work/goals.json" --starts 1 --out "$work/tuned.json" --checkpoint "$work/point.json" --json
json "d['met'] and all(g['met'] for g in d['rounded']) and set(d['best']['values']) == {'refl', 'driven', 'd1'}"
python3 - "$demo" "$work/tuned.json" <<'P' || { echo "FAILED: goals of a file stay out of the project"; failures=$((failures + 1)); }
import json, sys
before, after = ([d for d in json.load(open(f))["designs"] if d["name"] == "Yagi, 70 MHz"][0] for f in sys.argv[1:])
assert before.get("tune") == after.get("tune") and before["dimensions"] != after["dimensions"]
P
check "tune and keep the goals" 0 "$cli" tune "$demo" --design "Yagi, 70 MHz" --goals "$work/goals.json" --starts 1 --out "$work/tuned.json" --keep-goals --json
grep -q '"boom length"' "$work/tuned.json" || { echo "FAILED: goals kept where asked for"; failures=$((failures + 1)); }
check "tune as it is built" 0 "$cli" tune "$demo" --design "Yagi, 70 MHz" --goals "$work/goals.json" --starts 1 --as-built --json
json "d['as_built']['builds'] == 100 and d['as_built']['meeting'] >= d['as_built']['plain_meeting']"
check "tune again from its checkpoint" 0 "$cli" tune "$demo" --design "Yagi, 70 MHz" --goals "$work/goals.json" --starts 1 --checkpoint "$work/point.json"
has err "going on from"
has out "rounded to steps"
check "the tuned project is a project" 0 "$cli" check "$work/tuned.json" --design "Yagi, 70 MHz"
check "build" 0 "$cli" build "$demo" --design "Yagi, 70 MHz" --json
json "len(d['pieces']) >= 5 and len(d['stock'][0]['bars']) >= 2 and all(b['left_m'] >= 0 for b in d['stock'][0]['bars'])"
check "build as a table" 0 "$cli" build "$demo" --design "Inverted V, 60 m" --end "40 cm"
has out "13.900"
sed 's/"feet and inches": false/"feet and inches": true/' "$demo" >"$work/feet.json"
check "build in feet" 0 "$cli" build "$work/feet.json" --design "End-fed, sloper"
has out "copper 2 mm *173 ft"
if grep -v "^Radiator\|^Counterpoise" "$work/out" | grep -q "[0-9] m\b"; then echo "FAILED: metres in feet"; cat "$work/out"; failures=$((failures + 1)); fi
check "build as values" 0 "$cli" build "$demo" --design "Yagi, 70 MHz" --csv
has out '"Yagi, reflector",1,'
has out '"Boom of Yagi"'
check "build on paper" 0 "$cli" build "$demo" --design "Yagi, 70 MHz" --pdf "$work/build.pdf"
head -c 5 "$work/build.pdf" | grep -q "%PDF-" || { echo "FAILED: no PDF of the build"; failures=$((failures + 1)); }
check "build of thicker walls and a joined boom" 0 "$cli" build "$demo" --design "Yagi, 70 MHz" --wall "2 mm" --stock "2.2 m" --json
json "len(d['booms'][0]['joints_m']) == 1 and max(d['booms'][0]['tubes_m']) <= 2.2 and d['booms'][0]['mass_kg'] > d['booms'][0]['elements_kg'] > 0"
check "build with nonsense" 2 "$cli" build "$demo" --stock "0 m"
check "trade the boom" 0 "$cli" trade "$demo" --design "Yagi, 70 MHz" --goals "$work/goals.json" --goal 1 --from 1.2 --to 1.6 --points 2 --out "$work/trade.json"
has out '^ *1.2 '
check "its antennas are designs" 0 "$cli" check "$work/trade.json" --design "Yagi, 70 MHz, 1.2"
check "trade what is not there" 2 "$cli" trade "$demo" --design "Yagi, 70 MHz" --limit 7 --from 1 --to 2
has err 'sweep one of --goal 1 (SWR at the radio at most)'
check "tune without goals" 2 "$cli" tune "$demo" --design "Ground plane, 30 m"
has err "There is no goal"
check "what matters" 0 "$cli" matters "$demo" --design "Inverted V, 60 m" --step cm --json
json "{r['dimension'] for r in d['dimensions']} == {'apex', 'leg', 'spread'} and d['dimensions'][0]['resonance_hz'] != 0"
check "tolerance" 0 "$cli" tolerance "$demo" --design "Inverted V, 60 m" --length "20 mm" --builds 12 --json
json "d['builds'] == 12 and d['meeting'] is None and all(a <= b <= c for a, b, c in zip(d['swr_low'], d['swr_median'], d['swr_high']))"
check "a scan of two dimensions" 0 "$cli" scan "$demo" --design "Inverted V, 60 m" --over leg --from "13 m" --to "14 m" --points 3 --and spread --and-from 90 --and-to 120 --figure resistance --json
json "len(d['values']) == 3 and len(d['values'][0]) == 3 and 20 < d['values'][1][1] < 100"
check "a scan as a table" 0 "$cli" scan "$demo" --design "Inverted V, 60 m" --over leg --from "13 m" --to "14 m" --points 3
has out "leg"
check "a scan of the gain at an angle" 0 "$cli" scan "$demo" --design "Inverted V, 60 m" --over leg --from "13 m" --to "14 m" --points 2 --figure gain-at --angle 30 --json
json "d['figure'] == 'gain-at' and all(-10 < v < 10 for v in d['values'][0])"
check "a scan of nothing" 2 "$cli" scan "$demo" --design "Inverted V, 60 m" --over wing --from 1 --to 2
has err "no dimension named \"wing\""
check "a tolerance that cannot be read" 2 "$cli" tolerance "$demo" --length wide
has err "error of the lengths"
check "the starters" 0 "$cli" starters --json
json "len(d) > 25 and all(k['good_at'] for k in d)"
check "a starter" 0 "$cli" starter inverted-v --band "40 m" --height "12 m" --out "$work/v.json"
check "it is resonant" 0 "$cli" solve "$work/v.json" --json
json "d[0]['swr'] < 1.7 and abs(d[0]['z'][0][1]) < 5"
check "no such starter" 2 "$cli" starter umbrella
has err "no starter \"umbrella\""
for end in pdf svg dxf; do check "a drawing as $end" 0 "$cli" draw "$demo" "$work/drawing.$end" --design "Yagi, 70 MHz"; done
head -c 5 "$work/drawing.pdf" | grep -q "%PDF-" || { echo "FAILED: no PDF"; failures=$((failures + 1)); }
check "a report" 0 "$cli" report "$demo" "$work/report.pdf" --design "Dipole to the hedge, 30 m" --builds 3
head -c 5 "$work/report.pdf" | grep -q "%PDF-" || { echo "FAILED: no report"; failures=$((failures + 1)); }
check "a report of another kind" 2 "$cli" report "$demo" "$work/report.txt"
"$cli" build "$demo" --design "Dipole to the hedge, 30 m" | grep -q "rope" || { echo "FAILED: no rope"; failures=$((failures + 1)); }
"$cli" build "$demo" --design "Dipole to the hedge, 30 m" --json | python3 -c "
import json, sys
sheet = json.load(sys.stdin)
assert abs(sum(h['wire_m'] for h in sheet['hung']) - 14.36) < 1e-6, sheet['hung']
assert any(o['what'] == 'rope' for o in sheet['order']), sheet['order']" || { echo "FAILED: build sheet in JSON"; failures=$((failures + 1)); }
check "a boom at its true size" 0 "$cli" draw "$demo" "$work/boom.pdf" --design "Yagi, 70 MHz" --true-size
has out '5 sheets'
check "a boom at its true size on one sheet" 2 "$cli" draw "$demo" "$work/boom.svg" --design "Yagi, 70 MHz" --true-size
has err 'several pages'
check "a boom of what has none" 2 "$cli" draw "$demo" "$work/boom.pdf" --design "Inverted V, 60 m" --true-size
check "a drawing of another kind" 2 "$cli" draw "$demo" "$work/drawing.txt"
has err ".pdf, .svg or .dxf"
check "trim by what was measured" 0 "$cli" trim "$demo" --design "End-fed, inverted L" --band "20 m" --json
json "d['dimension'] in ('run', 'counter') and d['causes'][0]['cause'] == 'length' and len(d['curve']['hz']) == 81"
check "nothing to trim by" 2 "$cli" trim "$demo" --design "Inverted V, 60 m"
has err "import one"
check "the field at points" 0 "$cli" field "$demo" --at 0,5,1.8 --at 3,0,1.8 --json
json "len(d['points']) == 2 and d['points'][0]['e_vm'] > 1 and d['values'] == 'rms' and d['radio_w'] == 100"
check "the field on a plane" 0 "$cli" field "$demo" --level 1.8 --points 11 --csv
[ "$(wc -l <"$work/out")" -eq 122 ] || { echo "FAILED: a line for every point"; failures=$((failures + 1)); }
check "the field nowhere" 2 "$cli" field "$demo"
has err "Say where"
check "the field at half a point" 2 "$cli" field "$demo" --at 0,5
has err "three numbers"
check "keep clear" 0 "$cli" clear "$demo" --design "Delta loop, 17 m, fed in the middle" --band "17 m" --power 400 --mode speech --pdf "$work/clear.pdf" --json
json "len(d['rows']) == 2 and d['rows'][0]['head']['largest_share_of_limit'] > d['rows'][1]['head']['largest_share_of_limit'] > 0"
json "d['radio_w'] == 400 and abs(d['counted_share'] - 0.2 * 10 ** 0.3) < 1e-6"
[ "$(head -c 4 "$work/clear.pdf")" = "%PDF" ] || { echo "FAILED: keep clear as PDF"; failures=$((failures + 1)); }
check "limits of nobody" 2 "$cli" clear "$demo" --limits nobody
check "choke" 0 "$cli" choke "$demo" --design "End-fed, inverted L" --json
json "d['run'] == 'Cable run' and d['now']['current_share'] < d['none']['current_share'] and len(d['sizes']) == 31"
check "choke in a table" 0 "$cli" choke "$demo" --design "End-fed, inverted L"
has out "change of gain, dB"
check "choke without a run" 2 "$cli" choke "$demo" --design "Yagi, 70 MHz"
has err "no cable run"
check "parts" 0 "$cli" parts "$demo" --design "Delta loop, 17 m, fed in the middle"
has out "Cable run"
check "balance" 0 "$cli" solve "$demo" --design "End-fed, inverted L" --json
json "d[0]['balance'][0]['run'] == 'Cable run' and d[0]['balance'][0]['one_side_a'] > d[0]['balance'][0]['common_a'] > 0 and d[0]['loads'][0]['name'] == 'Choke'"
check "heights" 0 "$cli" heights "$demo" --design "Inverted V, 60 m" --points 5 --json
json "len(d['points']) == 5 and d['points'][0]['feed_height_m'] < d['points'][-1]['feed_height_m'] and len(d['points'][0]['watch_gain_dbi']) == 4"
check "grounds" 0 "$cli" grounds "$demo" --design "Inverted V, 60 m"
has out "Salt water"
check "scale" 0 "$cli" scale "$demo" --design "Delta loop, 17 m, fed in the corner" --to 21.2 --out "$work/scaled.json" --json
json "abs(d['resonance_hz'] - 21.2e6) < 2e3 and d['factor'] < 1"
check "what was scaled" 0 "$cli" solve "$work/scaled.json" --design "Delta loop, 17 m, fed in the corner" --freq 21.2 --json
json "abs(d[0]['z'][0][1]) < 1 and d[0]['directivity_dbi'] > d[0]['gain_dbi']"
check "drives" 0 "$cli" drives "$demo" --design "Two Yagis stacked, 70 MHz" --json
json "len(d['drives']) >= 2 and all(len(r['z']) == 2 for r in d['drives'] if not r['problem'])"
check "coupling" 0 "$cli" coupling "$demo" --design "Two Yagis stacked, 70 MHz" --points 3 --json
json "abs(d['frequency_hz'] - 70.25e6) < 1"
json "d['coupling_db'][0][1] < -10 and abs(d['z'][0][1][0] - d['z'][1][0][0]) < 1e-6 and len(d['over_the_band']) == 3"
check "coupling of one feed" 2 "$cli" coupling "$demo" --design "Inverted V, 60 m"
has err "nothing to couple"
check "stack" 0 "$cli" stack "$demo" --design "Two Yagis stacked, 70 MHz" --points 3 --json
json "d['row_spacing_m'] > 1 and len(d['scan']) == 3"
check "a stack of nothing" 2 "$cli" stack "$demo" --design "Inverted V, 60 m"
has err "no stack"
check "currents" 0 "$cli" currents "$demo" --design "Inverted V, 60 m" --json
json "len(d['parts']) >= 1 and max(abs(complex(*p['a'])) for p in d['parts'][0]['points']) > 0.5"
check "who carries current without being fed" 0 "$cli" currents "$demo" --design "Two Yagis stacked, 70 MHz" --json
json "all(0 < p['share'] <= 1 for p in d['not_fed'])"
check "currents to read" 0 "$cli" currents "$demo" --design "Inverted V, 60 m"
rows=$(grep -c '^ *[0-9.]* *[0-9.]* .*°$' "$work/out")
[ "$rows" -ge 20 ] && [ "$rows" -le 60 ] || { echo "FAILED: $rows rows of currents"; failures=$((failures + 1)); }
check "currents of nothing" 2 "$cli" currents "$demo" --part "Nothing"
has err "no part named"
for way in strongest best 250; do
    "$cli" compare "$demo" --figure gain --angle 15 --towards $way --json >"$work/$way.json" || { echo "FAILED: compare towards $way"; failures=$((failures + 1)); }
done
python3 - "$work" <<'P' || { echo "FAILED: the best bearing is no worse than any other"; failures=$((failures + 1)); }
import json, sys
cells = {w: [c for r in json.load(open(f"{sys.argv[1]}/{w}.json"))["rows"] for c in r["cells"] if c] for w in ("strongest", "best", "250")}
assert len(cells["best"]) > 8
better = 0
for s, b, g in zip(cells["strongest"], cells["best"], cells["250"]):
    assert b["gain_at_angle_dbi"] > s["gain_at_angle_dbi"] - 0.02 and b["gain_at_angle_dbi"] > g["gain_at_angle_dbi"] - 0.02
    assert g["gain_bearing_deg"] == 250
    better += b["gain_at_angle_dbi"] > s["gain_at_angle_dbi"] + 0.5
assert better > 0
P
check "compare towards nowhere" 2 "$cli" compare "$demo" --towards nowhere
check "manual" 0 "$cli" manual
for command in $("$cli" --help | sed -n '/^Subcommands:/,$p' | awk '/^  [a-z]/ { print $1 }'); do
    grep -q "^.SS $command\$" "$work/out" || { echo "FAILED: the manual misses $command"; failures=$((failures + 1)); }
done
"$cli" completion >"$work/completion" && bash -c 'source "$1"; COMP_WORDS=(reedmast-cli sol); COMP_CWORD=1; _reedmast_cli; [ "${COMPREPLY[*]}" = solve ]; COMP_WORDS=(reedmast-cli solve --js); COMP_CWORD=2; _reedmast_cli; [ "${COMPREPLY[*]}" = --json ]' _ "$work/completion" || { echo "FAILED: completion"; failures=$((failures + 1)); }
check "verify" 0 "$cli" verify "$root/tests/reference/wires.json" --out "$work/results.json"
has out "41 pass, 0 fail"
python3 - "$work/results.json" <<'P' || { echo "FAILED: results file"; failures=$((failures + 1)); }
import json, sys
r = {x["name"]: x for x in json.load(open(sys.argv[1]))["results"]}
assert len(r) == 41 and r["real_yagi3"]["verdict"] == "pass"
y = r["free_yagi5"]
assert {"z", "gain_dbi", "max_dbi", "average_gain", "unknowns", "seconds"} <= y.keys() and len(y["gain_dbi"]) == 9
P
python3 - "$root/tests/reference/wires.json" "$work/wrong.json" <<'P'
import json, sys
d = json.load(open(sys.argv[1])); d["cases"] = d["cases"][:2]; d["cases"][1]["expect"]["z"][0][0] += 5
json.dump(d, open(sys.argv[2], "w"))
P
check "verify fails beyond tolerance" 1 "$cli" verify "$work/wrong.json"
has out "1 pass, 1 fail"
# Studies: the same bytes alone, in parts, and under mpirun; a killed rank costs what it had in hand.
cat >"$work/study.json" <<STUDY
{"format": "reed-mast study", "version": 1, "project": "$demo", "design": "Yagi, 70 MHz", "work": "build", "repeat": 60,
 "figures": ["SWR", "worst SWR", "gain"], "band": "4 m", "errors": {"length": "2 mm", "angle": "0 deg", "diameter": "0 %", "height": "0 m", "ground": "0 %"}}
STUDY
check "study" 0 "$cli" study "$work/study.json" --quiet
[ "$(grep -c '^[0-9]' "$work/study.csv")" -eq 60 ] || { echo "FAILED: 60 builds"; failures=$((failures + 1)); }
check "study again" 0 "$cli" study "$work/study.json"
has out "60 cases were there already"
for part in 1 2 3; do check "part $part" 0 "$cli" study "$work/study.json" --part $part/3 --out "$work/part$part.csv" --quiet; done
check "merge" 0 "$cli" merge "$work/merged.csv" "$work"/part?.csv
cmp "$work/study.csv" "$work/merged.csv" || { echo "FAILED: parts are another study"; failures=$((failures + 1)); }
check "part that is none" 2 "$cli" study "$work/study.json" --part 4/3
has err "3/64"
check "study of nothing" 2 "$cli" study "$demo"
has err "no study"
module=$(dirname "$cli")/../mpi/reedmast-mpi.so
if [ -f "$module" ]; then
    export OMPI_ALLOW_RUN_AS_ROOT=1 OMPI_ALLOW_RUN_AS_ROOT_CONFIRM=1
    ranks="mpirun --oversubscribe -q -n 3"
    # shellcheck disable=SC2086
    check "study under mpirun" 0 $ranks "$cli" study "$work/study.json" --out "$work/ranks.csv" --quiet
    cmp "$work/study.csv" "$work/ranks.csv" || { echo "FAILED: ranks are another study"; failures=$((failures + 1)); }
    sed 's/"repeat": 60/"repeat": 2000/' "$work/study.json" >"$work/long.json"
    $ranks "$cli" study "$work/long.json" --out "$work/killed.csv" --quiet >/dev/null 2>&1 &
    started=$!
    for _ in $(seq 200); do [ "$(grep -c '^[0-9]' "$work/killed.csv" 2>/dev/null)" -gt 40 ] 2>/dev/null && break; sleep 0.1; done
    kill -9 "$(pgrep -P $started -f reedmast-cli | tail -1)"
    wait $started 2>/dev/null
    there=$(cat "$work"/killed.csv.rank* | grep -c '^[0-9]')
    # Let it go on for a moment only: what it counts as there is what matters.
    timeout -s INT 1 "$cli" study "$work/long.json" --out "$work/killed.csv" >"$work/out" 2>/dev/null
    earlier=$(sed -n 's/ cases were there already//p' "$work/out")
    [ "${earlier:-0}" -gt 40 ] && [ "$earlier" -ge $((there - 3)) ] || { echo "FAILED: $earlier of $there cases were there after a kill"; failures=$((failures + 1)); }
    has out "the same command goes on"
fi

[ $failures -eq 0 ] && echo "command line: all as promised"
exit $((failures > 0))
