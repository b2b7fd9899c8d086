"""Answers of kollema-cli against numpy and scipy, by roads of their own: characteristic functions inverted numerically,
moments and yields of formulas by product quadrature, hole patterns by sequential quadratic programming.
python3 oracle.py kollema-cli"""
import json
import math
import subprocess
import sys
import tempfile
from pathlib import Path

import numpy as np
from scipy import integrate, stats
from scipy.optimize import linprog, minimize

CLI = sys.argv[1]
failures = 0


def check(what, value, wanted, bound):
    global failures
    good = abs(value - wanted) <= bound
    failures += not good
    print(f"{'ok  ' if good else 'BAD '} {what}: {value:.10g}, wanted {wanted:.10g} within {bound:.2g}")


def answer(command, text, suffix, *options):
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / ("input" + suffix)
        file.write_text(text)
        return json.loads(subprocess.run([CLI, command, str(file), *options, "--json"], check=True, capture_output=True,
                                         text=True).stdout)


# Mixed linear chains.

def law(kind, half, cpk, shift):
    if kind == "normal":
        return stats.norm(shift * half, half / (3 * cpk))
    if kind == "uniform":
        return stats.uniform(-half, 2 * half)
    if kind == "triangular":
        return stats.triang(0.5, -half, 2 * half)
    return stats.truncnorm(-3 * cpk, 3 * cpk, 0, half / (3 * cpk))


def characteristic(kind, half, cpk, shift, t):
    """By quadrature over the density, but for the normal: no formula of the program's."""
    if kind == "normal":
        return np.exp(1j * shift * half * t - (half / (3 * cpk) * t) ** 2 / 2)
    x, w = np.polynomial.legendre.leggauss(400)
    parts = [(-half, 0.0), (0.0, half)]
    total = np.zeros(len(t), dtype=complex)
    for a, b in parts:
        at = (a + b) / 2 + (b - a) / 2 * x
        density = law(kind, half, cpk, shift).pdf(at) * w * (b - a) / 2
        total += np.exp(1j * np.outer(t, at)) @ density
    return total


def mixed_chain(rows, lower, upper):
    """P(lower <= gap <= upper) by Gil-Pelaez's inversion."""
    centre = sum(r[1] * r[5] for r in rows)
    sigma = math.sqrt(sum(law(r[3], r[2], r[4], r[6]).var() * r[5] ** 2 for r in rows))
    t = np.linspace(1e-9, 30 / sigma, 20_001)
    phi = np.ones(len(t), dtype=complex)
    for _, _, half, kind, cpk, sensitivity, shift in rows:
        phi = phi * characteristic(kind, half, cpk, shift, t * sensitivity)

    def cdf(x):
        integrand = (np.exp(-1j * t * (x - centre)) * phi).imag / t
        return 0.5 - integrate.simpson(integrand, x=t) / math.pi
    return cdf(upper) - cdf(lower)


def chains():
    random = np.random.default_rng(5)
    for number in range(4):
        rows = []
        for i in range(3 + number):
            kind = ["normal", "uniform", "triangular", "truncated"][(i + number) % 4]
            rows.append((f"r{i}", round(random.uniform(5, 40), 2), round(random.uniform(0.02, 0.2), 3), kind,
                         round(random.uniform(0.7, 1.6), 2) if kind in ("normal", "truncated") else 1.0,
                         [1.0, -1.0, 0.5, -1.3][i % 4], round(random.uniform(-0.3, 0.3), 2) if kind == "normal" else 0.0))
        rows.append(("last", 3.0, 0.05, "normal", 1.0, 1.0, 0.0))  # so that the inversion converges soon
        text = "name,nominal,plus,minus,sensitivity,distribution,cpk,shift\n" + "".join(
            f"{n},{nominal},{half},{-half},{s},{kind},{cpk},{shift}\n" for n, nominal, half, kind, cpk, s, shift in rows)
        centre = sum(r[1] * r[5] for r in rows)
        spread = math.sqrt(sum((r[2] * r[5]) ** 2 for r in rows))
        lower, upper = centre - 0.8 * spread, centre + 0.6 * spread
        got = answer("stack", text, ".csv", "--lower", repr(lower), "--upper", repr(upper), "--samples", "1000")
        gap = got["requirements"][0]["distribution"]
        check(f"yield of a mixed chain of {len(rows)}", gap["yield"], mixed_chain(rows, lower, upper), 2e-8)


