#!/usr/bin/env python3
"""Writes demo/heron_point.json: the made-up club station that the program opens with.

Nothing here is a real place, station or product. Run from the root of the project: scripts/make_demo.py, then
scripts/make_measured.py, which adds the made-up measurement.
"""
import json
import pathlib


def dimension(name, value, low=None, high=None, note=None, kind="length", scales=True):
    d = {"name": name, "value": value, "kind": kind}
    if low:
        d["low"] = low
    if high:
        d["high"] = high
    if note:
        d["note"] = note
    if not scales:
        d["scales"] = False
    return d


def conductor(material, diameter):
    return {"material": material, "diameter": diameter}


WIRE = conductor("copper", "2 mm")
MAST = {"shape": "straight wire", "name": "Lattice mast", "start": ["-6 m", "0 m", "0.2 m"], "end": ["-6 m", "0 m", "18 m"],
        "conductor": conductor("steel", "150 mm")}


def feed(part, kind, value=None, name="Feed", **extra):
    place = {"kind": kind}
    if value:
        place["value"] = value
    return {"name": name, "part": part, "place": place, "amplitude": "1", "phase": "0 deg", **extra}


def design(name, frequency, parts, feeds, dimensions, bands, soil="marsh", height="0 m", heading="0 deg", ohm="50", loads=(), path=()):
    more = {"feed path": list(path)} if path else {}
    return {**more, "name": name, "design frequency": frequency, "reference ohm": ohm, "dimensions": dimensions, "parts": parts,
            "feeds": feeds, "loads": list(loads), "bands": bands,
            "site": {"ground": "real", "soil": soil, "height": height, "heading": heading}}


# From the feedpoint to the radio.
END_FED_PATH = [
    {"name": "Transformer", "kind": "transformer", "ratio": "49:1", "magnetising uH": "8", "core loss ohm": "2500", "leakage uH": "0.12",
     "compensation pF": "100"},
    {"name": "Cable", "kind": "cable", "line": "coax 50 thin", "length": "25 m"},
    {"name": "Choke", "kind": "choke", "loss dB": "0.1"}]

designs = []

designs.append(design(
    "Inverted V, 60 m", "5.36 MHz",
    [{"shape": "inverted V", "name": "Inverted V", "foot": ["0 m", "0 m", "0 m"], "apex height": "apex", "leg": "leg",
      "angle": "spread", "turn": "0 deg", "conductor": WIRE},
     {**MAST, "enabled": False}],
    [feed("Inverted V", "middle")],
    [dimension("apex", "11.5 m", "6 m", "12 m", "Height of the apex on the fibreglass mast", scales=False),
     dimension("leg", "13.45 m", "11 m", "16 m", "Length of each leg"),
     dimension("spread", "120 deg", "80 deg", "180 deg", "Angle between the legs", kind="angle")],
    ["60 m"], heading="40 deg"))

designs.append(design(
    "End-fed, sloper", "14.15 MHz",
    [{"shape": "straight wire", "name": "Radiator", "start": ["0 m", "0 m", "foot"],
      "end": ["-run*cos(slope)", "0 m", "foot + run*sin(slope)"], "conductor": WIRE},
     {"shape": "straight wire", "name": "Counterpoise", "start": ["0 m", "0 m", "foot"], "end": ["4 m", "0 m", "foot"],
      "conductor": WIRE}],
    [feed("Radiator", "start")],
    [dimension("run", "28.9 m", "20 m", "34 m", "Length of the radiator"),
     dimension("slope", "20 deg", "5 deg", "40 deg", "Rise of the wire", kind="angle"),
     dimension("foot", "1.5 m", "0.5 m", "4 m", "Height of the feedpoint", scales=False)],
    ["60 m", "30 m", "20 m", "17 m", "15 m"], heading="40 deg", path=END_FED_PATH))

designs.append(design(
    "End-fed, inverted L", "14.15 MHz",
    [{"shape": "bent wire", "name": "Radiator",
      "points": [["0 m", "0 m", "foot"], ["0 m", "0 m", "apex"], ["-run", "0 m", "apex"]], "conductor": WIRE},
     {"shape": "straight wire", "name": "Counterpoise", "start": ["0 m", "0 m", "foot"], "end": ["4 m", "0 m", "foot"],
      "conductor": WIRE}],
    [feed("Radiator", "start")],
    [dimension("apex", "10 m", "6 m", "12 m", "Height of the corner", scales=False),
     dimension("run", "20.8 m", "12 m", "26 m", "Length of the horizontal part"),
     dimension("foot", "1.5 m", "0.5 m", "4 m", "Height of the feedpoint", scales=False)],
    ["60 m", "30 m", "20 m", "17 m", "15 m"], heading="40 deg", path=END_FED_PATH))

