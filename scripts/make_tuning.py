#!/usr/bin/env python3
"""Writes docs/tuning.md from the benchmark of tuning. On an idle machine, after ./test:
  RM_PRESET=strict scripts/make_tuning.py [--seconds 60] [--seeds 5] [--problem NAME]
With --problem only its row is made anew, with as many seconds and seeds as the others had.
What is better than known goes to benchmarks/tuning/best_known.json, with the seconds that all runs have taken."""
import argparse
import json
import os
import pathlib
import re
import subprocess

ROOT = pathlib.Path(__file__).resolve().parent.parent
PROGRAM = ROOT / "build" / os.environ.get("RM_PRESET", "release") / "benchmarks/reedmast-tuning"
BEST = ROOT / "benchmarks/tuning/best_known.json"
WITHIN = (0.1, 0.05)

parser = argparse.ArgumentParser()
parser.add_argument("--seconds", type=float, default=60)
parser.add_argument("--seeds", type=int, default=5)
parser.add_argument("--problem", default="")
asked = parser.parse_args()

out = subprocess.run([PROGRAM, "--best", BEST, "--keep", "--json", "--seconds", str(asked.seconds), "--seeds", str(asked.seeds),
                      "--problem", asked.problem],
                     capture_output=True, text=True, check=True).stdout
rows = json.loads(out)
whens = [at["seconds"] for at in rows[0]["at"]]
lines = ["# Tuning", "",
         f"Made by `scripts/make_tuning.py`: {asked.seeds} seeds of each problem, {asked.seconds:.0f} s each, on two processors. The problems are",
         "in `benchmarks/tuning/problems.cpp`; the best that is known of each, from all runs so far, in `best_known.json` there, with how long",
         "it was looked for. Distances are medians over the seeds, of whichever goal is farthest: what is as high as possible in dB, what has",
         "a limit by how much more it is missed; what is better than its limit counts as met.", "",
         "| problem | may move | best known | looked for | " + " | ".join(f"after {when:.0f} s" for when in whens) + " | ended |",
         "|---|---|---|---|" + "---|" * len(whens) + "---|"]
made = {}
for row in rows:
    cells = [f"{at['dB']:.2f} dB, {at['swr']:.2f} in SWR" for at in row["at"]]
    made[row["problem"]] = (f"| {row['problem']}: {row['what']} | {row['movers']} | {row['best']} | {row['spent'] / 60:.0f} min | " +
                            " | ".join(cells) + f" | {row['ended']:.0f} s, {row['evaluations']:.0f} antennas read |")
if asked.problem:
    before = (ROOT / "docs/tuning.md").read_text().splitlines()[:-2]
    lines = [made.get(line[2:].split(":")[0], line) if line.startswith("| ") else line for line in before]
else:
    lines += made.values()
table = [line for line in lines if " in SWR |" in line]
within = [0] * len(whens)
for line in table:
    for i, (db, swr) in enumerate(re.findall(r"([\d.]+) dB, ([\d.]+) in SWR \|", line)):
        within[i] += float(db) <= WITHIN[0] and float(swr) <= WITHIN[1]
lines += ["", "Within 0.1 dB and 0.05 in SWR of the best that is known: " +
          ", ".join(f"{n} of {len(table)} after {when:.0f} s" for n, when in zip(within, whens)) + "."]
(ROOT / "docs/tuning.md").write_text("\n".join(lines) + "\n")