# Formulas: a product rule over all sizes.

def quadrature(sizes, value):
    nodes, weights = np.polynomial.legendre.leggauss(60)
    grids, masses = [], []
    for _, nominal, half, kind in sizes:
        reach = 8 * half / 3 if kind == "normal" else half
        grids.append(nominal + reach * nodes)
        masses.append(weights * reach * law(kind, half, 1, 0).pdf(reach * nodes))
    mesh = np.meshgrid(*grids, indexing="ij")
    mass = masses[0]
    for m in masses[1:]:
        mass = np.multiply.outer(mass, m)
    gap = value(*mesh)
    mean = (gap * mass).sum()
    sigma = math.sqrt(((gap - mean) ** 2 * mass).sum())
    return mean, sigma


def formulas():
    cases = [
        ("hypot(a, b) - c", lambda a, b, c: np.hypot(a, b) - c,
         [("a", 3, 0.6, "normal"), ("b", 4, 0.9, "uniform"), ("c", 4.5, 0.2, "triangular")]),
        ("a*cos(t) + sqrt(b^2 - (a*sin(t))^2)",
         lambda a, b, t: a * np.cos(np.radians(t)) + np.sqrt(b ** 2 - (a * np.sin(np.radians(t))) ** 2),
         [("a", 40, 1.5, "uniform"), ("b", 150, 2.0, "normal"), ("t", 50, 6.0, "normal")]),
    ]
    for text, value, sizes in cases:
        mean, sigma = quadrature(sizes, value)
        document = {"sizes": [{"name": n, "nominal": x, "plus": h, "minus": -h, "distribution": k} for n, x, h, k in sizes],
                    "requirements": [{"id": "g", "name": "g", "value": text}]}
        samples = 4_000_000
        got = answer("stack", json.dumps(document), ".json", "--samples", str(samples))["requirements"][0]["monte_carlo"]
        check(f"mean of {text}", got["mean"], mean, 5 * sigma / math.sqrt(samples))
        check(f"sigma of {text}", got["sigma"], sigma, 8 * sigma / math.sqrt(samples))


# Patterns: each assembly by sequential quadratic programming.

def goes_together(a, b, reach, slot):
    """The least greatest square of a miss beyond its reach, over shift and turn; a slot leaves a way along its
    direction.  The gradient of half a squared distance is the miss itself."""
    def misses(x):
        c, s = math.cos(x[2] / 50), math.sin(x[2] / 50)
        turned = b @ np.array([[c, s], [-s, c]])
        z = a - turned - x[:2]
        if slot is not None:
            index, along, half = slot
            z[index] = z[index] - np.clip(z[index] @ along, -half, half) * along
        return z, np.stack([-turned[:, 1], turned[:, 0]], axis=1) / 50

    def room(x):
        z, _ = misses(x)
        return x[3] - ((z * z).sum(1) - reach * reach) / 2

    def slope(x):
        z, lever = misses(x)
        return np.column_stack([z, (z * lever).sum(1), np.ones(len(a))])
    found = minimize(lambda x: x[3], [0, 0, 0, 1], jac=lambda x: np.array([0, 0, 0, 1.0]), method="SLSQP",
                     constraints={"type": "ineq", "fun": room, "jac": slope}, options={"ftol": 1e-12, "maxiter": 200})
    return found.x[3] <= 0


