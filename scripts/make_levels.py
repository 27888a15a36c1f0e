#!/usr/bin/env python3
"""Writes docs/levels.md: what the packaged core costs on each level of the processor, beside a build for this machine, in
one run, turn by turn. On an idle machine, after a native and a package build with benchmarks:
  RM_PRESET=strict ./test; cmake --preset package -DRM_BUILD_TESTS=ON; cmake --build --preset package --target rm_core_x86-64-v3 rm_core_x86-64-v4 reedmast-bench
  RM_PRESET=strict scripts/make_levels.py"""
import json
import os
import pathlib
import statistics
import subprocess

ROOT = pathlib.Path(__file__).resolve().parent.parent
NATIVE = ROOT / "build" / os.environ.get("RM_PRESET", "release") / "benchmarks/reedmast-bench"
PACKAGE = pathlib.Path(os.environ.get("RM_PACKAGE_BUILD", ROOT / "build/package")) / "benchmarks/reedmast-bench"
ROUNDS = 17
FEWER_ROUNDS = 4

# What the loader is told that the processor has not; libraries of the system are told the same.
LEVELS = [("native", NATIVE, ""), ("x86-64-v4", PACKAGE, ""),
          ("x86-64-v3", PACKAGE, "glibc.cpu.hwcaps=-AVX512F,-AVX512VL"),
          ("baseline", PACKAGE, "glibc.cpu.hwcaps=-AVX512F,-AVX2")]
WORK = [("yagiEvaluation/0/0", "five-element Yagi in free space, one frequency"),
        ("dipoleOverGround/0", "dipole over real ground"),
        ("groundTables/real_time", "tables of a ground that is new"),
        ("radialsInSoil/32/0/real_time", "quarter wave on 32 radials in soil, cold"),
        ("sweepOverGround/real_time", "sweep of a band over ground"),
        ("sixteenYagisOverGround/iterations:3/real_time", "sixteen Yagis of 11 elements over ground, cold"),
        ("largeDenseSolve/1/iterations:2", "dense solve of 1567 unknowns"),
        ("nearFieldPlane/1/real_time", "near field of 200 x 200 points over ground"),
        ("tuneNineDimensions/iterations:1/real_time", "nine dimensions tuned")]


def loaded(tunables):
    out = subprocess.run([PACKAGE, "--benchmark_list_tests"], capture_output=True, text=True,
                         env={**os.environ, "LD_DEBUG": "libs", "GLIBC_TUNABLES": tunables}).stderr
    lines = [line for line in out.splitlines() if "calling init" in line and "reedmast-core" in line]
    return lines[-1].split("calling init:")[1].strip() if lines else ""


def measured(program, tunables, name):
    """ms of one benchmark in a process of its own."""
    out = subprocess.run([program, f"--benchmark_filter=^{name}$", "--benchmark_min_time=0.15", "--benchmark_format=json"],
                         capture_output=True, text=True,
                         env={**os.environ, **({"GLIBC_TUNABLES": tunables} if tunables else {})}).stdout
    bench = json.loads(out)["benchmarks"][0]
    return bench["real_time"] * {"ns": 1e-6, "us": 1e-3, "ms": 1.0, "s": 1e3}[bench["time_unit"]]


for level, program, tunables in LEVELS[1:]:
    folder = loaded(tunables)
    wanted = "" if level == "baseline" else f"glibc-hwcaps/{level}/"
    if wanted not in folder or (level == "baseline" and "glibc-hwcaps" in folder):
        raise SystemExit(f"{level}: the loader took {folder or 'nothing'}")
# Piece by piece, the levels turn by turn: the speed of a shared machine wanders within seconds. What is held to a limit
# is measured more often.
rounds = {level: {name: [] for name, _ in WORK} for level, *_ in LEVELS}
for name, _ in WORK:
    for turn in range(ROUNDS):
        for level, program, tunables in LEVELS:
            if turn < FEWER_ROUNDS or level in ("native", "x86-64-v4"):
                rounds[level][name].append(measured(program, tunables, name))
lines = ["# The core on each level of the processor", "",
         f"Made by `scripts/make_levels.py`: medians of {ROUNDS} rounds ({FEWER_ROUNDS} for the lower levels), each level once in every round, in a",
         "process of its own. The package holds the core as a library for the baseline and for x86-64-v3 and -v4, and the loader takes the best",
         "that the processor has. *Native* is a build for this machine alone, as `./run` makes it. The ratio is the median over the rounds of the",
         "time to native's in the same round. Of the lower levels the system's own libraries (linear algebra, mathematics) are told the same, as",
         "far as they ask the loader.", "",
         "| work | native, ms | x86-64-v4 | x86-64-v3 | baseline |", "|---|---|---|---|---|"]
ratios = {level: [] for level, *_ in LEVELS[1:]}
for name, what in WORK:
    row = f"| {what} | {statistics.median(rounds['native'][name]):.3g} |"
    for level, *_ in LEVELS[1:]:
        ratio = statistics.median(a / b for a, b in zip(rounds[level][name], rounds["native"][name]))
        ratios[level].append(ratio)
        row += f" {ratio:.2f} |"
    lines.append(row)
lines.append("| all, geometric mean | |" + "".join(f" {statistics.geometric_mean(ratios[level]):.2f} |" for level, *_ in LEVELS[1:]))
(ROOT / "docs/levels.md").write_text("\n".join(lines) + "\n")
