#!/usr/bin/env python3
"""Papers that go with an installed program, made from what the project says of itself.

papers.py guide docs/guide.md guide.html       the guide as one page for a browser (by cmark-gfm)
papers.py releases CHANGELOG.md TEMPLATE OUT   AppStream metainfo with the notes of each release
papers.py changelog CHANGELOG.md OUT           the same for a Debian package, compressed
"""
import datetime
import email.utils
import gzip
import html
import pathlib
import re
import subprocess
import sys
import textwrap

STYLE = """
:root { color-scheme: light dark; --paper: #f4f1ea; --ink: #1f2a2e; --soft: #5c676a; --line: #d8d2c4; --sunken: #efebe0; --water: #1f6f80; }
@media (prefers-color-scheme: dark) {
  :root { --paper: #161c1e; --ink: #e8e4d9; --soft: #a3adab; --line: #3a4649; --sunken: #273134; --water: #63b7c8; } }
body { max-width: 46rem; margin: 2rem auto; padding: 0 1.2rem 4rem; background: var(--paper); color: var(--ink);
       font: 16px/1.55 "DejaVu Sans", sans-serif; }
h1, h2 { line-height: 1.25; } h2 { margin-top: 2.2rem; border-top: 1px solid var(--line); padding-top: 1.2rem; }
a { color: var(--water); } nav { columns: 2; font-size: .93rem; } nav a { display: block; padding: .12rem 0; }
code { background: var(--sunken); padding: .1em .3em; border-radius: .25em; font-size: .92em; }
pre { background: var(--sunken); padding: .8rem 1rem; overflow-x: auto; border-radius: .4em; } pre code { padding: 0; }
table { border-collapse: collapse; margin: 1rem 0; } td, th { border: 1px solid var(--line); padding: .3rem .6rem; text-align: left; }
img { max-width: 100%; border: 1px solid var(--line); border-radius: .4em; }
"""


def anchor(title):
    return re.sub(r"[^a-z0-9]+", "-", title.lower()).strip("-")


def guide(source, out):
    text = pathlib.Path(source).read_text(encoding="utf-8")
    body = subprocess.run(["cmark-gfm", "-e", "table", "--unsafe"], input=text, capture_output=True, text=True, check=True).stdout
    titles = re.findall(r"<h2>(.*?)</h2>", body)
    body = re.sub(r"<h2>(.*?)</h2>", lambda m: f'<h2 id="{anchor(m[1])}">{m[1]}</h2>', body)
    contents = "\n".join(f'<a href="#{anchor(t)}">{t}</a>' for t in titles)
    body = body.replace("</h1>", f"</h1>\n<nav>{contents}</nav>", 1)
    # What lies beside the guide in the source tree and does not come with it stays a name.
    body = re.sub(r'<a href="(?!#|https?:)[^"]*">(.*?)</a>', r"\1", body)
    pathlib.Path(out).write_text(
        f'<!DOCTYPE html>\n<html lang="en"><head><meta charset="utf-8"><title>Reed Mast: guide for designers</title>\n'
        f'<meta name="viewport" content="width=device-width">\n<style>{STYLE}</style></head>\n<body>\n{body}</body></html>\n',
        encoding="utf-8")


def releases(source):
    """(version, date, notes) of each release, newest first: the list below its title is its notes."""
    found = []
    for block in re.split(r"^## ", pathlib.Path(source).read_text(encoding="utf-8"), flags=re.M)[1:]:
        title, _, rest = block.partition("\n")
        named = re.fullmatch(r"(\d+(?:\.\d+)*) \((\d{4}-\d{2}-\d{2})\)", title.strip())
        if not named:
            sys.exit(f"{source}: a release is titled 'version (date)', not '{title.strip()}'")
        notes = [line[2:].strip() for line in rest.partition("\n### ")[0].splitlines() if line.startswith("- ")]
        if not notes:
            sys.exit(f"{source}: release {named[1]} has no list of notes below its title")
        found.append((named[1], named[2], notes))
    return found


def metainfo(source, template, out):
    lines = []
    for version, date, notes in releases(source):
        lines.append(f'    <release version="{version}" date="{date}">\n      <description>\n        <ul>')
        lines += [f"          <li>{html.escape(note)}</li>" for note in notes]
        lines.append("        </ul>\n      </description>\n    </release>")
    text = pathlib.Path(template).read_text(encoding="utf-8")
    pathlib.Path(out).write_text(text.replace("@RELEASES@", "\n".join(lines) + "\n"), encoding="utf-8")


def changelog(source, out):
    text = ""
    for version, date, notes in releases(source):
        when = datetime.datetime.fromisoformat(date).replace(tzinfo=datetime.timezone.utc)
        text += f"reedmast ({version}) stable; urgency=medium\n\n"
        text += "".join(textwrap.fill(note, 78, initial_indent="  * ", subsequent_indent="    ") + "\n" for note in notes)
        text += f"\n -- The Reed Mast developers <developers@reedmast.example>  {email.utils.format_datetime(when)}\n\n"
    pathlib.Path(out).write_bytes(gzip.compress(text.rstrip("\n").encode() + b"\n", 9, mtime=0))


if __name__ == "__main__":
    what, *rest = sys.argv[1:] or [""]
    tasks = {"guide": guide, "releases": metainfo, "changelog": changelog}
    if what not in tasks:
        sys.exit(__doc__)
    tasks[what](*rest)
