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
MAST = {"shape": "straight wire", "name": "Lattice mast", "start": ["-6 m", "0 m", "-1 m"], "end": ["-6 m", "0 m", "18 m"],
        "conductor": conductor("steel", "150 mm")}


def feed(part, kind, value=None, name="Feed", **extra):
    place = {"kind": kind}
    if value:
        place["value"] = value
    return {"name": name, "part": part, "place": place, "amplitude": "1", "phase": "0 deg", **extra}


def cable_run(feed_name, level, points):
    """The outside of the feed line, as large as the cable of the feed path."""
    return {"shape": "cable run", "name": "Cable run", "feed": feed_name, "shield on": "other side", "down": level is not None,
            "level": level or "1 m", "by way of": [{"at": p} for p in points], "ends": "open", "conductor": conductor("copper", "4 mm")}


def choke(turns):
    """Turns of the cable on a ferrite ring, where it leaves the feed."""
    return {"name": "Choke", "part": "Cable run", "place": {"kind": "start"}, "kind": "ring", "turns": turns, "ring outer": "61 mm",
            "ring inner": "35.5 mm", "ring height": "12.7 mm", "permeability": "250", "stray pF": "2", "rating W": "10"}


def design(name, frequency, parts, feeds, dimensions, bands, soil="marsh", height="0 m", heading="0 deg", ohm="50", loads=(), path=()):
    more = {"feed path": list(path)} if path else {}
    return {**more, "name": name, "design frequency": frequency, "reference ohm": ohm, "dimensions": dimensions, "parts": parts,
            "feeds": feeds, "loads": list(loads), "bands": bands,
            "site": {"ground": "real", "soil": soil, "height": height, "heading": heading}}


# From the feedpoint to the radio. Lengths, counterpoise and ratio were tuned together: at most 1.9 on four bands.
END_FED_BANDS = ["30 m", "20 m", "17 m", "15 m"]
END_FED_PATH = [
    {"name": "Transformer", "kind": "transformer", "ratio": "25:1", "magnetising uH": "8", "core loss ohm": "2500", "leakage uH": "0.12",
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
     {"shape": "straight wire", "name": "Counterpoise", "start": ["0 m", "0 m", "foot"], "end": ["counter", "0 m", "foot"],
      "conductor": WIRE}],
    [feed("Radiator", "start")],
    [dimension("run", "41.9 m", "20 m", "46 m", "Length of the radiator"),
     dimension("slope", "14.5 deg", "5 deg", "40 deg", "Rise of the wire", kind="angle"),
     dimension("foot", "0.5 m", "0.5 m", "4 m", "Height of the feedpoint", scales=False),
     dimension("counter", "5.5 m", "2 m", "7 m", "Length of the counterpoise")],
    END_FED_BANDS, heading="40 deg", path=END_FED_PATH))

designs.append(design(
    "End-fed, inverted L", "14.15 MHz",
    [{"shape": "bent wire", "name": "Radiator",
      "points": [["0 m", "0 m", "foot"], ["0 m", "0 m", "apex"], ["-run", "0 m", "apex"]], "conductor": WIRE},
     {"shape": "straight wire", "name": "Counterpoise", "start": ["0 m", "0 m", "foot"], "end": ["counter", "0 m", "foot"],
      "conductor": WIRE},
     cable_run("Feed", None, [["0.5 m", "-1 m", "5 cm"], ["2 m", "-13 m", "5 cm"]])],
    [feed("Radiator", "start")],
    [dimension("apex", "10 m", "6 m", "12 m", "Height of the corner", scales=False),
     dimension("run", "32.95 m", "12 m", "36 m", "Length of the horizontal part"),
     dimension("foot", "0.5 m", "0.5 m", "4 m", "Height of the feedpoint", scales=False),
     dimension("counter", "5.6 m", "2 m", "7 m", "Length of the counterpoise")],
    END_FED_BANDS, heading="40 deg", path=END_FED_PATH, loads=[choke("14")]))

designs.append(design(
    "Ground plane, 30 m", "10.125 MHz",
    [{"shape": "straight wire", "name": "Vertical", "start": ["0 m", "0 m", "hub"], "end": ["0 m", "0 m", "hub + tall"],
      "conductor": WIRE},
     {"shape": "fan", "name": "Radials", "hub": ["0 m", "0 m", "hub"], "count": "4", "length": "radial", "slope": "droop",
      "first": "45 deg", "conductor": WIRE}],
    [feed("Vertical", "start")],
    [dimension("tall", "7.2 m", "5 m", "9 m", "Length of the vertical wire"),
     dimension("radial", "7.45 m", "5 m", "10 m", "Length of each radial"),
     dimension("droop", "20 deg", "0 deg", "20 deg", "Slope of the radials", kind="angle"),
     dimension("hub", "3 m", "2.7 m", "6 m", "Height of the feedpoint", scales=False)],
    ["30 m"]))

