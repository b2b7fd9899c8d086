// What a programme answers proves itself: a place that all rows allow, multipliers that add up to c, and both
// of one value (Chvátal, Linear Programming (1983), 5); else a ray, or a sum of rows that nothing obeys
// (Farkas).
#include "algebra/linear_programme.hpp"
#include <Eigen/LU>
#include <catch2/catch.hpp>
#include <map>
#include <optional>
#include <random>

using namespace kollema;
using algebra::LinearProgramme;
using algebra::Optimum;
using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

namespace {

double least_of(const VectorXd& v) { return v.size() == 0 ? 0 : v.minCoeff(); }

/// Checks the proof that an answer carries.
void prove(const MatrixXd& g, const VectorXd& h, const VectorXd& c, const Optimum& answer) {
    const double size = 1 + (h.size() > 0 ? h.cwiseAbs().maxCoeff() : 0), rounding = 1e-8 * size;
    CHECK(least_of(answer.multipliers) >= 0);
    switch (answer.is) {
    case Optimum::Is::found:
        CHECK(least_of(g * answer.x - h) >= -rounding);
        CHECK((g.transpose() * answer.multipliers - c).norm() < 1e-8 * (1 + c.norm()));
        CHECK(std::abs(answer.value - c.dot(answer.x)) < rounding * (1 + c.norm()));
        CHECK(std::abs(answer.value - h.dot(answer.multipliers)) < rounding * (1 + c.norm()));
        break;
    case Optimum::Is::unbounded:
        CHECK(least_of(g * answer.x) >= -1e-8 * answer.x.norm());
        CHECK(c.dot(answer.x) < -1e-9 * answer.x.norm());
        break;
    case Optimum::Is::impossible:
        CHECK((g.transpose() * answer.multipliers).norm() < 1e-7 * answer.multipliers.norm());
        CHECK(h.dot(answer.multipliers) > 0);
    }
}

/// The least value over all corners, tried all; empty where none obeys every row.
std::optional<double> least_of_corners(const MatrixXd& g, const VectorXd& h, const VectorXd& c) {
    std::vector<bool> chosen(static_cast<std::size_t>(g.rows()), false);
    std::fill(chosen.begin(), chosen.begin() + g.cols(), true);
    std::optional<double> least;
    do {
        std::vector<Index> rows;
        for (Index r = 0; r < g.rows(); ++r)
            if (chosen[static_cast<std::size_t>(r)]) rows.push_back(r);
        const Eigen::FullPivLU<MatrixXd> lu(g(rows, Eigen::all));
        if (!lu.isInvertible()) continue;
        const VectorXd x = lu.solve(h(rows));
        if (least_of(g * x - h) < -1e-9) continue;
        least = std::min(least.value_or(1e300), c.dot(x));
    } while (std::prev_permutation(chosen.begin(), chosen.end()));
    return least;
}

}

TEST_CASE("a programme's least value proves itself, and is that of its best corner", "[algebra]") {
    std::mt19937 random(5);
    std::normal_distribution<double> normal;
    std::map<Optimum::Is, int> met;
    for (int trial = 0; trial < 600; ++trial) {
        const Index n = 1 + trial % 4, m = n + static_cast<Index>(random() % 7);
        MatrixXd g = MatrixXd::NullaryExpr(m, n, [&] { return normal(random); });
        g.rowwise().normalize();
        const VectorXd h = VectorXd::NullaryExpr(m, [&] { return normal(random) - (trial % 3); }),
                       c = trial % 2 == 0 ? VectorXd::NullaryExpr(n, [&] { return normal(random); })
                                          : VectorXd(g.transpose() * VectorXd::NullaryExpr(m, [&] {
                                                         return std::max(0.0, normal(random));
                                                     }));
        const Optimum answer = LinearProgramme(g, c).least(h);
        CAPTURE(trial);
        prove(g, h, c, answer);
        ++met[answer.is];
        const auto corners = least_of_corners(g, h, c);
        CHECK((answer.is == Optimum::Is::impossible) == !corners);
        if (answer.is == Optimum::Is::found) CHECK(answer.value == Approx(*corners).margin(1e-8));
    }
    CHECK(met.size() == 3);
    for (const auto& [is, times] : met)
        CHECK(times > 20);
}

