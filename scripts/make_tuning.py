#!/usr/bin/env python3
"""Writes docs/tuning.md from the benchmark of tuning. On an idle machine, after ./test:
  RM_PRESET=strict scripts/make_tuning.py [--seconds 60] [--seeds 5]
What is better than known goes to benchmarks/tuning/best_known.json, with the seconds that all runs have taken."""
import argparse
import json
import os
import pathlib
import subprocess

ROOT = pathlib.Path(__file__).resolve().parent.parent
PROGRAM = ROOT / "build" / os.environ.get("RM_PRESET", "release") / "benchmarks/reedmast-tuning"
BEST = ROOT / "benchmarks/tuning/best_known.json"
WITHIN = (0.1, 0.05)

parser = argparse.ArgumentParser()
parser.add_argument("--seconds", type=float, default=60)
parser.add_argument("--seeds", type=int, default=5)
asked = parser.parse_args()

out = subprocess.run([PROGRAM, "--best", BEST, "--keep", "--json", "--seconds", str(asked.seconds), "--seeds", str(asked.seeds)],
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
within = [0] * len(whens)
for row in rows:
    cells = []
    for i, at in enumerate(row["at"]):
        within[i] += at["dB"] <= WITHIN[0] and at["swr"] <= WITHIN[1]
        cells.append(f"{at['dB']:.2f} dB, {at['swr']:.2f} in SWR")
    lines.append(f"| {row['problem']}: {row['what']} | {row['movers']} | {row['best']} | {row['spent'] / 60:.0f} min | " + " | ".join(cells) +
                 f" | {row['ended']:.0f} s, {row['evaluations']:.0f} antennas read |")
lines += ["", "Within 0.1 dB and 0.05 in SWR of the best that is known: " +
          ", ".join(f"{n} of {len(rows)} after {when:.0f} s" for n, when in zip(within, whens)) + "."]
(ROOT / "docs/tuning.md").write_text("\n".join(lines) + "\n")