designs.append(design(
    "Ground plane, 30 m", "10.125 MHz",
    [{"shape": "straight wire", "name": "Vertical", "start": ["0 m", "0 m", "hub"], "end": ["0 m", "0 m", "hub + tall"],
      "conductor": WIRE},
     {"shape": "fan", "name": "Radials", "hub": ["0 m", "0 m", "hub"], "count": "4", "length": "radial", "slope": "droop",
      "first": "45 deg", "conductor": WIRE}],
    [feed("Vertical", "start")],
    [dimension("tall", "7.05 m", "5 m", "9 m", "Length of the vertical wire"),
     dimension("radial", "7.4 m", "5 m", "10 m", "Length of each radial"),
     dimension("droop", "15 deg", "0 deg", "20 deg", "Slope of the radials", kind="angle"),
     dimension("hub", "3 m", "2.7 m", "6 m", "Height of the feedpoint", scales=False)],
    ["30 m"]))

for place, corner in (("middle", None), ("corner", "1")):
    designs.append(design(
        "Delta loop, 17 m, fed in the " + ("middle" if place == "middle" else "corner"), "18.118 MHz",
        [{"shape": "bent wire", "name": "Delta loop", "closed": True,
          "points": [["0 m", "0 m", "low"], ["0 m", "-base/2", "low"], ["0 m", "0 m", "low + rise"], ["0 m", "base/2", "low"]]
          if place == "middle" else
          [["0 m", "base/2", "low"], ["0 m", "-base/2", "low"], ["0 m", "0 m", "low + rise"]],
          "conductor": WIRE}],
        [feed("Delta loop", "start" if place == "middle" else "corner", corner)],
        [dimension("base", "6.3 m", "4 m", "8 m", "Length of the bottom side"),
         dimension("rise", "4.55 m", "3 m", "7 m", "Height of the triangle"),
         dimension("low", "3.5 m", "1.5 m", "7 m", "Height of the bottom side", scales=False)],
        ["17 m"], heading="310 deg"))

ELEMENTS = [("Reflector", "0 m", "refl"), ("Driven element", "s1", "driven"), ("Director 1", "s2", "d1"),
            ("Director 2", "s3", "d2"), ("Director 3", "s4", "d3")]


def yagi(prefix, up):
    return [{"shape": "straight wire", "name": prefix + name, "start": [at, f"-{length}/2", up], "end": [at, f"{length}/2", up],
             "conductor": conductor("aluminium-6061", "8 mm")} for name, at, length in ELEMENTS]


YAGI_DIMENSIONS = [
    dimension("refl", "2116 mm", "2000 mm", "2200 mm", "Reflector length"),
    dimension("driven", "2022 mm", "1900 mm", "2120 mm", "Driven element length"),
    dimension("d1", "1930 mm", "1800 mm", "2020 mm", "First director length"),
    dimension("d2", "1902 mm", "1780 mm", "2000 mm", "Second director length"),
    dimension("d3", "1845 mm", "1740 mm", "1960 mm", "Third director length"),
    dimension("s1", "750 mm", "500 mm", "1000 mm", "Driven element, from the reflector"),
    dimension("s2", "1250 mm", "950 mm", "1600 mm", "First director, from the reflector"),
    dimension("s3", "2215 mm", "1700 mm", "2700 mm", "Second director, from the reflector"),
    dimension("s4", "3360 mm", "2800 mm", "4000 mm", "Third director, from the reflector")]

designs.append(design("Yagi, 70 MHz", "70.2 MHz", yagi("", "0 m"), [feed("Driven element", "middle")], YAGI_DIMENSIONS,
                      ["4 m"], height="10 m", heading="120 deg"))
designs.append(design(
    "Two Yagis stacked, 70 MHz", "70.2 MHz", yagi("Lower ", "0 m") + yagi("Upper ", "stack"),
    [feed("Lower Driven element", "middle", name="Lower feed"), feed("Upper Driven element", "middle", name="Upper feed")],
    YAGI_DIMENSIONS + [dimension("stack", "3.2 m", "1.5 m", "5 m", "Stacking distance", scales=False)],
    ["4 m"], height="8 m", heading="120 deg"))



def pin(name, design_index, **dimensions):
    """A pin of a design with other values of some dimensions."""
    d = json.loads(json.dumps(designs[design_index]))
    for dimension in d["dimensions"]:
        dimension["value"] = dimensions.get(dimension["name"], dimension["value"])
    return {"name": name, "shown": True, "design": d}


pins = [pin("apex 11.5 m \u2192 8 m", 0, apex="8 m"), pin("End-fed, sloper", 1)]

project = {
    "format": "reed-mast project", "version": 1, "title": "Heron Point",
    "bands": [{"name": "60 m", "low MHz": 5.3515, "high MHz": 5.3665, "spots MHz": [5.357]},
              {"name": "30 m", "low MHz": 10.1, "high MHz": 10.15, "spots MHz": [10.12]},
              {"name": "20 m", "low MHz": 14.0, "high MHz": 14.35, "spots MHz": [14.06, 14.2]},
              {"name": "17 m", "low MHz": 18.068, "high MHz": 18.168, "spots MHz": [18.1]},
              {"name": "15 m", "low MHz": 21.0, "high MHz": 21.45, "spots MHz": [21.06, 21.25]},
              {"name": "4 m", "low MHz": 70.0, "high MHz": 70.5, "spots MHz": [70.2]}],
    "working band": 0, "pins": pins, "designs": designs, "active design": 0, "feet and inches": False}

target = pathlib.Path(__file__).resolve().parent.parent / "demo" / "heron_point.json"
target.write_text(json.dumps(project, indent=2) + "\n")
