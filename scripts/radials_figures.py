#!/usr/bin/env python3
"""Prints the tables of the guide's chapter on radials: the demo's vertical, held up by this and that.

Run from the root of the project after a build: RM_PRESET=strict scripts/radials_figures.py (without RM_PRESET: the
release build)
"""
import copy
import json
import os
import pathlib
import subprocess
import tempfile

ROOT = pathlib.Path(__file__).resolve().parent.parent
CLI = ROOT / "build" / os.environ.get("RM_PRESET", "release") / "src/cli/reedmast-cli"
PROJECT = json.loads((ROOT / "demo/heron_point.json").read_text())
BASE = next(d for d in PROJECT["designs"] if d["name"] == "Vertical on radials, 60 m")


def variant(soil="marsh", height="0 m", lengths=None, **radials):
    """The demo's vertical with other soil, height and radials."""
    d = copy.deepcopy(BASE)
    d["site"].update({"soil": soil, "height": height})
    d["parts"][1].update(radials)
    for dimension in d["dimensions"]:
        dimension["value"] = (lengths or {}).get(dimension["name"], dimension["value"])
    return d


def rod(length, **more):
    d = variant(**more)
    d["parts"][1] = {"shape": "ground rod", "name": "Rod", "top": ["0 m", "0 m", "0 m"], "length": length,
                     "conductor": {"material": "steel", "diameter": "16 mm"}}
    return d


def solved(design):
    project = {**PROJECT, "designs": [design], "pins": [], "active design": 0}
    with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
        json.dump(project, file)
        file.flush()
        out = subprocess.run([CLI, "solve", file.name, "--json"], check=True, capture_output=True, text=True).stdout
    return json.loads(out)


def row(name, design):
    r = solved(design)[0]
    z = r["z"][0]
    return (f"| {name} | {z[0]:.0f} {'−' if z[1] < 0 else '+'} j{abs(z[1]):.0f} | {100 * r['sky_share']:.0f} % | "
            f"{100 * r['soil_share']:.0f} % | {100 * r['reflection_share']:.0f} % | {r['gain_dbi']:+.1f} at {r['takeoff_deg']:.0f}° |")


HEAD = "| on | impedance, Ω | to the sky | near soil | reflection | peak, dBi |\n|---|---|---|---|---|---|"


def main():
    print(HEAD)
    print(row("a rod of 1.5 m", rod("1.5 m")))
    print(row("a rod of 3 m", rod("3 m")))
    for count in (2, 4, 8, 16, 32, 64, 120):
        print(row(f"{count} radials of 10 m, 5 cm deep", variant(count=str(count))))
    print(row("16 radials of 5 m", variant(lengths={"radial": "5 m"})))
    print(row("16 radials of 20 m", variant(lengths={"radial": "20 m"})))
    print()
    print(HEAD)
    print(row("16 of 10 m on the grass", variant(lengths={"deep": "0 m"})))
    print(row("16 of 10 m, 5 cm deep", variant()))
    print(row("16 of 10 m, 30 cm deep", variant(lengths={"deep": "30 cm"})))
    print(row("16 of 10 m, 5 cm deep, 1 mm of insulation",
              variant(conductor={"material": "copper", "diameter": "2 mm", "insulation": "1 mm"})))
    for height in ("0.5 m", "2 m"):
        print(row(f"2 of 13.4 m, all of it {height} up", variant(height=height, lengths={"deep": "0 m", "radial": "13.4 m"}, count="2")))
        print(row(f"4 of 13.4 m, all of it {height} up", variant(height=height, lengths={"deep": "0 m", "radial": "13.4 m"}, count="4")))
    print()
    print(HEAD)
    for soil in ("wet loam", "average", "dry sand", "city"):
        for count in (4, 16, 64):
            print(row(f"{count} of 10 m, {soil}", variant(soil=soil, count=str(count))))


if __name__ == "__main__":
    main()
