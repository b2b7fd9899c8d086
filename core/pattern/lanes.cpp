// One text, compiled once for every set of instructions: see vectors.hpp.
#include "pattern/lanes.hpp"
#include "stack/compiled_for.hpp"
#include "stack/vectors.hpp"
#include <cstdlib>

namespace kollema::pattern {
namespace {

using namespace kollema::stack;

/// How many numbers of every row and of every hole a decision keeps.
constexpr std::size_t by_row = 13;
constexpr std::size_t by_hole_but_meeting = 7;

/// One number of each assembly, by row or hole.
template <int Width>
struct Column {
    double* at = nullptr;
    using Numbers = typename Vectors<Width>::Numbers;
    [[gnu::always_inline]] Numbers operator[](std::size_t i) const {
        return load<Numbers>(&at[i * together]);
    }
    [[gnu::always_inline]] void set(std::size_t i, const Numbers& v) const { store(&at[i * together], v); }
};

/// `Width` assemblies side by side.  `Plates`: how many, 0 where only the arrangement tells.  `Slots`:
/// whether there are any; only then some holes of two plates may have free axes.
template <int Width, int Plates, bool Slots>
class Kernel {
public:
    using Numbers = typename Vectors<Width>::Numbers;
    using Words = typename Vectors<Width>::Words;

    [[gnu::always_inline]] Kernel(const Arrangement& arrangement, const Columns& in, const Room& room,
                                  std::size_t first)
        : arrangement_(arrangement),
          in_(in),
          first_(first),
          holes_(arrangement.holes),
          plates_(Plates > 0 ? Plates : arrangement.plates),
          moves_(3 * (plates_ - 1)) {
        double* at = room.start + first % together;
        const auto columns = [&](std::size_t count) __attribute__((always_inline)) {
            const Column<Width> column{at};
            at += count * together;
            return column;
        };
        const std::size_t rows = holes_ * plates_;
        weight_ = {room.weight + first % together};
        x_ = columns(rows);
        y_ = columns(rows);
        base_x_ = columns(rows);
        base_y_ = columns(rows);
        lever_x_ = columns(rows);
        lever_y_ = columns(rows);
        along_x_ = columns(rows);
        along_y_ = columns(rows);
        slack_ = columns(rows);
        ratio_ = columns(rows);
        extra_ = columns(rows);
        off_ = columns(rows);
        axis_x_ = columns(holes_);
        axis_y_ = columns(holes_);
        own_xx_ = columns(holes_);
        own_xy_ = columns(holes_);
        own_yy_ = columns(holes_);
        right_x_ = columns(holes_);
        right_y_ = columns(holes_);
        meets_ = columns(holes_ * 2 * (moves_ + 1));
    }

    /// What can be told of the place of least squares.
    [[gnu::always_inline]] void quick(Verdict* verdicts) {
        best_fit();
        const Words fits = best_fit_works();
        Words far = fits & 0;
        for (std::size_t p = 1; p < plates_; ++p)
            far |= same_bits<Words>(excess_[p] < 0.0);
        for (int l = 0; l < Width; ++l)
            verdicts[first_ + static_cast<std::size_t>(l)] = fits[l]  ? Verdict::fits
                                                             : far[l] ? Verdict::outside
                                                                      : Verdict::open;
    }

    [[gnu::always_inline]] void decide(Verdict* verdicts) {
        Words wanted{};
        for (int l = 0; l < Width; ++l)
            wanted[l] =
                verdicts[first_ + static_cast<std::size_t>(l)] == Verdict::open ? ~std::uint64_t{0} : 0;
        if (!any<Width>(wanted)) return;
        best_fit();
        fits_ = best_fit_works() & wanted;
        open_ = wanted & ~fits_;
        // About the best fit the turn that is left is small; what its square is worth is seen from there.
        for (int look = 0; look < (Slots ? 10 : 3) && any<Width>(open_); ++look) {
            straighten();
            interior_point(look);
        }
        for (int l = 0; l < Width; ++l)
            if (wanted[l])
                verdicts[first_ + static_cast<std::size_t>(l)] = fits_[l] ? Verdict::fits : Verdict::outside;
    }

private:
    static constexpr std::size_t most = Plates > 0 ? Plates : most_plates;
    static constexpr std::size_t most_moves = 3 * (most - 1);
    static constexpr double least_curve = 1e-12; ///< added where nothing holds a move
    static constexpr double step_curve =
        1e-3; ///< so that a step does not run far where slots leave the way free

