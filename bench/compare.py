"""Speed of the stack computations against simple vectorised numpy, in one run: five rounds, the two sides by turns in
every round; the median of each side and of the rounds' ratios is printed.  python3 bench/compare.py kollema-bench"""
import statistics
import subprocess
import sys
import time

import numpy as np

HALF = [0.05 + 0.01 * i for i in range(10)]
SAMPLES = 1_000_000


def kinds(mix):
    return ["normal"] * 10 if mix == "normal" else ["normal"] * 4 + ["uniform"] * 3 + ["triangular"] * 2 + ["truncated"]


def numpy_monte_carlo(mix):
    """The simple loop over contributors that anybody would write; the truncated one redraws what lies outside."""
    random = np.random.default_rng(1)
    start = time.perf_counter()
    gap = np.full(SAMPLES, 10.0)
    for half, kind in zip(HALF, kinds(mix)):
        if kind == "normal":
            gap += random.normal(0.0, half / 3, SAMPLES)
        elif kind == "uniform":
            gap += random.uniform(-half, half, SAMPLES)
        elif kind == "triangular":
            gap += random.triangular(-half, 0.0, half, SAMPLES)
        else:
            draw = random.normal(0.0, half / 3, SAMPLES)
            outside = np.abs(draw) > half
            while outside.any():
                draw[outside] = random.normal(0.0, half / 3, outside.sum())
                outside = np.abs(draw) > half
            gap += draw
    yield_ = np.mean((gap >= 9.8) & (gap <= 10.2))
    gap.mean(), gap.std()
    return time.perf_counter() - start, yield_


