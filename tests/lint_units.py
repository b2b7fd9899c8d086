"""Names from standard input, one a line -> sources for clang-tidy to read, with their compile_commands.json.

A dozen files of one folder are read as one: most of the time goes into the headers that they share.  Folders that are
compiled so keep their names apart; files of others, and those with flags of their own, stay alone.

    lint_units.py COMPILE_COMMANDS FOLDER
"""
import collections
import json
import pathlib
import sys

together_in = ("/core/", "/geometry/", "/desktop/presenter/")
at_once = 12


def main(commands, folder):
    folder = pathlib.Path(folder)
    folder.mkdir(exist_ok=True)
    flags, where = {}, {}
    for entry in json.loads(pathlib.Path(commands).read_text()):
        flags[entry["file"]] = entry["command"].rsplit(" -o ", 1)[0]
        where[entry["file"]] = entry["directory"]
    files = [str(pathlib.Path(name).absolute()) for name in sys.stdin.read().split()]
    usual = collections.Counter((str(pathlib.Path(file).parent), flags[file]) for file in flags)
    groups = {}
    for file in files:
        parent = str(pathlib.Path(file).parent)
        unusual = usual[parent, flags[file]] < max(n for (at, _), n in usual.items() if at == parent)
        alone = unusual or not any(part in file for part in together_in)
        groups.setdefault((parent, flags[file], file if alone else None), []).append(file)
    units = []
    for (parent, command, _), files in groups.items():
        for first in range(0, len(files), at_once):
            part = files[first:first + at_once]
            unit = part[0]
            if len(part) > 1:
                # The analyser follows the paths of what is included only where a source is named so.
                unit = str((folder / f"UnifiedSource-{pathlib.Path(parent).name}-{len(units)}.cpp").absolute())
                pathlib.Path(unit).write_text("".join(f'#include "{file}"\n' for file in part))
            units.append({"file": unit, "directory": where[part[0]], "command": f"{command} -c {unit}"})
    (folder / "compile_commands.json").write_text(json.dumps(units, indent=1))
    print("\n".join(unit["file"] for unit in units))


main(*sys.argv[1:])