    [[gnu::always_inline]] std::size_t first_plate(std::size_t hole) const {
        if constexpr (Plates == 2 && !Slots)
            return 1;
        else
            return arrangement_.axis_is_free[hole] ? 0 : 1;
    }
    [[gnu::always_inline]] bool axis_is_free(std::size_t hole) const { return first_plate(hole) == 0; }
    [[gnu::always_inline]] std::size_t row(std::size_t plate, std::size_t hole) const {
        return plate * holes_ + hole;
    }
    [[gnu::always_inline]] Numbers reach(std::size_t r) const {
        return load<Numbers>(&in_.reach[r * in_.stride + first_]);
    }
    [[gnu::always_inline]] Numbers half(std::size_t r) const {
        return load<Numbers>(&in_.half[r * in_.stride + first_]);
    }
    template <class V>
    [[gnu::always_inline]] static Numbers magnitude(const V& v) {
        return same_bits<Numbers>(same_bits<Words>(v) & ~(std::uint64_t{1} << 63));
    }

    /// Holes about the middle of their plate; each plate turned onto plate 0 by least squares, which in the
    /// plane has a closed form; the axes in the middle of their holes.
    [[gnu::always_inline]] void best_fit() {
        const double share = 1 / static_cast<double>(holes_);
        Numbers widest{};
        for (std::size_t p = 0; p < plates_; ++p) {
            Numbers x{}, y{};
            for (std::size_t i = 0; i < holes_; ++i) {
                x += load<Numbers>(&in_.x[row(p, i) * in_.stride + first_]);
                y += load<Numbers>(&in_.y[row(p, i) * in_.stride + first_]);
            }
            x *= share;
            y *= share;
            for (std::size_t i = 0; i < holes_; ++i) {
                const Numbers dx = load<Numbers>(&in_.x[row(p, i) * in_.stride + first_]) - x,
                              dy = load<Numbers>(&in_.y[row(p, i) * in_.stride + first_]) - y;
                x_.set(row(p, i), dx);
                y_.set(row(p, i), dy);
                widest = greater_of<Numbers>(widest, dx * dx + dy * dy);
            }
        }
        radius_ = greater_of<Numbers>(square_root(widest), widest * 0 + 1e-12);
        zero_ = radius_ * 0;
        cosine_[0] = zero_ + 1;
        sine_[0] = zero_;
        shift_x_[0] = shift_y_[0] = zero_;
        for (std::size_t p = 1; p < plates_; ++p)
            turn_onto_first(p);
        for (std::size_t i = 0; i < holes_; ++i) {
            if (!axis_is_free(i)) {
                axis_x_.set(i, x_[row(0, i)]);
                axis_y_.set(i, y_[row(0, i)]);
                continue;
            }
            Numbers x{}, y{};
            for (std::size_t p = 0; p < plates_; ++p) {
                x += cosine_[p] * x_[row(p, i)] - sine_[p] * y_[row(p, i)];
                y += sine_[p] * x_[row(p, i)] + cosine_[p] * y_[row(p, i)];
            }
            axis_x_.set(i, x * (1 / static_cast<double>(plates_)));
            axis_y_.set(i, y * (1 / static_cast<double>(plates_)));
        }
    }

    /// Turned by an angle a from there, the squares of the misses sum to S + 2K(1 − cos a), however it is
    /// shifted; they may be no more than the squares of what both holes leave.
    [[gnu::always_inline]] void turn_onto_first(std::size_t p) {
        Numbers along{}, across{}, squares{}, left{};
        for (std::size_t i = 0; i < holes_; ++i) {
            const std::size_t r = row(p, i), r0 = row(0, i);
            const Numbers ax = x_[r0], ay = y_[r0], bx = x_[r], by = y_[r];
            along += bx * ax + by * ay;
            across += bx * ay - by * ax;
            squares += (ax * ax + ay * ay) + (bx * bx + by * by);
            Numbers both = reach(r);
            if constexpr (Slots) both += half(r);
            if (axis_is_free(i)) {
                both += reach(r0);
                if constexpr (Slots) both += half(r0);
            }
            left += both * both;
        }
        const Numbers length = square_root<Numbers>(along * along + across * across);
        const Words points = same_bits<Words>(length > 0.0);
        cosine_[p] = select(points, Numbers(along / length), Numbers(zero_ + 1));
        sine_[p] = select(points, Numbers(across / length), zero_);
        shift_x_[p] = shift_y_[p] = zero_;
        // The sum is a small difference of large numbers: its rounding is on the safe side.
        const Numbers rounding_of_it = squares * 1e-15;
        excess_[p] = left - (squares - 2 * length) + 2 * rounding_of_it;
        // Straight and true places differ by no more than radius·(1/cos a − 1).
        const Numbers q = select(points, Numbers(excess_[p] / (2 * length)), Numbers(zero_ + 1e3));
        bend_[p] = select(same_bits<Words>(q < 0.5), Numbers(radius_ * q / (1 - q)), Numbers(radius_ * 1e3));
    }