def numpy_tail(mix, x, points=8192):
    """P(gap > x) by FFT of cell masses on a grid over the whole range."""
    from math import erf
    start = time.perf_counter()
    # The support of the sum (normals to 8 sigma) must fit on the circle of the transform.
    reach = sum(8 * h / 3 if k == "normal" else h for h, k in zip(HALF, kinds(mix)))
    step = 2 * reach / (points - 1)
    edges = (np.arange(points + 1) - points / 2) * step
    cdf_normal = np.vectorize(erf)
    product = np.ones(points // 2 + 1, dtype=complex)
    for half, kind in zip(HALF, kinds(mix)):
        z = np.clip(edges, -half, half) / half
        if kind == "normal":
            cdf = 0.5 + 0.5 * cdf_normal(edges / (half / 3) / np.sqrt(2))
        elif kind == "uniform":
            cdf = 0.5 + 0.5 * z
        elif kind == "triangular":
            cdf = np.where(z < 0, 0.5 * (1 + z) ** 2, 1 - 0.5 * (1 - z) ** 2)
        else:
            cdf = 0.5 + 0.5 * cdf_normal(3 * z / np.sqrt(2)) / erf(3 / np.sqrt(2))
        product *= np.fft.rfft(np.fft.ifftshift(np.diff(cdf)))
    mass = np.fft.fftshift(np.fft.irfft(product, points))
    # A cell's mass stands at its middle; each of the ten convolutions moves it by half a cell.
    centres = (np.arange(points) - points / 2) * step + 10 * step / 2
    tail = mass[centres > x - 10].sum()
    return time.perf_counter() - start, tail


def zone_of(holes, plates):
    if plates == 3:
        return 0.7 if holes == 12 else 0.9
    return 1.0 if holes == 4 else 0.9


def scipy_pattern(holes, plates=2, samples=60):
    """The same pattern by sequential quadratic programming: the least greatest miss over shifts and turns, a sample;
    with three plates over the axes of the fasteners too."""
    from scipy.optimize import minimize
    random = np.random.default_rng(1)
    angle = 2 * np.pi * np.arange(holes) / holes
    true = 30 * np.stack([np.cos(angle), np.sin(angle)], axis=1)
    zone = zone_of(holes, plates)

    def disc():
        r, a = np.sqrt(random.random(holes)) * zone / 2, 2 * np.pi * random.random(holes)
        return np.stack([r * np.cos(a), r * np.sin(a)], axis=1)
    fit = 0
    start = time.perf_counter()
    for _ in range(samples):
        at = [true + disc() for _ in range(plates)]
        size = [random.uniform(6.6, 6.75, holes) for _ in range(plates)]
        fastener = random.uniform(5.82, 6, holes)
        fit += (two_plates if plates == 2 else many_plates)(minimize, at, [(s - fastener) / 2 for s in size])
    return (time.perf_counter() - start) / samples, fit / samples


def two_plates(minimize, at, clearance):
    (a, b), reach = at, clearance[0] + clearance[1]
    lever = np.stack([-b[:, 1], b[:, 0]], axis=1)
    ones = np.ones(len(a))

    def room(x):
        z = a - b - x[:2] - x[2] / 30 * lever
        return x[3] - ((z * z).sum(1) - reach * reach) / 2

    def slope(x):
        z = a - b - x[:2] - x[2] / 30 * lever
        return np.column_stack([z, (z * lever).sum(1) / 30, ones])
    found = minimize(lambda x: x[3], [0, 0, 0, 1], jac=lambda x: np.array([0, 0, 0, 1.0]), method="SLSQP",
                     constraints={"type": "ineq", "fun": room, "jac": slope}, options={"ftol": 1e-12, "maxiter": 200})
    return found.x[3] <= 0


def many_plates(minimize, at, clearance):
    """Unknowns: three moves a plate after the first, two for every axis, the bound."""
    plates, holes = len(at), len(at[0])
    moves, size = 3 * (plates - 1), 3 * (plates - 1) + 2 * holes + 1
    levers = [np.stack([-b[:, 1], b[:, 0]], axis=1) / 30 for b in at]
    rows = np.arange(holes)

    def misses(x):
        f = x[moves:-1].reshape(holes, 2)
        yield f - at[0]
        for p in range(1, plates):
            m = x[3 * p - 3:3 * p]
            yield f - at[p] - m[:2] - m[2] * levers[p]

    def room(x):
        return np.concatenate([x[-1] - ((z * z).sum(1) - c * c) / 2 for z, c in zip(misses(x), clearance)])

    def slope(x):
        all_ = np.zeros((plates * holes, size))
        for p, z in enumerate(misses(x)):
            part = all_[p * holes:(p + 1) * holes]
            part[rows, moves + 2 * rows] = -z[:, 0]
            part[rows, moves + 2 * rows + 1] = -z[:, 1]
            part[:, -1] = 1
            if p > 0:
                part[:, 3 * p - 3:3 * p - 1] = z
                part[:, 3 * p - 1] = (z * levers[p]).sum(1)
        return all_
    first = np.concatenate([np.zeros(moves), (sum(at) / plates).ravel(), [1]])
    goal = np.zeros(size)
    goal[-1] = 1
    found = minimize(lambda x: x[-1], first, jac=lambda x: goal, method="SLSQP",
                     constraints={"type": "ineq", "fun": room, "jac": slope}, options={"ftol": 1e-12, "maxiter": 200})
    return found.x[-1] <= 0


def numpy_expression(kind, samples=SAMPLES):
    """The formulas of expressions.hpp as anybody writes them with arrays."""
    random = np.random.default_rng(1)
    middle, half = [40, 150, 45, 12, 30, 8], [0.05, 0.1, 0.2, 0.05, 0.1, 0.05]
    a, b, c, d, e, f = (m + h * random.uniform(-1, 1, samples) for m, h in zip(middle, half))
    start = time.perf_counter()
    if kind == "angles":
        t = np.radians(c)
        gap = a * np.cos(t) + np.sqrt(b**2 - (a * np.sin(t) - d)**2) - e * np.sin(np.radians(c + f))
    else:
        gap = np.sqrt(b**2 - (a - d)**2) + e * f / (a + d) - c / f
    return (time.perf_counter() - start) / samples, gap.mean()


def ours(program, *arguments):
    numbers = subprocess.run([program, *arguments], check=True, capture_output=True, text=True).stdout.split()
    return [float(n) for n in numbers]


def main():
    program = sys.argv[1]
    print("medians of 5 rounds; ratio = numpy / Kollema, same round")
    for mix in ("normal", "mixed"):
        rounds = [(ours(program, "monte-carlo", mix), numpy_monte_carlo(mix)) for _ in range(5)]
        mine, peer = [r[0][0] for r in rounds], [r[1][0] for r in rounds]
        ratio = statistics.median(p / m for m, p in zip(mine, peer))
        print(f"Monte Carlo, 1e6 x 10 {mix:7s} Kollema {1e3 * statistics.median(mine):8.2f} ms   numpy {1e3 * statistics.median(peer):8.1f} ms"
              f"   x{ratio:.1f}   (yields {rounds[0][0][1]:.5f}, {rounds[0][1][1]:.5f})")
    for mix in ("normal", "mixed"):
        rounds = []
        for _ in range(5):
            mine = ours(program, "tail", mix)
            rounds.append((mine, numpy_tail(mix, mine[2])))
        ratio = statistics.median(p[0] / m[0] for m, p in rounds)
        print(f"tail at 1e-9, 10 {mix:7s}      Kollema {1e6 * statistics.median(m[0] for m, _ in rounds):8.1f} us   numpy FFT 8192 "
              f"{1e3 * statistics.median(p[0] for _, p in rounds):6.2f} ms   x{ratio:.0f}   (tails {rounds[0][0][1]:.6e}, {rounds[0][1][1]:.6e})")
    for plates, what in ((2, "pattern"), (3, "pattern-of-three")):
        for holes in ("4", "8", "12"):
            rounds = [(ours(program, what, holes), scipy_pattern(int(holes), plates)) for _ in range(5)]
            ratio = statistics.median(p[0] / m[0] for m, p in rounds)
            print(f"hole pattern, {plates} plates, {holes:2s} holes Kollema {1e-6 / statistics.median(m[0] for m, _ in rounds):6.2f} M/s   scipy SLSQP "
                  f"{1 / statistics.median(p[0] for _, p in rounds):6.0f} /s   x{ratio:.0f}   (yields {rounds[0][0][1]:.3f}, {statistics.mean(p[1] for _, p in rounds):.3f})")
    peer = program + "-expression-peer"
    for kind in ("angles", "roots"):
        rounds = [(ours(program, "expression", kind), ours(peer, kind), numpy_expression(kind)) for _ in range(5)]
        by_parser = statistics.median(p[0] / m[0] for m, p, _ in rounds)
        by_numpy = statistics.median(n[0] / m[0] for m, _, n in rounds)
        print(f"formula with {kind:6s}          Kollema {1e-6 / statistics.median(m[0] for m, _, _ in rounds):6.1f} M/s   muParser "
              f"{1e-6 / statistics.median(p[0] for _, p, _ in rounds):5.2f} M/s x{by_parser:.1f}   numpy "
              f"{1e-6 / statistics.median(n[0] for _, _, n in rounds):5.1f} M/s x{by_numpy:.1f}"
              f"   (means {rounds[0][0][1]:.5f}, {rounds[0][1][1]:.5f}, {rounds[0][2][1]:.5f})")


if __name__ == "__main__":
    main()