# A quarter wave of 75 ohm cable takes the loop's 110 to 130 ohm to 50.
LOOP_PATH = [{"name": "Quarter wave", "kind": "quarter wave", "line": "coax 75"},
             {"name": "Cable", "kind": "cable", "line": "coax 50 thin", "length": "20 m"}]

for place, corner in (("middle", None), ("corner", "1")):
    designs.append(design(
        "Delta loop, 17 m, fed in the " + ("middle" if place == "middle" else "corner"), "18.118 MHz",
        [{"shape": "bent wire", "name": "Delta loop", "closed": True,
          "points": [["0 m", "0 m", "low"], ["0 m", "-base/2", "low"], ["0 m", "0 m", "low + rise"], ["0 m", "base/2", "low"]]
          if place == "middle" else
          [["0 m", "base/2", "low"], ["0 m", "-base/2", "low"], ["0 m", "0 m", "low + rise"]],
          "conductor": WIRE}] + ([cable_run("Feed", "0.3 m", [["-9 m", "2 m", "0.3 m"]])] if place == "middle" else []),
        [feed("Delta loop", "start" if place == "middle" else "corner", corner)],
        [dimension("base", "5.4 m", "4 m", "8 m", "Length of the bottom side"),
         dimension("rise", "5.5 m", "3 m", "7 m", "Height of the triangle"),
         dimension("low", "3.5 m", "1.5 m", "7 m", "Height of the bottom side", scales=False)],
        ["17 m"], heading="310 deg", path=LOOP_PATH, loads=[choke("10")] if place == "middle" else []))

# The driven element is a loop along the boom, which brings the impedance to 50 ohm without a match.
ELEMENTS = [("reflector", "0 m", "refl"), ("driven", "s1", "driven"), ("director 1", "s2", "d1"), ("director 2", "s3", "d2"),
            ("director 3", "s4", "d3")]


def yagi(up):
    elements = [{"name": name, "position": at, "length": length} for name, at, length in ELEMENTS]
    elements[1].update({"form": "loop in plane", "second conductor": "loop", "diameter": "12 mm", "end diameter": "12 mm"})
    return {"shape": "element row", "name": "Yagi", "start": ["0.3 m", "0 m", up], "turn": "0 deg", "rise": "0 deg", "roll": "0 deg",
            "positions": "from the start", "lengths": "whole", "boom": {"kind": "through, insulated", "square": True, "diameter": "25 mm"},
            "elements": elements, "conductor": conductor("aluminium-6061", "8 mm")}


def yagi_feed():
    f = feed("Yagi", "middle")
    f["place"]["element"] = "driven"
    return f


YAGI_DIMENSIONS = [
    dimension("refl", "2135 mm", "2000 mm", "2200 mm", "Reflector length"),
    dimension("driven", "1873 mm", "1700 mm", "2100 mm", "Length of the driven loop, across the boom"),
    dimension("loop", "224 mm", "80 mm", "400 mm", "Width of the driven loop, along the boom"),
    dimension("d1", "1968 mm", "1800 mm", "2020 mm", "First director length"),
    dimension("d2", "1922 mm", "1780 mm", "2000 mm", "Second director length"),
    dimension("d3", "1883 mm", "1740 mm", "1960 mm", "Third director length"),
    dimension("s1", "217 mm", "150 mm", "600 mm", "Driven element, from the reflector"),
    dimension("s2", "997 mm", "800 mm", "1600 mm", "First director, from the reflector"),
    dimension("s3", "2258 mm", "1700 mm", "2700 mm", "Second director, from the reflector"),
    dimension("s4", "3415 mm", "2800 mm", "4000 mm", "Third director, from the reflector")]

# The lattice mast from a metre under the ground to just above the upper antenna.
YAGI_MAST = {"shape": "straight wire", "name": "Lattice mast", "start": ["0 m", "0 m", "-9 m"], "end": ["0 m", "0 m", "10 m"],
             "conductor": conductor("steel", "80 mm")}

designs.append(design("Yagi, 70 MHz", "70.2 MHz", [yagi("0 m")], [yagi_feed()], YAGI_DIMENSIONS, ["4 m"], height="10 m",
                      heading="120 deg"))