TEST_CASE("the same programme for one place after the other answers as a fresh one does", "[algebra]") {
    std::mt19937 random(9);
    std::normal_distribution<double> normal;
    for (const Index n : {1, 3, 6, 12}) {
        const Index m = 4 * n;
        MatrixXd g = MatrixXd::NullaryExpr(m, n, [&] { return normal(random); });
        g.rowwise().normalize();
        const VectorXd c = g.transpose() * VectorXd::Constant(m, 1);
        LinearProgramme kept(g, c);
        VectorXd h = VectorXd::Constant(m, -1);
        for (int step = 0; step < 200; ++step) {
            h += VectorXd::NullaryExpr(m, [&] { return 0.3 * normal(random); });
            CAPTURE(n, step);
            const auto again = kept.least(h), fresh = LinearProgramme(g, c).least(h);
            prove(g, h, c, again);
            REQUIRE(again.is == fresh.is);
            if (again.is == Optimum::Is::found) CHECK(again.value == Approx(fresh.value).margin(1e-8));
            if (again.is == Optimum::Is::impossible) h = VectorXd::Constant(m, -1);
        }
        // A row more cuts the corner off, and what is found then is no better.
        const auto before = kept.least(h);
        REQUIRE(before.is == Optimum::Is::found);
        kept.add(c.normalized());
        VectorXd more(m + 1);
        more << h, before.value / c.norm() + 0.25;
        const auto after = kept.least(more);
        REQUIRE(after.is == Optimum::Is::found);
        CHECK(after.value == Approx(before.value + 0.25 * c.norm()).epsilon(1e-8));
    }
}

TEST_CASE("corners in which many rows meet, free directions and no rows at all", "[algebra]") {
    // A beam's four corners of a foot in one plane, every one doubled: all are closed at once.
    MatrixXd g(8, 3);
    for (Index i = 0; i < 8; ++i)
        g.row(i) << 1, i % 4 < 2 ? 0.5 : -0.5, i % 2 == 0 ? 0.25 : -0.25;
    const VectorXd c = VectorXd::Unit(3, 0), h = VectorXd::Zero(8);
    prove(g, h, c, LinearProgramme(g, c).least(h));
    // Klee and Minty's cube (Inequalities III (1972)) in its usual scaling, 5ⁿ at its last corner.
    constexpr Index n = 6;
    MatrixXd cube = MatrixXd::Zero(2 * n, n);
    VectorXd sides = VectorXd::Zero(2 * n), up(n);
    for (Index i = 0; i < n; ++i) {
        for (Index j = 0; j < i; ++j)
            cube(i, j) = -std::pow(2, i - j + 1);
        cube(i, i) = -1;
        sides[i] = -std::pow(5, i + 1);
        cube(n + i, i) = 1;
        up[i] = -std::pow(2, n - 1 - i);
    }
    const VectorXd length = cube.rowwise().norm();
    const MatrixXd unit = length.cwiseInverse().asDiagonal() * cube;
    CHECK(LinearProgramme(unit, up).least(sides.cwiseQuotient(length)).value ==
          Approx(-std::pow(5, n)).epsilon(1e-8));
    // A direction that no row sees and c does not ask for is no matter; one that c asks for has no end.
    MatrixXd flat(2, 3);
    flat << 1, 0, 0, -1, 0, 0;
    const VectorXd within = VectorXd::Constant(2, -2);
    const auto left = LinearProgramme(flat, VectorXd::Unit(3, 0)).least(within);
    CHECK(left.is == Optimum::Is::found);
    CHECK(left.value == Approx(-2).epsilon(1e-8));
    CHECK(LinearProgramme(flat, VectorXd::Unit(3, 2)).least(within).is == Optimum::Is::unbounded);
    CHECK(LinearProgramme(MatrixXd(0, 2), VectorXd::Zero(2)).least(VectorXd(0)).is == Optimum::Is::found);
    CHECK(LinearProgramme(MatrixXd(0, 2), VectorXd::Ones(2)).least(VectorXd(0)).is == Optimum::Is::unbounded);
    // c lies on a row's own side, the others are not reached: x ≥ 1 and 3 x + y ≥ −5, least x.
    MatrixXd two(2, 2);
    two << 1, 0, 3 / std::sqrt(10.0), 1 / std::sqrt(10.0);
    VectorXd apart(2);
    apart << 1, -5 / std::sqrt(10.0);
    const auto half_free = LinearProgramme(two, VectorXd::Unit(2, 0)).least(apart);
    CHECK(half_free.value == Approx(1).epsilon(1e-8));
    CHECK(least_of(two * half_free.x - apart) >= -1e-9);
}
