#include "algebra/dense.hpp"
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <random>

using namespace kollema;
using Catch::Matchers::WithinAbs;

namespace {

/// Orthonormal columns by turns in two coordinates at a time.
Eigen::MatrixXd turned(Eigen::Index size, std::mt19937& random) {
    std::uniform_real_distribution<double> angle(0, 6);
    Eigen::MatrixXd q = Eigen::MatrixXd::Identity(size, size);
    for (Eigen::Index i = 0; i < size; ++i)
        for (Eigen::Index j = i + 1; j < size; ++j) {
            const double a = angle(random), c = std::cos(a), s = std::sin(a);
            const Eigen::VectorXd x = q.col(i), y = q.col(j);
            q.col(i) = c * x + s * y;
            q.col(j) = c * y - s * x;
        }
    return q;
}

}

TEST_CASE("singular values and vectors are those that a matrix was made of, of any shape and rank",
          "[algebra]") {
    std::mt19937 random(3);
    struct Shape {
        Eigen::Index rows, cols, rank;
    };
    for (const auto [rows, cols, rank] : {Shape{1, 1, 1}, Shape{1, 6, 1}, Shape{6, 1, 1}, Shape{9, 6, 4},
                                          Shape{6, 9, 6}, Shape{40, 33, 20}, Shape{5, 5, 0}}) {
        Eigen::VectorXd values = Eigen::VectorXd::Zero(std::min(rows, cols));
        for (Eigen::Index i = 0; i < rank; ++i)
            values[i] = std::pow(10, -static_cast<double>(i) / 3);
        const Eigen::Index n = values.size();
        const Eigen::MatrixXd a = turned(rows, random).leftCols(n) * values.asDiagonal() *
                                  turned(cols, random).leftCols(n).transpose();
        CAPTURE(rows, cols, rank);
        for (const auto wanted : {algebra::Vectors::none, algebra::Vectors::thin, algebra::Vectors::full})
            CHECK((algebra::svd(a, wanted).values - values).norm() < 1e-13);
        for (const auto wanted : {algebra::Vectors::thin, algebra::Vectors::full}) {
            const auto [s, u, v] = algebra::svd(a, wanted);
            const bool full = wanted == algebra::Vectors::full;
            REQUIRE(u.cols() == (full ? rows : n));
            REQUIRE(v.cols() == (full ? cols : n));
            CHECK((u.leftCols(n) * s.asDiagonal() * v.leftCols(n).transpose() - a).norm() < 1e-13);
            CHECK((u.transpose() * u - Eigen::MatrixXd::Identity(u.cols(), u.cols())).norm() < 1e-12);
            CHECK((v.transpose() * v - Eigen::MatrixXd::Identity(v.cols(), v.cols())).norm() < 1e-12);
        }
    }
    const auto nothing = algebra::svd(Eigen::MatrixXd(0, 3), algebra::Vectors::full);
    CHECK(nothing.values.size() == 0);
    CHECK(nothing.v == Eigen::MatrixXd::Identity(3, 3));
}

TEST_CASE("eigenvalues of a companion matrix are the roots of its polynomial", "[algebra]") {
    // (t² − 2t + 5)·(t − 3)·(t + 4) = t⁴ − t³ − 9t² + 29t − 60
    Eigen::MatrixXd companion = Eigen::MatrixXd::Zero(4, 4);
    companion.col(3) << 60, -29, 9, 1;
    companion.diagonal(-1).setOnes();
    auto roots = algebra::eigenvalues(companion);
    std::ranges::sort(roots, {}, [](const auto& z) { return std::pair(z.real(), z.imag()); });
    REQUIRE(roots.size() == 4);
    const std::vector<std::complex<double>> right{{-4, 0}, {1, -2}, {1, 2}, {3, 0}};
    for (std::size_t i = 0; i < 4; ++i)
        CHECK_THAT(std::abs(roots[i] - right[i]), WithinAbs(0, 1e-12));
}

TEST_CASE("a definite system is solved, a singular one too", "[algebra]") {
    // Hilbert's matrix of four rows; its inverse has whole entries (N. J. Higham, Accuracy and Stability of
    // Numerical Algorithms, ch. 28).
    Eigen::MatrixXd a(4, 4), b = Eigen::MatrixXd::Zero(4, 2), right(4, 2);
    for (Eigen::Index i = 0; i < 4; ++i)
        for (Eigen::Index j = 0; j < 4; ++j)
            a(i, j) = 1 / static_cast<double>(i + j + 1);
    b(0, 0) = 1;
    b(2, 1) = 1;
    right << 16, 240, -120, -2700, 240, 6480, -140, -4200;
    CHECK((algebra::solve_definite(a, b) - right).norm() < 1e-8);
    const Eigen::MatrixXd ones = Eigen::MatrixXd::Ones(3, 3), x = algebra::solve_definite(ones, 2 * ones);
    CHECK((ones * x - 2 * ones).norm() < 1e-12);
}
