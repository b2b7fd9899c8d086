"""From the start of the program to a picture of the demo, against an empty window of its size: as the demo
opens, and in space; painted, and with everything that is computed after that.  Medians of nine runs in turn.
first_picture.py PROGRAM"""
import os
import statistics
import subprocess
import sys
import tempfile
import time

def seconds(*arguments):
    with tempfile.NamedTemporaryFile(suffix=".png") as picture:
        start = time.time()
        subprocess.run([sys.argv[1], *arguments, "--picture", picture.name], check=True)
        return os.stat(picture.name).st_mtime - start

runs = {
    "an empty window": [],
    "the demo as it opens": ["--demo", "--early"],
    "the demo in space": ["--demo", "--view", "assembly", "--early"],
    "the demo as it opens, to the last result": ["--demo"],
    "the demo in space, to the last result": ["--demo", "--view", "assembly"],
}
taken = {name: [] for name in runs}
for _ in range(9):
    for name, arguments in runs.items():
        taken[name].append(seconds(*arguments))
empty = statistics.median(taken["an empty window"])
for name in runs:
    median = statistics.median(taken[name])
    print(f"{name}: {median:.2f} s, {median / empty:.1f} times")
if statistics.median(taken["the demo as it opens"]) > 3 * empty:
    sys.exit("the demo is painted later than after three times an empty window's start")