    [[gnu::always_inline]] void straighten() {
        for (std::size_t p = 0; p < plates_; ++p) {
            const Numbers c = cosine_[p], s = sine_[p];
            for (std::size_t i = 0; i < holes_; ++i) {
                const std::size_t r = row(p, i);
                const Numbers x = c * x_[r] - s * y_[r], y = s * x_[r] + c * y_[r];
                base_x_.set(r, x + shift_x_[p]);
                base_y_.set(r, y + shift_y_[p]);
                lever_x_.set(r, -y / radius_);
                lever_y_.set(r, x / radius_);
                if constexpr (Slots) {
                    Numbers along_x{}, along_y{};
                    slot_direction(r, c, s, along_x, along_y);
                    along_x_.set(r, along_x);
                    along_y_.set(r, along_y);
                }
            }
        }
    }

    /// A row's miss: from what the slot leaves of the way between axis and hole.
    struct Miss {
        Numbers x, y;
        Words within{}; ///< not yet at a slot's end
    };
    [[gnu::always_inline]] Miss out_of_slot(std::size_t r, Numbers x, Numbers y, const Numbers& along_x,
                                            const Numbers& along_y) const {
        if constexpr (!Slots) return {x, y};
        const Numbers along = x * along_x + y * along_y, most_way = half(r);
        const Numbers way = greater_of<Numbers>(lesser_of<Numbers>(along, most_way), -most_way);
        return {x - way * along_x, y - way * along_y, same_bits<Words>(magnitude(along) < most_way)};
    }
    [[gnu::always_inline]] Miss miss(std::size_t p, std::size_t i, const Numbers* moves) const {
        const std::size_t r = row(p, i);
        Numbers x = axis_x_[i] - base_x_[r], y = axis_y_[i] - base_y_[r];
        if (p > 0) {
            const Numbers* m = &moves[3 * (p - 1)];
            x -= m[0] + m[2] * lever_x_[r];
            y -= m[1] + m[2] * lever_y_[r];
        }
        return out_of_slot(r, x, y, along_x_[r], along_y_[r]);
    }
    [[gnu::always_inline]] Numbers beyond(std::size_t r, const Miss& m) const {
        const Numbers c = reach(r);
        return (m.x * m.x + m.y * m.y - c * c) * 0.5;
    }

    /// Whether everything is within its reach with these moves and the present axes, turned truly: a turn t
    /// is that by which a lever of one grows by t across.
    [[gnu::always_inline]] Words works(const Numbers* moves) const {
        Words all = ~same_bits<Words>(zero_);
        for (std::size_t p = 0; p < plates_; ++p) {
            Numbers x{}, y{}, sine = zero_, cosine = zero_ + 1;
            if (p > 0) {
                const Numbers* m = &moves[3 * (p - 1)];
                const Numbers t = m[2] / radius_;
                cosine = 1 / square_root<Numbers>(1 + t * t);
                sine = t * cosine;
                x = m[0];
                y = m[1];
            }
            for (std::size_t i = 0; i < holes_; ++i) {
                if (p < first_plate(i)) continue;
                const std::size_t r = row(p, i);
                const Numbers ax = lever_y_[r] * radius_, ay = -lever_x_[r] * radius_;
                Numbers along_x{}, along_y{};
                if constexpr (Slots) {
                    along_x = along_x_[r];
                    along_y = along_y_[r];
                    if (arrangement_.slots[r].turns) {
                        const Numbers before = along_x;
                        along_x = cosine * before - sine * along_y;
                        along_y = sine * before + cosine * along_y;
                    }
                }
                const Miss m = out_of_slot(r, axis_x_[i] - (base_x_[r] - ax + x + (cosine * ax - sine * ay)),
                                           axis_y_[i] - (base_y_[r] - ay + y + (sine * ax + cosine * ay)),
                                           along_x, along_y);
                const Numbers most_way = reach(r) + rounding * radius_;
                all &= same_bits<Words>(m.x * m.x + m.y * m.y <= most_way * most_way);
            }
        }
        return all;
    }

