#!/usr/bin/env python3
"""Holds the catalogues of other languages against the English they belong to.

Every text is translated, with the same places for values, the same blanks at its ends, and as many mnemonics.
"""
import pathlib
import re
import sys


def entries(text):
    """(English, its plural or None, translations) of each entry behind the head."""
    for block in re.split(r"\n\s*\n", text)[1:]:
        if "msgid" not in block or block.lstrip().startswith("#~"):
            continue
        found = {}
        for key, lines in re.findall(r'^(msg\w+(?:\[\d\])?) ((?:"(?:[^"\\]|\\.)*"\n?)+)', block + "\n", re.M):
            found[key] = "".join(re.findall(r'"((?:[^"\\]|\\.)*)"', lines))
        yield found["msgid"], found.get("msgid_plural"), [v for k, v in found.items() if k.startswith("msgstr")]


def places(text):
    """What stands for values: %1 and the like, and {} with their formats, whatever their order."""
    # How a date is written is the language's own.
    text = re.sub(r"\{:%[^{}]*\}", "{date}", text)
    numbered = re.sub(r"\{\d+(:[^{}]*)?\}", lambda m: "{" + (m.group(1) or "") + "}", text)
    return sorted(re.findall(r"%(?:\d|n\b)", text)), sorted(re.findall(r"\{[^{}]*\}", numbered))


def ends(text):
    return re.match(r"\s*", text).group(0), re.search(r"\s*$", text).group(0)


def faults(name, text):
    count = 0
    for english, plural, translations in entries(text):
        count += 1
        for i, said in enumerate(translations):
            model = plural if plural is not None else english
            if not said:
                yield f'{name}: "{english}" is not translated'
            elif plural is not None and places(said)[1] != places(model)[1]:
                yield f'{name}: other places in "{said}" than in "{model}"'
            elif plural is None and places(said) != places(model):
                yield f'{name}: other places in "{said}" than in "{english}"'
            elif re.search(r"\{\d", said) and re.search(r"\{[:}]", said):
                yield f'{name}: number all places of "{said}", or none'
            elif english.strip() and ends(said) != ends(english):
                yield f'{name}: other blanks at the ends of "{said}" than of "{english}"'
            elif english.count("&") == 1 and said.count("&") != 1:
                yield f'{name}: no mnemonic in "{said}"'
    if count < 2000:
        yield f"{name}: only {count} entries were found"


def main():
    root = pathlib.Path(sys.argv[1])
    catalogues = sorted((root / "po").glob("*.po"))
    found = [fault for po in catalogues for fault in faults(po.name, po.read_text(encoding="utf-8"))]
    if not catalogues:
        found.append("there is no catalogue")
    print("\n".join(found) if found else f"{len(catalogues)} catalogue(s), nothing missing")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
