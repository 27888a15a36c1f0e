#!/usr/bin/env python3
"""Writes docs/performance.md from the benchmark programs. Run on an idle machine after ./test:
RM_PRESET=strict scripts/make_performance.py"""
import json
import os
import pathlib
import re
import resource
import statistics
import subprocess

ROOT = pathlib.Path(__file__).resolve().parent.parent
BENCH = ROOT / "build" / os.environ.get("RM_PRESET", "release") / "benchmarks"
RUNS = 3

# An hour of random use of the window: RM_SOAK names what reedmast-monkey --seconds 3600 --memory printed, kept here.
SOAK = ROOT / "benchmarks" / "soak.json"

# name of the benchmark, what it is, what is to be reached in ms (or as a ratio), and what bounds it, by a profile
ROWS = [
    ("radialsInSoil/32/0/real_time", "quarter wave, 32 radials 5 cm in average soil, a new frequency every time", 40,
     "the tables of the ground: boxes across the surface (512 integrals each), then those in the soil; both processors"),
    ("radialsInSoil/120/0/real_time", "the same with 120 radials", 60,
     "the tables as before, then the interactions of one sector with sixty others"),
    ("radialsInSoil/32/1/real_time", "32 radials, their length dragged", 16, "the interactions of one sector with the others"),
    ("radialsInSoil/120/1/real_time", "120 radials, their length dragged", 16, "the interactions of one sector with sixty others"),
    ("radialsInSoil/8/0/real_time", "8 radials, a new frequency every time", None, "the tables of the ground, which the number of radials hardly changes"),
    ("radialsInSoil/8/1/real_time", "8 radials, their length dragged", None, "the mesh and the spans at the hub"),
    ("radialFan/128/real_time", "128 radials 10 cm above the ground", 15, "the interactions of one sector with the others"),
    ("sixteenYagisOverGround/iterations:3/real_time", "sixteen Yagis of 11 elements over ground, cold, with cuts", 250,
     "the search for the strongest lobe, the pairs of Yagis that differ, two factorisations of half the size"),
    ("largeDenseSolve/0/iterations:2", "a dense solve of 1567 unknowns with a plane of symmetry, over the factorisation alone", 1.6,
     "the fill; two halves take a quarter of the factorisation"),
    ("largeDenseSolve/1/iterations:2", "the same without that plane", None, "the fill, which nothing shortens"),
    ("nearFieldPlane/0/real_time", "near field at 200 x 200 points of an upright plane, 110 unknowns over ground", 100, "the spans near every point, then the kernels of the ground out of their tables"),
    ("nearFieldPlane/1/real_time", "the same of a level plane at the height of a head", 100, "the kernels of the ground with six derivatives out of their tables"),
    ("nearFieldOverRadials/real_time", "the same over a quarter wave on 32 radials in the soil", None, "the kernels across the surface at the grids of the pieces, and of the radials near each of them"),
    ("cutsWeighed/iterations:3/real_time", "every length of two stacked Yagis weighed for the cut list, a new frequency every time", None,
     "field solutions with each length a step longer and shorter"),
    ("tuneNineDimensions/iterations:1/real_time", "nine dimensions tuned over five frequencies from a poor start", 1000,
     "derivatives of the solutions by every dimension, on both processors"),
]
DEMO = [f"demoDesign/{i}/manual_time" for i in range(10)]


def measured(program, names):
    """Medians of several runs, by name."""
    pattern = "|".join("^" + name + "$" for name in names)
    out = subprocess.run([BENCH / program, f"--benchmark_filter={pattern}", f"--benchmark_repetitions={RUNS}",
                          "--benchmark_report_aggregates_only=true", "--benchmark_format=json"],
                         capture_output=True, text=True, env={**os.environ, "QT_QPA_PLATFORM": "offscreen"}).stdout
    return {b["run_name"]: b for b in json.loads(out)["benchmarks"] if b["aggregate_name"] == "median"}


def dragged(pattern):
    """Drags in a real window, by label: each bench tells the median, nine of ten and the worst of its own."""
    out = subprocess.run([BENCH / "reedmast-window-bench", f"--benchmark_filter={pattern}", "--benchmark_format=json"],
                         capture_output=True, text=True, env={**os.environ, "QT_QPA_PLATFORM": "offscreen"}).stdout
    return [b for b in json.loads(out)["benchmarks"] if "median_ms" in b]


def milliseconds(bench):
    return bench["real_time"] * {"ns": 1e-6, "us": 1e-3, "ms": 1.0, "s": 1e3}[bench["time_unit"]]


def peak_mb(benchmark):
    """Most memory of a process that runs this benchmark alone: the first child, so that no other counts."""
    subprocess.run([BENCH / "reedmast-bench", f"--benchmark_filter=^{benchmark}$"], capture_output=True, check=True)
    return resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1000.0


def soak():
    """Seed, steps and MB after each minute of the last soak."""
    if "RM_SOAK" in os.environ:
        text = pathlib.Path(os.environ["RM_SOAK"]).read_text()
        found = {"seed": int(re.search(r"seed (\d+)", text)[1]), "steps": int(re.search(r"(\d+) steps in", text)[1]),
                 "MB": [int(m) for m in re.findall(r"^after \d+ min: (\d+) MB", text, re.M)],
                 "rest MB": [int(m) for m in re.findall(r"^at rest after \d+ min: (\d+) MB", text, re.M)]}
        SOAK.write_text(json.dumps(found) + "\n")
    return json.loads(SOAK.read_text())


