#pragma once
#include "pattern/lanes.hpp"
#include "pattern/pattern.hpp"
#include "pattern/scattered.hpp"
#include "stack/random.hpp"

/// Internal to patterns: assemblies drawn by the hundred and decided side by side.
namespace kollema::pattern {

/// How the holes of a pattern become the rows of a arrangement.  A hole stands there more than once where a
/// fastener leans (at either end) or a dowel is flattened (points along its lands, each of which must stay
/// within the hole).
struct Layout {
    Arrangement arrangement;
    std::vector<std::size_t> order; ///< which plate comes first: the one that carries fasteners
    std::vector<std::size_t> hole;  ///< of Pattern::holes(), by hole of the arrangement
};
Layout layout_of(const Pattern& pattern);

class Drawing {
public:
    Drawing(const Pattern& pattern, const Layout& layout, const stack::Sampling& sampling,
            std::uint64_t block);

    /// Adds how many fit, and after that the blame of each hole.
    void draw(const stack::Block& block, std::span<double> sums);

private:
    static constexpr std::size_t batch = stack::RandomBlock::batch;
    /// From row to row; not a power of two, which would crowd all of them into few places of the cache.
    static constexpr std::size_t stride = batch + together;
    using Numbers = std::array<double, batch>;

    void draw_batch();
    void draw_hole(const Group& group, std::size_t hole, std::size_t& row, std::size_t number);
    void draw_plate(const Group& group, std::size_t plate, const Point& hole, std::size_t row,
                    std::size_t copies, std::size_t number);
    void lands(const Group& group, std::size_t row);
    void draw_size(const Size& size, Numbers& values);
    void draw_position(const Discs& discs, double* x, double* y);
    void note_tight(const double* clearance, std::size_t hole);
    void join_pairs();
    void count(std::size_t sample, Verdict verdict, const double* weights, std::size_t lane,
               std::span<double> sums);
    void decide(std::size_t sample, std::span<double> sums);
    void decide_pool(std::span<double> sums);

    const Pattern& pattern_;
    const Layout& layout_;
    stack::RandomBlock random_;
    const Scattered& scattered_;
    const Deciding& deciding_;
    Room room_;
    std::vector<double> x_, y_, reach_, half_;                     ///< by row, a batch each
    std::vector<double> pool_x_, pool_y_, pool_reach_, pool_half_; ///< by row, `together` each
    std::size_t pooled_ = 0;
    Numbers fastener_{}, size_{}, at_x_{}, at_y_{};
    std::array<std::size_t, batch> tight_{}; ///< hole that its own fastener does not pass, counted from 1
    std::array<Verdict, batch> verdicts_{};
};

/// Holes of one assembly that no fastener passes where the plates stay, by hole of the pattern.
std::vector<std::size_t> tight_holes(const Layout& layout, const Columns& columns, std::size_t assembly);

}