    /// The same of the place of least squares, as most assemblies are decided by it.
    [[gnu::always_inline]] Words best_fit_works() const {
        Words all = ~same_bits<Words>(zero_);
        for (std::size_t p = 0; p < plates_; ++p) {
            const Numbers c = cosine_[p], s = sine_[p];
            for (std::size_t i = 0; i < holes_; ++i) {
                if (p < first_plate(i)) continue;
                const std::size_t r = row(p, i);
                Numbers along_x{}, along_y{};
                if constexpr (Slots) slot_direction(r, c, s, along_x, along_y);
                const Numbers x = x_[r], y = y_[r];
                const Miss m = out_of_slot(r, axis_x_[i] - (c * x - s * y), axis_y_[i] - (s * x + c * y),
                                           along_x, along_y);
                const Numbers most_way = reach(r) + rounding * radius_;
                all &= same_bits<Words>(m.x * m.x + m.y * m.y <= most_way * most_way);
            }
        }
        return all;
    }
    [[gnu::always_inline]] void slot_direction(std::size_t r, const Numbers& c, const Numbers& s, Numbers& x,
                                               Numbers& y) const {
        const auto& d = arrangement_.slots[r];
        x = d.turns ? Numbers(c * d.x - s * d.y) : Numbers(zero_ + d.x);
        y = d.turns ? Numbers(s * d.x + c * d.y) : Numbers(zero_ + d.y);
    }

    /// The symmetric system of a step: curvature of all rows, the axes taken out hole by hole.  With `Bound`
    /// the last unknown is the bound t on all rows.
    struct System {
        Numbers core[most_moves + 1][most_moves + 1], right[most_moves + 1], first_right[most_moves + 1];
    };
    struct Curve {
        Numbers xx, xy, yy;
    };

    template <bool Bound>
    [[gnu::always_inline]] void clear(System& s) const {
        for (std::size_t j = 0; j < moves_ + Bound; ++j) {
            for (std::size_t k = 0; k <= j; ++k)
                s.core[j][k] = zero_;
            s.right[j] = zero_;
        }
        for (std::size_t j = 0; j < moves_; ++j)
            s.core[j][j] = zero_ + (Bound && Slots ? step_curve : least_curve);
    }

    /// What meets an axis: its own curve and pull, and its curve with every move and the bound.
    struct Axis {
        Numbers xx, xy, yy, right_x, right_y, x[most_moves + 1], y[most_moves + 1];
    };
    [[gnu::always_inline]] void clear(Axis& a) const {
        a.xx = a.yy = zero_ + (Slots ? least_curve : 0);
        a.xy = a.right_x = a.right_y = zero_;
        for (std::size_t j = 0; j < moves_ + 1; ++j)
            a.x[j] = a.y[j] = zero_;
    }

    template <bool Bound>
    [[gnu::always_inline]] void add(System& s, Axis& axis, std::size_t p, std::size_t i, const Miss& g,
                                    const Curve& c, const Numbers& pull, const Numbers& ratio) const {
        const bool has_axis = axis_is_free(i);
        if (has_axis) {
            axis.xx += c.xx;
            axis.xy += c.xy;
            axis.yy += c.yy;
            axis.right_x -= pull * g.x;
            axis.right_y -= pull * g.y;
            if constexpr (Bound) {
                axis.x[moves_] -= ratio * g.x;
                axis.y[moves_] -= ratio * g.y;
            }
        }
        if constexpr (Bound) {
            s.core[moves_][moves_] += ratio;
            s.right[moves_] += pull;
        }
        if (p == 0) return;
        const std::size_t k = 3 * (p - 1), r = row(p, i);
        const Numbers lx = lever_x_[r], ly = lever_y_[r], cx = c.xx * lx + c.xy * ly,
                      cy = c.xy * lx + c.yy * ly, turning = lx * g.x + ly * g.y;
        s.core[k][k] += c.xx;
        s.core[k + 1][k] += c.xy;
        s.core[k + 1][k + 1] += c.yy;
        s.core[k + 2][k] += cx;
        s.core[k + 2][k + 1] += cy;
        s.core[k + 2][k + 2] += lx * cx + ly * cy;
        s.right[k] += pull * g.x;
        s.right[k + 1] += pull * g.y;
        s.right[k + 2] += pull * turning;
        if constexpr (Bound) {
            s.core[moves_][k] += ratio * g.x;
            s.core[moves_][k + 1] += ratio * g.y;
            s.core[moves_][k + 2] += ratio * turning;
        }
        if (!has_axis) return;
        axis.x[k] -= c.xx;
        axis.x[k + 1] -= c.xy;
        axis.x[k + 2] -= cx;
        axis.y[k] -= c.xy;
        axis.y[k + 1] -= c.yy;
        axis.y[k + 2] -= cy;
    }

