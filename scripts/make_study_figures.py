#!/usr/bin/env python3
"""Writes docs/studies.md: how well studies spread over ranks here, and what a coordinator could feed. Needs mpirun and
an idle machine: RM_PRESET=strict scripts/make_study_figures.py"""
import csv
import heapq
import json
import os
import pathlib
import random
import subprocess
import tempfile
import time

ROOT = pathlib.Path(__file__).resolve().parent.parent
CLI = ROOT / "build" / os.environ.get("RM_PRESET", "release") / "src/cli/reedmast-cli"
ENV = {**os.environ, "OMPI_ALLOW_RUN_AS_ROOT": "1", "OMPI_ALLOW_RUN_AS_ROOT_CONFIRM": "1"}
RUNS = 3
STUDIES = [
    ("400 builds of the five-element Yagi", {"design": "Yagi, 70 MHz", "work": "build", "repeat": 400,
                                              "figures": ["worst SWR", "gain", "front-to-back"]}),
    ("8 searches of the same, 200 evaluations each", {"design": "Yagi, 70 MHz", "work": "tune", "repeat": 8,
                                                       "evaluations": 200}),
]


def run(work, study, ranks, name):
    """Seconds of a whole run, and those of each case."""
    file = work / "study.json"
    file.write_text(json.dumps({"format": "reed-mast study", "version": 1,
                                "project": str(ROOT / "demo/heron_point.json"), **study}))
    out = work / f"{name}.csv"
    out.unlink(missing_ok=True)
    command = [str(CLI), "study", str(file), "--out", str(out), "--threads", "1", "--quiet", "--times", str(work / "times")]
    if ranks > 1:
        command = ["mpirun", "--oversubscribe", "-q", "-n", str(ranks)] + command
    begin = time.monotonic()
    subprocess.run(command, check=True, env=ENV, capture_output=True)
    took = time.monotonic() - begin
    seconds = []
    for times in work.glob("times*"):
        seconds += [float(row["seconds"]) for row in csv.DictReader(times.open())]
        times.unlink()
    return took, seconds, out.read_bytes()


def simulated(seconds, cases, piece, ranks, service):
    """Share of the time that ranks work, where rank 0 answers one message after the other, each `service` seconds, and
    every rank has one piece waiting beside the one in hand. Cases take times drawn from those measured."""
    chance = random.Random(1)
    pieces = [sum(chance.choice(seconds) for _ in range(piece)) for _ in range(cases // piece)]
    work = sum(pieces)
    pieces.reverse()
    free = 0.0  # when rank 0 can answer next
    asks = [(0.0, rank) for rank in range(ranks) for _ in range(2)]
    heapq.heapify(asks)
    busy = [0.0] * ranks
    end = 0.0
    while pieces:
        asked, rank = heapq.heappop(asks)
        free = max(free, asked) + service
        begin = max(free, busy[rank])
        busy[rank] = begin + pieces.pop()
        end = max(end, busy[rank])
        # The next one is asked for as the piece is taken into hand.
        heapq.heappush(asks, (begin, rank))
    return work / (ranks * end)


with tempfile.TemporaryDirectory() as folder:
    work = pathlib.Path(folder)
    lines = ["# Studies over many processes", "",
             "Made by `scripts/make_study_figures.py` on a shared machine with two processors; medians of three runs.", "",
             "| study | 1 rank, s | 2 ranks, s | efficiency | same bytes |", "|---|---|---|---|---|"]
    times = {}
    for name, study in STUDIES:
        alone = [run(work, study, 1, "alone") for _ in range(RUNS)]
        both = [run(work, study, 2, "both") for _ in range(RUNS)]
        one = sorted(a[0] for a in alone)[RUNS // 2]
        two = sorted(b[0] for b in both)[RUNS // 2]
        same = len({r[2] for r in alone + both}) == 1
        times[name] = (alone[0][1], study)
        lines.append(f"| {name} | {one:.1f} | {two:.1f} | {100 * one / (2 * two):.0f} % | {'yes' if same else 'NO'} |")
    # Cases that cannot be built cost next to nothing: what is left is handing out and writing, a message for each case.
    count = 20000
    idle = {"design": "Inverted V, 60 m", "work": "solve", "figures": ["SWR"], "piece": 1,
            "over": [{"vary": "dimension", "name": "leg", "from": "-2 m", "to": "-1 m", "points": count}]}
    begin = {**idle, "over": [{**idle["over"][0], "points": 1}]}
    alone, both = (min(run(work, idle, ranks, "idle")[0] for _ in range(RUNS)) - run(work, begin, ranks, "begin")[0]
                   for ranks in (1, 2))
    # Two processors have worked for `both`; what was not the cases themselves was for handing out.
    service = max(2e-6, (2 * both - alone) / count)
    lines += ["", f"{count} cases that are refused at once, handed out one at a time, take {1e6 * alone / count:.0f} microseconds each on one "
              f"rank and {1e6 * both / count:.0f} on two: a case costs {1e6 * service:.0f} microseconds beside its own work, of both ranks "
              "together. Taken for the answer of rank 0 alone, this feeds:", "",
              "| study, simulated from the times of its cases | ranks | cases | efficiency |", "|---|---|---|---|"]
    for name, (seconds, study) in times.items():
        piece = 1 if study["work"] == "tune" else 4
        for ranks in (64, 256):
            cases = 400 * ranks if piece > 1 else 40 * ranks
            share = simulated(seconds, cases, piece, ranks, service)
            lines.append(f"| {name.split(' ', 1)[1]} | {ranks} | {cases} | {100 * share:.0f} % |")
    (ROOT / "docs/studies.md").write_text("\n".join(lines) + "\n")
