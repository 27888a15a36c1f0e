#!/usr/bin/env python3
"""Writes the made-up measurements of the demo and puts one of them into demo/heron_point.json.

Nobody measured anything: the figures are the model's own with lengths and heights a little wrong, as they come
out in the field, and with noise. Run from the root of the project after scripts/make_demo.py and a build:
RM_PRESET=strict scripts/make_measured.py (without RM_PRESET: the release build)
"""
import cmath
import copy
import json
import os
import pathlib
import random
import re
import subprocess
import tempfile

CLI = f"build/{os.environ.get('RM_PRESET', 'release')}/src/cli/reedmast-cli"
PROJECT = pathlib.Path("demo/heron_point.json")
NOTE = "Made up by scripts/make_measured.py: the model with wrong lengths and noise, not a measurement"
NOISE = 0.004  # of the reflection coefficient, each part


def sweep(project, design, low, high, points):
    """Frequencies in Hz and impedances at the radio of a design of the project."""
    with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
        json.dump(project, file)
        file.flush()
        out = subprocess.run([CLI, "sweep", file.name, "--design", design, "--from", str(low), "--to", str(high),
                              "--points", str(points), "--json"], check=True, capture_output=True, text=True).stdout
    return [(p["frequency_hz"], complex(*p["z_radio"])) for p in json.loads(out)["points"]]


def spoilt(project, design, changes):
    """The project with other values of some dimensions of a design."""
    other = copy.deepcopy(project)
    for d in other["designs"]:
        if d["name"] == design:
            for dimension in d["dimensions"]:
                dimension["value"] = changes.get(dimension["name"], dimension["value"])
    return other


def noisy(z, dice):
    reflection = (z - 50) / (z + 50) + complex(dice.gauss(0, NOISE), dice.gauss(0, NOISE))
    reflection = min(abs(reflection), 0.9999) * cmath.exp(1j * cmath.phase(reflection))
    return 50 * (1 + reflection) / (1 - reflection)


def main():
    dice = random.Random(70)
    project = json.loads(PROJECT.read_text())
    for d in project["designs"]:
        d.pop("measured", None)

    name = "End-fed, inverted L"
    built = spoilt(project, name, {"apex": "9.85 m", "run": "32.87 m", "foot": "0.6 m"})
    points = []
    for band in project["bands"]:
        if band["high MHz"] < 25:
            width = band["high MHz"] - band["low MHz"]
            points += sweep(built, name, band["low MHz"] - 0.2 * width, band["high MHz"] + 0.2 * width, 29)
    points = [(hz, noisy(z, dice)) for hz, z in points]
    lines = [f"! {NOTE}", "# MHz S MA R 50"]
    for hz, z in points:
        s = (z - 50) / (z + 50)
        lines.append(f"{hz / 1e6:.6f} {abs(s):.5f} {cmath.phase(s) * 180 / cmath.pi:.3f}")
    pathlib.Path("demo/inverted_l_at_the_radio.s1p").write_text("\n".join(lines) + "\n")
    for d in project["designs"]:
        if d["name"] == name:
            d["measured"] = [{"name": "Made up, at the radio", "file": "inverted_l_at_the_radio.s1p", "note": NOTE,
                              "reference ohm": 50.0, "at antenna": False,
                              "points": [[round(hz), round(z.real, 2), round(z.imag, 2)] for hz, z in points]}]

    built = spoilt(project, "Inverted V, 60 m", {"apex": "11.3 m", "leg": "13.49 m"})
    lines = [f"# {NOTE}", "Frequency (MHz);R (ohm);X (ohm)"]
    for hz, z in sweep(built, "Inverted V, 60 m", 5.2, 5.5, 61):
        z = noisy(z, dice)
        lines.append(f"{hz / 1e6:.4f};{z.real:.2f};{z.imag:.2f}".replace(".", ","))
    pathlib.Path("demo/inverted_v_at_the_feed.csv").write_text("\n".join(lines) + "\n")
    # A point is a line.
    text = json.dumps(project, indent=2)
    PROJECT.write_text(re.sub(r"\[\s+([-\d.]+),\s+([-\d.]+),\s+([-\d.]+)\s+\]", r"[\1, \2, \3]", text) + "\n")


if __name__ == "__main__":
    main()