    /// Takes the axis out of the system, and keeps what gives it back.
    template <bool Bound>
    [[gnu::always_inline]] void take_out(System& s, const Axis& a, std::size_t i) const {
        const Numbers scale = 1 / (a.xx * a.yy - a.xy * a.xy);
        const Numbers xx = a.yy * scale, xy = -a.xy * scale, yy = a.xx * scale;
        for (std::size_t j = 0; j < moves_ + Bound; ++j) {
            const Numbers gx = xx * a.x[j] + xy * a.y[j], gy = xy * a.x[j] + yy * a.y[j];
            for (std::size_t k = 0; k <= j; ++k)
                s.core[j][k] -= gx * a.x[k] + gy * a.y[k];
            s.right[j] -= gx * a.right_x + gy * a.right_y;
            meets_.set(2 * (i * (moves_ + 1) + j), a.x[j]);
            meets_.set(2 * (i * (moves_ + 1) + j) + 1, a.y[j]);
        }
        own_xx_.set(i, xx);
        own_xy_.set(i, xy);
        own_yy_.set(i, yy);
        right_x_.set(i, a.right_x);
        right_y_.set(i, a.right_y);
    }

    /// Its answer into `right`; by LDLᵀ.
    template <bool Bound>
    [[gnu::always_inline]] void solve(System& s) const {
        const std::size_t n = moves_ + Bound;
        for (std::size_t k = 0; k < n; ++k) {
            const Numbers inverse = 1 / s.core[k][k];
            for (std::size_t j = k + 1; j < n; ++j) {
                const Numbers factor = s.core[j][k] * inverse;
                for (std::size_t l = k + 1; l <= j; ++l)
                    s.core[j][l] -= factor * s.core[l][k];
                s.right[j] -= factor * s.right[k];
            }
            s.right[k] *= inverse;
            for (std::size_t j = k + 1; j < n; ++j)
                s.core[j][k] *= inverse;
        }
        for (std::size_t k = n; k-- > 0;)
            for (std::size_t j = k + 1; j < n; ++j)
                s.right[k] -= s.core[j][k] * s.right[j];
    }

    template <bool Bound>
    [[gnu::always_inline]] void axis_step(const System& s, std::size_t i, Numbers& x, Numbers& y) const {
        Numbers rx = right_x_[i], ry = right_y_[i];
        for (std::size_t j = 0; j < moves_ + Bound; ++j) {
            rx -= meets_[2 * (i * (moves_ + 1) + j)] * s.right[j];
            ry -= meets_[2 * (i * (moves_ + 1) + j) + 1] * s.right[j];
        }
        x = own_xx_[i] * rx + own_xy_[i] * ry;
        y = own_xy_[i] * rx + own_yy_[i] * ry;
    }

    /// Calls each(plate, hole, row) for all that count; done(hole) after the rows of each.
    template <class Each, class Done>
    [[gnu::always_inline]] void for_rows(Each each, Done done) const {
        for (std::size_t i = 0; i < holes_; ++i) {
            for (std::size_t p = first_plate(i); p < plates_; ++p)
                each(p, i, row(p, i));
            done(i);
        }
    }
    template <class Each>
    [[gnu::always_inline]] void for_rows(Each each) const {
        for_rows(each, [](std::size_t) __attribute__((always_inline)){});
    }

