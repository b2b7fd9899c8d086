"""From the start of the program to the demo in space, against an empty window of its size: medians of five
runs in turn.  first_picture.py PROGRAM"""
import statistics
import subprocess
import sys
import tempfile
import time

def seconds(*arguments):
    with tempfile.NamedTemporaryFile(suffix=".png") as picture:
        start = time.monotonic()
        subprocess.run([sys.argv[1], *arguments, "--picture", picture.name], check=True)
        return time.monotonic() - start

demo, empty = [], []
for _ in range(5):
    empty.append(seconds())
    demo.append(seconds("--demo", "--view", "assembly"))
a, b = statistics.median(demo), statistics.median(empty)
print(f"demo to its first picture {a:.2f} s, an empty window {b:.2f} s: {a / b:.1f} times")