# What a good one is: the match first, over the whole band, then a clean rear, then as much gain as there is.
designs[-1]["tune"] = {
    "goals": [{"kind": "SWR", "limit": "1.3", "importance": "essential"},
              {"kind": "front-to-rear", "limit": "24"},
              {"kind": "flat gain", "limit": "0.5", "importance": "useful"},
              {"kind": "gain", "stage": 2}],
    "may move": [{"dimension": name, "step": "1 mm"} for name in ("refl", "driven", "d1", "d2", "d3", "s2", "s3", "s4")],
    "limits": [{"kind": "boom length", "value": "3.5 m"}, {"kind": "keep apart", "value": "80 mm"}]}


def drive(name, **phases):
    return {"name": name, "idle": "open", "driven": [{"feed": f"Feed ({which})", "amplitude": "1", "phase": f"{phase} deg"}
                                                     for which, phase in phases.items()]}


stacked = design("Two Yagis stacked, 70 MHz", "70.2 MHz", [yagi("0 m"), YAGI_MAST], [yagi_feed()],
                 YAGI_DIMENSIONS + [dimension("stack", "3.2 m", "1.5 m", "5 m", "Stacking distance", scales=False)], ["4 m"],
                 height="8 m", heading="120 deg")
stacked["copies"] = [{"name": "Stack", "kind": "stack", "parts": ["Yagi"], "rows": "2", "columns": "1", "row spacing": "stack"}]
stacked["drive sets"] = [drive("Both in phase", lower=0, upper=0), drive("Upper reversed", lower=0, upper=180),
                         drive("Upper alone", upper=0), drive("Lower alone", lower=0)]
stacked["drive set"] = 0
stacked["harness"] = {"enabled": False, "line": "coax 75", "length": "3 m"}
designs.append(stacked)

# The fibreglass mast is too short for a quarter wave: the rest of the wire falls from its top.
designs.append(design(
    "Vertical on radials, 60 m", "5.36 MHz",
    [{"shape": "bent wire", "name": "Radiator",
      "points": [["0 m", "0 m", "0 m"], ["0 m", "0 m", "mast"], ["top*cos(25 deg)", "0 m", "mast - top*sin(25 deg)"]],
      "conductor": WIRE},
     {"shape": "radial system", "name": "Radials", "foot": ["0 m", "0 m", "0 m"], "count": "16", "length": "radial", "depth": "deep",
      "conductor": WIRE}],
    [feed("Radiator", "start")],
    [dimension("mast", "11.8 m", "8 m", "12 m", "Height of the wire on the fibreglass mast", scales=False),
     dimension("top", "2 m", "0.5 m", "4 m", "Wire from the top of the mast, falling"),
     dimension("radial", "10 m", "3 m", "20 m", "Length of each radial in the marsh"),
     dimension("deep", "5 cm", "0 cm", "30 cm", "Depth of the radials", scales=False)],
    ["60 m"], heading="40 deg"))

# Hung from the fibreglass mast to the hawthorn in the hedge: the ropes are what is left of the way.
HEDGE = [{"name": "Fibreglass mast", "kind": "mast", "east": "0 m", "north": "0 m", "height": "12 m"},
         {"name": "Hawthorn", "kind": "tree", "east": "19 m", "north": "16 m", "height": "7.5 m"},
         {"name": "Alder", "kind": "tree", "east": "8 m", "north": "24 m", "height": "9 m"},
         {"name": "Shack", "kind": "roof edge", "east": "-9 m", "north": "-4 m", "height": "4 m", "to east": "-9 m",
          "to north": "4 m"}]
designs.append(design(
    "Dipole to the hedge, 30 m", "10.125 MHz",
    [{"shape": "hung wire", "name": "Dipole", "hangs on": [{"support": "Fibreglass mast"}, {"support": "Hawthorn"}],
      "length": "span", "held by": "middle", "pull": "80", "conductor": WIRE}],
    [feed("Dipole", "middle")],
    [dimension("span", "14.36 m", "13 m", "15.5 m", "All the wire in it")],
    ["30 m"], heading="130 deg"))
designs[-1]["site"]["supports"] = HEDGE


def pin(name, design_index, **dimensions):
    """A pin of a design with other values of some dimensions."""
    d = json.loads(json.dumps(designs[design_index]))
    for dimension in d["dimensions"]:
        dimension["value"] = dimensions.get(dimension["name"], dimension["value"])
    return {"name": name, "shown": True, "design": d}


pins = [pin("apex 11.5 m \u2192 8 m", 0, apex="8 m"), pin("End-fed, sloper", 1)]

for d in designs[1:3]:
    d["tune"] = {"goals": [{"kind": "SWR", "limit": "2", "as many bands as possible": True}],
                 "may move": [{"dimension": "run", "step": "0.05 m"}, {"dimension": "foot", "step": "0.05 m"},
                            {"dimension": "counter", "step": "0.05 m"}],
                 "limits": [{"kind": "total wire", "value": "50 m"}]}

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