    [[gnu::always_inline]] void interior_point(int look) {
        Numbers moves[most_moves + 1], top{}, greatest{};
        for (std::size_t k = 0; k < moves_; ++k)
            moves[k] = zero_;
        double rows = 0;
        for_rows([&](std::size_t p, std::size_t i, std::size_t r) __attribute__((always_inline)) {
            const Numbers c = reach(r);
            const Numbers out = beyond(r, miss(p, i, moves));
            slack_.set(r, out);
            top = greater_of<Numbers>(top, out);
            greatest = greater_of<Numbers>(greatest, c * c);
            rows += 1;
        });
        const Numbers scale = greater_of<Numbers>(greatest, top) + 1e-300;
        Numbers bound = top + 0.1 * scale;
        for_rows([&](std::size_t, std::size_t, std::size_t r) __attribute__((always_inline)) {
            slack_.set(r, bound - slack_[r]);
            weight_.set(r, select(open_, Numbers(zero_ + 1 / rows), weight_[r]));
        });
        Words seeking = open_; // the others have been decided, or wait for the next look
        constexpr int most_steps = 60;
        for (int step = 0; step < most_steps && any<Width>(seeking); ++step) {
            Numbers gap{};
            for_rows([&](std::size_t, std::size_t, std::size_t r)
                         __attribute__((always_inline)) { gap += slack_[r] * weight_[r]; });
            advance(moves, bound, gap * (0.1 / rows), seeking);
            const Words fit = works(moves) & seeking;
            fits_ |= fit;
            open_ &= ~fit;
            seeking &= ~fit;
            const Proof proof = weights_prove(moves);
            const Words truly = look == 0 ? proof.truly & seeking : seeking & 0;
            open_ &= ~truly;
            seeking &= ~(proof.straight | truly);
            // Touching within rounding is counted as outside.
            seeking &= ~same_bits<Words>(gap < 1e-15 * scale);
        }
        next_look(moves);
    }

    [[gnu::always_inline]] void advance(Numbers* moves, Numbers& bound, const Numbers& mu,
                                        const Words& seeking) {
        System s;
        Axis axis;
        clear<true>(s);
        s.core[moves_][moves_] = zero_;
        clear(axis);
        for_rows(
            [&](std::size_t p, std::size_t i, std::size_t r) __attribute__((always_inline)) {
                const Miss g = miss(p, i, moves);
                const Numbers weight = weight_[r], slack = slack_[r], ratio = weight / slack,
                              off = beyond(r, g) - bound + slack, extra = mu / slack - weight + ratio * off;
                ratio_.set(r, ratio);
                off_.set(r, off);
                extra_.set(r, extra);
                Curve c{weight + ratio * g.x * g.x, ratio * g.x * g.y, weight + ratio * g.y * g.y};
                if constexpr (Slots) {
                    const Numbers free = select(g.within, weight, zero_), ux = along_x_[r], uy = along_y_[r];
                    c.xx -= free * ux * ux;
                    c.xy -= free * ux * uy;
                    c.yy -= free * uy * uy;
                }
                add<true>(s, axis, p, i, g, c, weight + extra, ratio);
            },
            [&](std::size_t i) __attribute__((always_inline)) {
                if (!axis_is_free(i)) return;
                take_out<true>(s, axis, i);
                clear(axis);
            });
        s.right[moves_] -= 1;
        solve<true>(s);
        Numbers share = zero_ + 1;
        Numbers axis_x{}, axis_y{};
        // The changes of slack and weight, where ratio and rest were.
        for (std::size_t i = 0; i < holes_; ++i) {
            axis_x = axis_y = zero_;
            if (axis_is_free(i)) axis_step<true>(s, i, axis_x, axis_y);
            for (std::size_t p = first_plate(i); p < plates_; ++p) {
                const std::size_t r = row(p, i);
                const Miss g = miss(p, i, moves);
                Numbers change = g.x * axis_x + g.y * axis_y - s.right[moves_];
                if (p > 0) {
                    const Numbers* x = &s.right[3 * (p - 1)];
                    change -= g.x * (x[0] + lever_x_[r] * x[2]) + g.y * (x[1] + lever_y_[r] * x[2]);
                }
                const Numbers of_slack = -off_[r] - change, of_weight = extra_[r] + ratio_[r] * change;
                share = lesser_of<Numbers>(share, select(same_bits<Words>(of_slack < 0.0),
                                                         Numbers(-0.98 * slack_[r] / of_slack), share));
                share = lesser_of<Numbers>(share, select(same_bits<Words>(of_weight < 0.0),
                                                         Numbers(-0.98 * weight_[r] / of_weight), share));
                off_.set(r, of_slack);
                extra_.set(r, of_weight);
            }
        }
        for (std::size_t k = 0; k < moves_; ++k)
            moves[k] = select(seeking, Numbers(moves[k] + share * s.right[k]), moves[k]);
        bound = select(seeking, Numbers(bound + share * s.right[moves_]), bound);
        for (std::size_t i = 0; i < holes_; ++i) {
            if (axis_is_free(i)) {
                axis_step<true>(s, i, axis_x, axis_y);
                axis_x_.set(i, select(seeking, Numbers(axis_x_[i] + share * axis_x), axis_x_[i]));
                axis_y_.set(i, select(seeking, Numbers(axis_y_[i] + share * axis_y), axis_y_[i]));
            }
            for (std::size_t p = first_plate(i); p < plates_; ++p) {
                const std::size_t r = row(p, i);
                slack_.set(r, select(seeking, Numbers(slack_[r] + share * off_[r]), slack_[r]));
                weight_.set(r, select(seeking, Numbers(weight_[r] + share * extra_[r]), weight_[r]));
            }
        }
    }

