"""Wrong edits against the tests: run.py SOURCE [FROM [TO]], or run.py SOURCE check: whether the list still fits.  Each edit of list.txt is made in a copy of SOURCE, built and tested
(core, command line, solids and presenter, optimised); prints killed or survived for each and the share at the end."""
import pathlib
import shutil
import subprocess
import sys
import time


def edits(path):
    for line in path.read_text().splitlines():
        if line.strip() and not line.startswith("#"):
            file, old, new = (line + " ").split(" | ", 2)
            yield file, old.replace("\\n", "\n"), new.strip().replace("\\n", "\n")


def quiet(command, folder):
    return subprocess.run(command, cwd=folder, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL).returncode == 0


def must(command, folder, otherwise):
    """As they are, sources build and tests pass; where they do not, what was said last is told."""
    done = subprocess.run(command, cwd=folder, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    if done.returncode != 0:
        sys.exit("\n".join(done.stdout.splitlines()[-40:] + [otherwise]))


def fits(source):
    """Whether every edit's old text stands in its file, once."""
    good = True
    for number, (file, old, _) in enumerate(edits(source / "tests" / "mutants" / "list.txt"), 1):
        if (source / file).read_text().count(old) != 1:
            print(f"{number}: {file} does not hold exactly once: {old}")
            good = False
    return good


def main():
    source = pathlib.Path(sys.argv[1]).resolve()
    if sys.argv[2:] == ["check"]:
        sys.exit(0 if fits(source) else 1)
    copy = source / "build" / "mutants" / "source"
    copy.mkdir(parents=True, exist_ok=True)
    tracked = subprocess.run(["git", "ls-files", "-z"], cwd=source, capture_output=True, check=True).stdout.split(b"\0")
    for name in filter(None, tracked):
        target = copy / name.decode()
        target.parent.mkdir(parents=True, exist_ok=True)
        text = (source / name.decode()).read_bytes()
        if not target.exists() or target.read_bytes() != text:
            target.write_bytes(text)
    build = copy.parent / "build"
    targets = ["kollema_tests", "kollema_cli_tests", "kollema_geometry_tests", "kollema_window_tests", "kollema-cli"]
    make = ["cmake", "--build", str(build), "--target", *targets, "--", "--quiet"]
    # Without warnings: unused names and the like must not save a test from its work.
    must(["cmake", "-G", "Ninja", "-S", str(copy), "-B", str(build), "-DKOLLEMA_TOGETHER=OFF",
                        "-DCMAKE_BUILD_TYPE=Release", "-DCMAKE_CXX_FLAGS_RELEASE=-O2 -DNDEBUG -w"], copy, "the sources cannot be configured")
    must(make, copy, "the sources do not build as they are")
    test = ["ctest", "--test-dir", str(build), "-j2", "--stop-on-failure", "-E", "fuzz|house rules|wrong edits|oracle|desktop: (window|space|monkey|picture)"]
    must(test, copy, "the tests fail as they are")
    first, last = (int(a) for a in (sys.argv[2:] + ["1", "10000"])[:2]) if len(sys.argv) > 3 else \
        (int(sys.argv[2]) if len(sys.argv) > 2 else 1, 10000)
    counts = {"killed": 0, "survived": 0, "not built": 0}
    for number, (file, old, new) in enumerate(edits(source / "tests" / "mutants" / "list.txt"), 1):
        if not first <= number <= last:
            continue
        path = copy / file
        before = path.read_text()
        if before.count(old) != 1:
            sys.exit(f"{number}: {file} does not hold exactly once: {old}")
        start = time.time()
        path.write_text(before.replace(old, new))
        verdict = "not built" if not quiet(make, copy) else "survived" if quiet(test, copy) else "killed"
        path.write_text(before)
        counts[verdict] += 1
        print(f"{number:3} {verdict:9} {time.time() - start:4.0f} s  {file}: {old.strip()[:60]!r} -> {new[:60]!r}", flush=True)
    shutil.copystat(source, copy)
    tried = counts["killed"] + counts["survived"]
    print(f"{counts['killed']} of {tried} killed, {counts['not built']} do not build")


main()