def patterns():
    random = np.random.default_rng(11)

    def disc(n, zone):
        r, a = zone / 2 * np.sqrt(random.random(n)), 2 * np.pi * random.random(n)
        return np.stack([r * np.cos(a), r * np.sin(a)], axis=1)
    trials = 800
    holes = np.array([[0, 0], [60, 0], [70, 45], [20, 55], [-15, 30]], dtype=float)
    fit = 0
    for _ in range(trials):
        reach = (random.uniform(6.4, 6.5, 5) + random.uniform(6.4, 6.5, 5)) / 2 - random.uniform(5.9, 6, 5)
        fit += goes_together(holes + disc(5, 1.0), holes + disc(5, 1.0), reach, None)
    plates = [{"diameter": 6.4, "plus": 0.1, "position": 1.0}] * 2
    document = {"fastener": {"diameter": 6, "minus": -0.1}, "holes": holes.tolist(), "plates": plates}
    got = answer("pattern", json.dumps(document), ".json")["yield"]
    check("yield of five holes", got, fit / trials, 4 * math.sqrt(0.25 / trials))
    # A round hole and one slotted along the line between them, not quite as long as needed.
    fit = 0
    two = np.array([[0, 0], [80, 0]], dtype=float)
    for _ in range(trials):
        width = random.uniform(6.02, 6.06)
        reach = np.array([(random.uniform(6.02, 6.06) - 6) / 2, (width - 6) / 2])
        slot = (1, np.array([1.0, 0.0]), (6.25 - width) / 2)
        fit += goes_together(two + disc(2, 0.2), two + disc(2, 0.2), reach, slot)
    plate = {"diameter": 6.02, "plus": 0.04, "position": 0.2}
    document = {"fastener": {"diameter": 6}, "holes": [[0, 0]], "plates": [{"press": True, "position": 0.2}, plate],
                "beside": [{"fastener": {"diameter": 6}, "holes": [[80, 0]],
                            "plates": [{"press": True, "position": 0.2},
                                       {**plate, "slot": {"length": 6.25, "direction": 0}}]}]}
    got = answer("pattern", json.dumps(document), ".json")["yield"]
    check("yield of a round and a slotted hole", got, fit / trials, 4 * math.sqrt(0.25 / trials))


# Contacts that only push: extremes and resting places by a linear programme of another solver.

def one_sided():
    random = np.random.default_rng(11)
    for number in range(8):
        contacts, rows, plays = [], [], []

        def contact(at, z, play):
            name = f"c{len(contacts)}"
            contacts.append({"id": name, "type": "point", "a": "base", "b": "body", "at": list(at), "z": list(z),
                             "sided": "one", "play": {"nominal": play}})
            rows.append(np.concatenate([np.cross(at, z), z]))  # opening for a turn and a slide of the body
            plays.append(play)

        for _ in range(7):
            at, z = random.uniform(-50, 50, 3), random.normal(size=3)
            z /= np.linalg.norm(z)
            contact(at, z, random.uniform(0, 0.3))
            contact(at, -z, random.uniform(0, 0.3))
        for _ in range(number):  # more that cut corners off
            z = random.normal(size=3)
            contact(random.uniform(-60, 60, 3), z / np.linalg.norm(z), random.uniform(0.02, 0.2))
        at, along, push, pushed_at = (random.uniform(-80, 80, 3), random.normal(size=3), random.normal(size=3),
                                      random.uniform(-40, 40, 3))
        along /= np.linalg.norm(along)
        push /= np.linalg.norm(push)
        document = {"bodies": ["base", "body"], "ground": "base", "contacts": contacts,
                    "requirements": [{"id": "gap", "from": {"body": "base", "at": list(at)},
                                      "to": {"body": "body", "at": list(at + 5 * along)}, "along": list(along)}]}
        gap = np.concatenate([np.cross(at + 5 * along, along), along])
        found = [linprog(sign * gap, A_ub=-np.array(rows), b_ub=plays, bounds=(None, None), method="highs")
                 for sign in (1, -1)]
        if any(f.status != 0 for f in found):
            continue
        got = answer("stack", json.dumps(document), ".json", "--samples", "1000")["requirements"][0]
        check("least place of a caged body", got["worst_case"]["min"], 5 + found[0].fun, 1e-7)
        check("greatest place of a caged body", got["worst_case"]["max"], 5 - found[1].fun, 1e-7)
        force = np.concatenate([np.cross(pushed_at, push), push])
        rest = linprog(-force, A_ub=-np.array(rows), b_ub=plays, bounds=(None, None), method="highs")
        document["push"] = [{"body": "body", "along": list(push), "at": list(pushed_at)}]
        got = answer("stack", json.dumps(document), ".json", "--samples", "1000")["requirements"][0]
        check("a body where it is pushed", got["nominal"], 5 + gap @ rest.x, 1e-7)


chains()
formulas()
patterns()
one_sided()
sys.exit(1 if failures else 0)