    struct Proof {
        Words straight, truly; ///< no place is within all: of straight misses; even turned truly
    };
    /// The least of the weighted misses over all places and axes; above 0 no place is within all.  At a
    /// slot's end the miss along it counts as a straight line, which lies below.
    [[gnu::always_inline]] Proof weights_prove(const Numbers* moves) const {
        Numbers sum{}, least{}, bend{}, widest{};
        for_rows([&](std::size_t, std::size_t, std::size_t r)
                     __attribute__((always_inline)) { sum += weight_[r]; });
        const Numbers scale = 1 / sum;
        System s;
        Axis axis;
        clear<false>(s);
        clear(axis);
        for_rows(
            [&](std::size_t p, std::size_t i, std::size_t r) __attribute__((always_inline)) {
                const Numbers w = weight_[r] * scale, c = reach(r);
                const Miss g = miss(p, i, moves);
                least += w * beyond(r, g);
                if (p > 0) bend += w * bend_[p] * (c + 0.5 * bend_[p]);
                Numbers way = c + magnitude(g.x) + magnitude(g.y);
                Curve curve{w, zero_, w};
                if constexpr (Slots) {
                    const Numbers straight = select(same_bits<Words>(half(r) > 0.0), w, zero_),
                                  ux = along_x_[r], uy = along_y_[r];
                    curve.xx -= straight * ux * ux;
                    curve.xy -= straight * ux * uy;
                    curve.yy -= straight * uy * uy;
                    way += half(r);
                }
                widest = greater_of<Numbers>(widest, way);
                add<false>(s, axis, p, i, g, curve, w, zero_);
            },
            [&](std::size_t i) __attribute__((always_inline)) {
                if (!axis_is_free(i)) return;
                least -= before_taking_out(axis);
                take_out<false>(s, axis, i);
                clear(axis);
            });
        // ½ rᵀH⁻¹r: of the axes when they were taken out, of the moves here.
        for (std::size_t k = 0; k < moves_; ++k)
            s.first_right[k] = s.right[k];
        solve<false>(s);
        for (std::size_t k = 0; k < moves_; ++k)
            least -= 0.5 * s.first_right[k] * s.right[k];
        // What was added to the curves counts for no more than this, however far the moves go.
        const double unknowns = static_cast<double>(moves_ + (Slots ? 2 * holes_ : 0));
        least -= (0.5 * least_curve * 16 * unknowns) * widest * widest;
        return {same_bits<Words>(least > 0.0), same_bits<Words>(least > bend)};
    }
    [[gnu::always_inline]] Numbers before_taking_out(const Axis& a) const {
        const Numbers scale = 0.5 / (a.xx * a.yy - a.xy * a.xy);
        return scale * (a.yy * a.right_x * a.right_x - 2 * a.xy * a.right_x * a.right_y +
                        a.xx * a.right_y * a.right_y);
    }

