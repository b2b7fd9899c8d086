#!/usr/bin/env python3
"""Writes docs/standards.md from the head lines and rows of every table in data/: ./run docs.

A figure stands in one of four ways: held to a formula, an identity or another table by a test; recalled a second time,
without a look at the first, with the same result (head line "recalled" names the columns, "recalled otherwise" the
figures, COLUMN@ROW or *@ROW, of which that is not so); held to bounds only (monotony, ranges, series: "bounds"); or on
memory alone ("alone").
"""
import csv
import pathlib

root = pathlib.Path(__file__).resolve().parent.parent


def read(path):
    lines = path.read_text(encoding="utf-8").splitlines()
    head = dict(line[2:].split(": ", 1) for line in lines if line.startswith("# "))
    rows = list(csv.reader(line for line in lines if line and not line.startswith("# ")))
    return head, rows[0], rows[1:]


def numbers(cell):
    """How many figures a cell holds; lists are separated by blanks."""
    count = 0
    for word in cell.split():
        try:
            float(word)
            count += 1
        except ValueError:
            pass
    return count


def main():
    out = ["# The tables of the standards", "",
           "Every table of `data/standards` and `data/hardware`: edition, range, provenance, and how its figures are held. Made by",
           "`./run docs` from the tables' own head lines. **No table was checked against a printed standard**; all stand on memory and",
           "on the second route named. *By rule*: a test in `tests/reference` or `tests/core` holds the figure to a formula, an identity or another table.",
           "*Recalled*: not by rule, but a second recall that did not look at the first gave the same figure; two memories can share one",
           "mistake, so this is evidence and no proof. *By bounds*: a test holds it to growth, a range or a series only. *Alone*: memory",
           "alone, besides the published samples in the tests. Materials, processes and fit advice are assumed or common practice.", ""]
    totals = [0, 0, 0, 0]
    for folder, title in (("standards", "Limits, threads, holes, strengths, practice"), ("hardware", "Hardware")):
        out += [f"## {title}", "", "| table | standard | range | figures by rule / recalled / bounds / alone | provenance and second route |",
                "|---|---|---|---|---|"]
        for path in sorted((root / "data" / folder).glob("*.csv")):
            head, columns, rows = read(path)
            counts = [0, 0, 0, 0]
            recalled, otherwise = head.get("recalled", "").split(), head.get("recalled otherwise", "").split()
            for row in rows:
                key = row[0].replace(" ", "_")
                for column, cell in zip(columns[1:], row[1:]):
                    twice = column in recalled and f"*@{key}" not in otherwise and f"{column}@{key}" not in otherwise
                    bounds, alone = column in head.get("bounds", "").split(), column in head.get("alone", "").split()
                    kind = 0 if not bounds and not alone else 1 if twice else 2 if bounds else 3
                    counts[kind] += numbers(cell)
            totals = [a + b for a, b in zip(totals, counts)]
            out.append(f"| {path.name} | {head['standard']} | {rows[0][0]} to {rows[-1][0]}, {len(rows)} rows | "
                       f"{' / '.join(map(str, counts))} | {head['provenance']} |")
        out.append("")
    out += [f"Together {sum(totals)} figures: {totals[0]} by rule, {totals[1]} recalled twice alike, {totals[2]} by bounds, {totals[3]} on memory",
            "alone. Threads, their limits,",
            "unified limits, trapezoidal and Acme geometry, press fits, tapers and torques are computed by formula and stand in no table.", ""]
    (root / "docs" / "standards.md").write_text("\n".join(out), encoding="utf-8")
    print(f"docs/standards.md: {totals[0]} by rule, {totals[1]} recalled, {totals[2]} by bounds, {totals[3]} alone")


main()