radials_mb = peak_mb("radialsInSoil/120/0/real_time")
engine = measured("reedmast-bench", [name for name, *_ in ROWS] + DEMO)
window = measured("reedmast-window-bench", ["yardFrame/5", "yardFrame/50", "yardFrame/200"])
whole = measured("reedmast-window-bench", [f"wholeWindow/{i}" for i in range(10)])
lines = [
    "# Performance", "",
    f"Made by `scripts/make_performance.py`: medians of {RUNS} runs, on a shared machine with two processors whose speed wanders by half.",
    "Ratios within one run say more than milliseconds.", "",
    "| work | median, ms | reach, ms | what bounds it |", "|---|---|---|---|"]
for name, what, reach, bound in ROWS:
    b = engine[name]
    if name.startswith("largeDense"):
        within = f"{reach} x" if reach else "none"
        lines.append(f"| {what} | {b['over_factorisation']:.2f} x ({milliseconds(b):.0f}) | {within} | {bound} |")
    else:
        lines.append(f"| {what} | {milliseconds(b):.1f} | {reach or 'none'} | {bound} |")
lines += ["", "## The demo's designs", "",
          "Step by step at one frequency, on the quick mesh, ms: worked out (dimensions, shapes, checks), meshed, the matrix filled, factored",
          "and solved, read (peak, both cuts, power to the sky), and all of them; painted is the whole window, all that it shows, where an edit",
          "paints only what has changed. Equal sectors are filled and factored as one.", "",
          "| design | unknowns | worked out | meshed | filled | factored | read | all | painted |", "|---|---|---|---|---|---|---|---|---|"]
for i, name in enumerate(DEMO):
    b = engine[name]
    fill = f"{b['fill_ms']:.2f}" if b["fill_ms"] > 0.0 else "as one"
    lines.append(f"| {b['label']} | {b['unknowns']:.0f} | {b['expand_ms']:.2f} | {b['mesh_ms']:.2f} | {fill} | {max(0.0, b['factor_ms']):.2f} | "
                 f"{b['read_ms']:.2f} | {milliseconds(b):.2f} | {milliseconds(whole[f'wholeWindow/{i}']):.1f} |")
lines += ["", "## The yard", "", "One frame of the drawing, of so many wires:", "", "| wires | median, ms |", "|---|---|"]
for name, b in sorted(window.items(), key=lambda item: int(item[0].split("/")[1])):
    lines.append(f"| {name.split('/')[1]} | {milliseconds(b):.1f} |")
lines += ["", "## From an edit to its picture", "",
          "A dimension moved by two thousandths in a real window, sixty times a second at most, until the figures, cuts and curves of the",
          "working frequency are on the screen; the reach is one frame, 16 ms. The finer mesh of the self-check and the sweep of the band come",
          "after it.", "", "| design | median, ms | nine of ten | worst |", "|---|---|---|---|"]
for b in dragged("^editToPicture"):
    lines.append(f"| {b['label']} | {b['median_ms']:.1f} | {b['nine_of_ten_ms']:.1f} | {b['worst_ms']:.1f} |")
lines += ["", "The same while an eleven-element Yagi is tuned in the background, on both processors (reach: 50 ms), and while nothing is:", "",
          "| design | median, ms | nine of ten | worst |", "|---|---|---|---|"]
for b in dragged("^dragWhileTuning"):
    lines.append(f"| {b['label']} | {b['median_ms']:.1f} | {b['nine_of_ten_ms']:.1f} | {b['worst_ms']:.1f} |")
lines += ["", "## Memory", "",
          "What is kept so that asking again costs nothing, and the most of it: tables of grounds 100 MB together (160 grounds and frequencies);",
          "pairs of spans 4000 per thread in air and 4096 over ground; field solutions of the window, of its checks and of pins as stated in",
          "`src/core/study/field_store.h`; fields of the tuner 400 MB.", "",
          f"The quarter wave on 120 radials takes {radials_mb:.0f} MB, program included (reach: 200 MB).", ""]
kept = soak()
tens = [kept["MB"][i:i + 10] for i in range(0, len(kept["MB"]) - 9, 10)]
lines += [f"An hour of random use of the real window, {kept['steps']} steps (`reedmast-monkey --seconds 3600 --seed {kept['seed']} --memory`): "
          "designs opened,", "copied, edited, dragged, tuned and left, every view open in turn. It goes up and down with what is open and worked out.", "",
          "| minutes | " + " | ".join(f"{10 * i + 1} to {10 * i + 10}" for i in range(len(tens))) + " |", "|---|" + "---|" * len(tens),
          "| memory, median MB | " + " | ".join(f"{statistics.median(t):.0f}" for t in tens) + " |",
          "| most | " + " | ".join(str(max(t)) for t in tens) + " |",
          *(["| at rest, the demo opened anew | " + " | ".join(str(m) for m in kept["rest MB"][:len(tens)]) + " |"] if "rest MB" in kept else [])]
(ROOT / "docs/performance.md").write_text("\n".join(lines) + "\n")
