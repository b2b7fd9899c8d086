// A peer of the expressions: muParser, one sample after the other.  Argument: angles or roots.  Prints
// seconds a sample and the mean.
#include "expressions.hpp"
#include <chrono>
#include <cstdio>
#include <muParser.h>
#include <random>
#include <string>
#include <vector>

int main(int argc, char** argv) {
    if (argc != 2) return 2;
    const bool angles = std::string(argv[1]) == "angles";
    constexpr std::size_t samples = 1'000'000;
    std::mt19937_64 random(1);
    std::uniform_real_distribution<double> any(-1, 1);
    std::array<std::vector<double>, 6> inputs;
    for (std::size_t i = 0; i < 6; ++i)
        for (std::size_t k = 0; k < samples; ++k)
            inputs[i].push_back(expressions::middles[i] + expressions::halves[i] * any(random));
    mu::Parser parser;
    std::array<double, 6> now{};
    for (std::size_t i = 0; i < 6; ++i)
        parser.DefineVar(expressions::names[i], &now[i]);
    parser.SetExpr(angles ? expressions::with_angles_in_radians : expressions::with_roots);
    std::vector<double> values(samples);
    (void)parser.Eval();
    const auto start = std::chrono::steady_clock::now();
    for (std::size_t k = 0; k < samples; ++k) {
        for (std::size_t i = 0; i < 6; ++i)
            now[i] = inputs[i][k];
        values[k] = parser.Eval();
    }
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    double sum = 0;
    for (const double v : values)
        sum += v;
    std::printf("%.12f %.9f\n", seconds / samples, sum / samples);
    return 0;
}