    /// Places those that are still open where they have come to; who hardly turned has been seen truly.
    [[gnu::always_inline]] void next_look(const Numbers* moves) {
        Numbers turned = zero_;
        for (std::size_t p = 1; p < plates_; ++p) {
            const Numbers* m = &moves[3 * (p - 1)];
            const Numbers t = m[2] / radius_, c = 1 / square_root<Numbers>(1 + t * t), s = t * c;
            turned = greater_of<Numbers>(turned, magnitude(t));
            const Numbers cosine = cosine_[p] * c - sine_[p] * s, sine = sine_[p] * c + cosine_[p] * s;
            cosine_[p] = cosine;
            sine_[p] = sine;
            shift_x_[p] += m[0];
            shift_y_[p] += m[1];
        }
        open_ &= ~same_bits<Words>(turned * turned < rounding);
    }

    const Arrangement& arrangement_;
    const Columns& in_;
    std::size_t first_, holes_, plates_, moves_;
    Column<Width> x_, y_, base_x_, base_y_, lever_x_, lever_y_, along_x_, along_y_;
    Column<Width> slack_, weight_, ratio_, extra_, off_;
    Column<Width> axis_x_, axis_y_, own_xx_, own_xy_, own_yy_, right_x_, right_y_, meets_;
    Numbers cosine_[most], sine_[most], shift_x_[most], shift_y_[most], excess_[most], bend_[most];
    Numbers radius_, zero_;
    Words open_, fits_;
};

template <int Width, int Plates, bool Slots>
[[gnu::always_inline]] inline void quick_all(const Arrangement& arrangement, const Columns& in, Room& room,
                                             std::size_t count, Verdict* verdicts) {
    for (std::size_t k = 0; k < count; k += Width)
        Kernel<Width, Plates, Slots>(arrangement, in, room, k).quick(verdicts);
}
template <int Width>
[[gnu::always_inline]] inline void quick(const Arrangement& arrangement, const Columns& in, Room& room,
                                         std::size_t count, Verdict* verdicts) {
    if (!arrangement.slots.empty() || arrangement.plates > 3)
        quick_all<Width, 0, true>(arrangement, in, room, count, verdicts);
    else if (arrangement.plates == 3)
        quick_all<Width, 3, false>(arrangement, in, room, count, verdicts);
    else
        quick_all<Width, 2, false>(arrangement, in, room, count, verdicts);
}
template <int Width>
[[gnu::always_inline]] inline void decide(const Arrangement& arrangement, const Columns& in, Room& room,
                                          Verdict* verdicts) {
    for (std::size_t k = 0; k < together; k += Width)
        if (!arrangement.slots.empty() || arrangement.plates > 3)
            Kernel<Width, 0, true>(arrangement, in, room, k).decide(verdicts);
        else if (arrangement.plates == 3)
            Kernel<Width, 3, false>(arrangement, in, room, k).decide(verdicts);
        else
            Kernel<Width, 2, false>(arrangement, in, room, k).decide(verdicts);
}

// NOLINTBEGIN(bugprone-macro-parentheses): the arguments are names and an attribute.
#define KOLLEMA_DECIDING(SET, TARGET, WIDTH)                                                                 \
    TARGET void quick_##SET(const Arrangement& s, const Columns& c, Room& r, std::size_t n, Verdict* v) {    \
        quick<WIDTH>(s, c, r, n, v);                                                                         \
    }                                                                                                        \
    TARGET void decide_##SET(const Arrangement& s, const Columns& c, Room& r, Verdict* v) {                  \
        decide<WIDTH>(s, c, r, v);                                                                           \
    }                                                                                                        \
    constexpr Deciding SET{quick_##SET, decide_##SET};

KOLLEMA_FOR_EVERY_SET(KOLLEMA_DECIDING)
#undef KOLLEMA_DECIDING
// NOLINTEND(bugprone-macro-parentheses)

}

Room::Room(const Arrangement& arrangement) {
    const std::size_t meeting = 2 * arrangement.holes * (3 * arrangement.plates);
    const std::size_t count =
        (by_row * arrangement.rows() + by_hole_but_meeting * arrangement.holes + meeting) * together;
    numbers.resize(count + together);
    auto address = reinterpret_cast<std::uintptr_t>(numbers.data());
    start = numbers.data() + (64 - address % 64) % 64 / sizeof(double);
    weight = start;
    start += arrangement.rows() * together;
}

const Deciding& deciding(Instructions set) { return compiled_for(set, KOLLEMA_EVERY_SET); }

}
