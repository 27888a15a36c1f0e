#!/usr/bin/env python3
"""Writes docs/json.md, every member of what the commands print as JSON, from docs/schema."""
import json
import pathlib
import sys

ROOT = pathlib.Path(__file__).resolve().parent.parent


def kind_of(schema):
    kinds = schema.get("type", "object")
    kinds = kinds if isinstance(kinds, list) else [kinds]
    words = []
    for kind in kinds:
        if kind == "array":
            items = schema.get("items", {}).get("type", "object")
            items = " or ".join(items) if isinstance(items, list) else items
            words.append(f"list of {items}s" if items != "array" else "list of lists")
        elif kind == "object" and "additionalProperties" in schema and schema["additionalProperties"] is not False:
            words.append("object by name")
        else:
            words.append(kind)
    return " or ".join(words)


def rows(schema, path=""):
    inner = schema
    mark = ""
    while isinstance(inner.get("items"), dict):
        inner = inner["items"]
        mark += "[]"
    where = path + mark
    for name, member in inner.get("properties", {}).items():
        here = f"{where}.{name}" if where else name
        optional = "" if name in inner.get("required", []) else "; may be absent"
        yield f"| `{here}` | {kind_of(member)}{optional} | {member.get('description', '')} |"
        yield from rows(member, here)


def page():
    out = ["# What the commands print as JSON", "",
           "Made by `scripts/make_json_page.py` from the JSON Schemas in `docs/schema` (draft 2020-12), which tests hold",
           "against what is printed. Numbers are in the units that their names end in; members may come in any order.", ""]
    for file in sorted((ROOT / "docs/schema").glob("*.schema.json")):
        schema = json.loads(file.read_text())
        command = schema["title"]
        whole = " A list, one item for each." if schema.get("type") == "array" else ""
        out += [f"## {command}", f"{schema['description']}.{whole} [Schema](schema/{file.name}).", "",
                "| member | kind | meaning |", "|---|---|---|", *rows(schema), ""]
    return "\n".join(out)


if __name__ == "__main__":
    if "--print" in sys.argv:
        sys.stdout.write(page())
    else:
        (ROOT / "docs/json.md").write_text(page())
