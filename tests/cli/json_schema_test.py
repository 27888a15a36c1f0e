# Holds what the commands print as JSON against docs/schema: json_schema_test.py CLI ROOT. Every member is
# described there, none is left out, and none is there that no command prints.
import json
import pathlib
import subprocess
import sys
import tempfile

import jsonschema

from json_outputs import OUTPUTS

cli, root = sys.argv[1], pathlib.Path(sys.argv[2])
schemas = {f.name.split(".")[0]: json.loads(f.read_text()) for f in (root / "docs/schema").glob("*.schema.json")}
failures = []
seen = set()


def members(schema, path=()):
    """Paths of all members that a schema describes."""
    for name, inner in schema.get("properties", {}).items():
        yield path + (name,)
        yield from members(inner, path + (name,))
    if isinstance(schema.get("items"), dict):
        yield from members(schema["items"], path)


def present(value, path=()):
    if isinstance(value, dict):
        for name, inner in value.items():
            yield path + (name,)
            yield from present(inner, path + (name,))
    elif isinstance(value, list):
        for inner in value:
            yield from present(inner, path)


# Members that only designs have which the demo and the starters have not.
RARE = {("build", ("pegs", m)) for m in ("what", "from", "bearing_deg", "distance_m", "up_m")} | {
    ("build", ("spreaders", m)) for m in ("part", "count", "length_m")} | {
    ("currents", ("not_fed", m)) for m in ("part", "share", "cost_db", "elevation_deg")}

with tempfile.TemporaryDirectory() as work:
    demo = root / "demo/heron_point.json"
    broken = demo.read_text().replace('"leg": "leg"', '"leg": "legg"')
    (pathlib.Path(work) / "broken.json").write_text(broken)
    for kind, bands, name in (("phased-pair", ["40 m"], "pair"), ("trap-dipole", ["20 m", "40 m"], "traps")):
        subprocess.run([cli, "starter", kind, "--band", *bands, "--out", f"{work}/{name}.json"], check=True,
                       capture_output=True)
    for schema, arguments, codes in OUTPUTS:
        command = [cli] + [a.replace("{demo}", str(demo)).replace("{work}", work) for a in arguments]
        ran = subprocess.run(command, capture_output=True, text=True)
        if ran.returncode not in codes:
            failures.append(f"{' '.join(arguments)}: exit {ran.returncode}: {ran.stderr.strip()}")
            continue
        value = json.loads(ran.stdout)
        for error in list(jsonschema.Draft202012Validator(schemas[schema]).iter_errors(value))[:3]:
            failures.append(f"{' '.join(arguments)}: {'/'.join(map(str, error.absolute_path))}: {error.message[:200]}")
        seen |= {(schema, path) for path in present(value)}

for name, schema in schemas.items():
    jsonschema.Draft202012Validator.check_schema(schema)
    for path in members(schema):
        if (name, path) not in seen and (name, path) not in RARE:
            failures.append(f"{name}: no command prints {'/'.join(path)}")
unused = set(schemas) - {schema for schema, _, _ in OUTPUTS}
failures += [f"{name}: no command is held against it" for name in unused]

# The page says what the files say.
page = subprocess.run([sys.executable, str(root / "scripts/make_json_page.py"), "--print"], capture_output=True,
                      text=True, check=True).stdout
if (root / "docs/json.md").read_text() != page:
    failures.append("docs/json.md is not what scripts/make_json_page.py makes of docs/schema")

print("\n".join(failures) or f"JSON: {len(OUTPUTS)} outputs as {len(schemas)} schemas say")
sys.exit(bool(failures))
