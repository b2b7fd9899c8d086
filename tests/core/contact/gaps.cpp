#include "contact/answers.hpp"
#include "contact/freedoms.hpp"
#include "contact/sum_of_norms.hpp"
#include "mechanisms.hpp"
#include "one_of.hpp"
#include <Eigen/LU>
#include <cmath>
#include <numbers>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;
using contact::Toleranced;
using contact::Type;

namespace {

void add_gap(Toleranced& t, std::size_t from, std::size_t to, const Vector3& at, const Vector3& along) {
    t.gaps.push_back({.id = "gap",
                      .name = "gap",
                      .from = {from, at},
                      .to = {to, at + 5 * along},
                      .along = along,
                      .limits = {}});
}
void add_size(Toleranced& t, double half, std::vector<contact::Move> moves,
              Distribution d = Distribution::normal) {
    t.sizes.push_back({plus_minus(half, d), std::move(moves)});
}
contact::Move side_b(std::size_t contact, const Vector3& along) {
    return {contact::Move::Of::contact, contact, true, along};
}
contact::Move side_a(std::size_t contact, const Vector3& along) {
    return {contact::Move::Of::contact, contact, false, along};
}

void clear(Toleranced& t, std::size_t contact, double nominal, double half,
           contact::Rest rest = contact::Rest::chance, const Vector3& push = Vector3::Zero()) {
    t.behaviour[contact].clearance =
        contact::Clearance{plus_minus(half, Distribution::normal, nominal), rest, push};
}

/// Where body 1 really stands when its contact frames are shifted: Newton on the residuals themselves, slopes
/// by differences.
struct Pose {
    Eigen::Matrix3d turn = Eigen::Matrix3d::Identity();
    Vector3 place = Vector3::Zero();
    Vector3 operator()(const Vector3& p) const { return turn * p + place; }
};

Pose placed(const Toleranced& t, const std::vector<Vector3>& shift_b) {
    const auto residuals = [&](const Pose& pose) {
        std::vector<double> r;
        for (std::size_t i = 0; i < t.mechanism.contacts.size(); ++i) {
            const auto& c = t.mechanism.contacts[i];
            const Vector3 p = c.frame.local_vector(pose(c.frame.origin + shift_b[i]) - c.frame.origin);
            const auto axis = [&](const Vector3& v) {
                return c.frame.local_vector(pose.turn * v);
            }; // b's axis seen from a
            const Vector3 bx = axis(c.frame.x), by = axis(c.frame.y()), bz = axis(c.frame.z);
            switch (c.type) {
            case Type::seat:
                r.insert(r.end(), {p.z(), bz.x() * 50, bz.y() * 50});
                break;
            case Type::pin:
                r.insert(r.end(), {p.x(), p.y()});
                break;
            case Type::slot:
                r.push_back(p.y());
                break;
            case Type::point:
                r.push_back(p.z());
                break;
            case Type::ball:
                r.insert(r.end(), {p.x(), p.y(), p.z()});
                break;
            case Type::hinge:
                r.insert(r.end(), {p.x(), p.y(), p.z(), bz.x() * 50, bz.y() * 50});
                break;
            case Type::line:
                r.insert(r.end(), {p.z(), bx.z() * 50});
                break;
            default:
                FAIL("no residual for this type here");
            }
            static_cast<void>(by);
        }
        return Eigen::VectorXd(Eigen::Map<Eigen::VectorXd>(r.data(), static_cast<Eigen::Index>(r.size())));
    };
    const auto moved = [](const Pose& pose, const Eigen::Matrix<double, 6, 1>& by) {
        const Vector3 turn = by.head<3>();
        const Eigen::Matrix3d r = turn.norm() > 0
                                      ? Eigen::AngleAxisd(turn.norm(), turn.normalized()).toRotationMatrix()
                                      : Eigen::Matrix3d::Identity();
        return Pose{r * pose.turn, r * pose.place + by.tail<3>()};
    };
    Pose pose;
    for (int step = 0; step < 20; ++step) {
        const Eigen::VectorXd r = residuals(pose);
        Eigen::MatrixXd j(r.size(), 6);
        for (int i = 0; i < 6; ++i) {
            Eigen::Matrix<double, 6, 1> by = Eigen::Matrix<double, 6, 1>::Zero();
            by[i] = i < 3 ? 1e-6 : 1e-4;
            j.col(i) = (residuals(moved(pose, by)) - residuals(moved(pose, -by))) / (2 * by[i]);
        }
        pose = moved(pose, -j.fullPivLu().solve(r));
        if (residuals(pose).norm() < 1e-13) break;
    }
    return pose;
}

}

TEST_CASE("sensitivities are the differences of a part that is really placed anew", "[contact]") {
    Dice dice(5);
    for (int trial = 0; trial < 60; ++trial) {
        std::vector<contact::Contact> contacts;
        switch (trial % 3) {
        case 0: // a plate: face, round pin, slot
            contacts = {touching(Type::seat, 0, 1, dice.point(40), z),
                        touching(Type::pin, 0, 1, dice.point(40), z),
                        touching(Type::slot, 0, 1, dice.point(40) + Vector3(90, 0, 0), z, x)};
            break;
        case 1: // three balls on six faces
            for (int i = 0; i < 6; ++i)
                contacts.push_back(touching(Type::point, 0, 1, dice.point(60), dice.direction()));
            break;
        default: // a hinge and a stop
            contacts = {touching(Type::hinge, 0, 1, dice.point(40), dice.direction()),
                        touching(Type::point, 0, 1, dice.point(80), dice.direction())};
        }
        Toleranced t = firm(mechanism(2, contacts));
        const Vector3 at = dice.point(100), along = dice.direction();
        add_gap(t, 0, 1, at, along);
        t.gaps[0].to.at = at;
        std::vector<Vector3> directions;
        for (std::size_t c = 0; c < contacts.size(); ++c) {
            directions.push_back(dice.direction());
            add_size(t, 0.1, {side_b(c, directions.back())});
        }
        if (!contact::effects(t)) continue; // six faces may leave a motion
        const auto effects = must(t);
        double greatest = 0;
        for (const auto& [size, pull] : effects.gaps[0].pulls.of_size)
            greatest = std::max(greatest, std::abs(pull));
        if (greatest > 20) continue; // barely held: differences see the curve
        for (std::size_t c = 0; c < contacts.size(); ++c) {
            constexpr double step = 1e-3;
            const auto gap = [&](double sign) {
                std::vector<Vector3> shift(contacts.size(), Vector3::Zero());
                shift[c] = sign * step * directions[c];
                return along.dot(placed(t, shift)(at) - at);
            };
            CAPTURE(trial, c);
            CHECK_THAT(effects.gaps[0].pulls.of_size.at(c),
                       WithinAbs((gap(1) - gap(-1)) / (2 * step), 2e-5 * std::max(1.0, greatest)));
        }
    }
}

TEST_CASE("the forces of a chain hold every body in balance", "[contact]") {
    Dice dice(6);
    for (int trial = 0; trial < 40; ++trial) {
        // Three bodies, each on six stops of the one before: forces only, no couples.
        std::vector<contact::Contact> contacts;
        for (std::size_t body = 1; body <= 3; ++body)
            for (int i = 0; i < 6; ++i)
                contacts.push_back(touching(Type::point, body - 1, body, dice.point(60), dice.direction()));
        Toleranced t = firm(mechanism(4, contacts));
        add_gap(t, dice.index(2), 3, dice.point(90), dice.direction());
        const auto effects = must(t);
        const auto answer = contact::answer(t, effects, 0);
        for (std::size_t body = 1; body <= 3; ++body) {
            Vector3 force = Vector3::Zero(), couple = Vector3::Zero();
            for (std::size_t c = 0; c < contacts.size(); ++c) {
                const double sign = contacts[c].b == body ? 1 : contacts[c].a == body ? -1 : 0;
                force += sign * answer.reactions[c];
                couple += sign * contacts[c].frame.origin.cross(answer.reactions[c]);
            }
            const auto& gap = t.gaps[0];
            for (const auto& [end, sign] : {std::pair{gap.to, -1.0}, {gap.from, 1.0}})
                if (end.body == body) {
                    force += sign * gap.along;
                    couple += sign * end.at.cross(gap.along);
                }
            CHECK(force.norm() < 1e-6);
            CHECK(couple.norm() < 1e-4);
        }
    }
}

TEST_CASE("a chain of blocks is the sum of its links", "[contact]") {
    // 400 parts on each other, each ±0.1 thick: the gap on top has ±40 and every sensitivity is 1.
    constexpr std::size_t parts = 400;
    std::vector<contact::Contact> contacts;
    for (std::size_t i = 0; i < parts; ++i)
        contacts.push_back(touching(Type::seat, i, i + 1, {0, 0, 10.0 * static_cast<double>(i)}));
    Toleranced t = firm(mechanism(parts + 1, contacts));
    add_gap(t, 0, parts, {0, 0, 10.0 * parts}, z);
    for (std::size_t i = 0; i + 1 < parts; ++i)
        add_size(t, 0.1, {side_a(i + 1, z)}, Distribution::uniform);
    const auto answer = contact::answer(t, must(t), 0);
    CHECK_THAT(answer.worst_case->max - answer.worst_case->min, WithinAbs(0.2 * (parts - 1), 1e-9));
    CHECK_THAT(answer.distribution.sigma, WithinAbs(0.1 / std::sqrt(3.0) * std::sqrt(parts - 1.0), 1e-9));
    CHECK(contact::freedoms(t.mechanism).mobility == 3 * parts);
}

TEST_CASE("a gap that nothing holds is refused with the body that is free", "[contact]") {
    Toleranced t =
        firm(mechanism(3, {touching(Type::fixed, 0, 1, {0, 0, 0}), touching(Type::seat, 1, 2, {0, 0, 10})}));
    add_gap(t, 0, 2, {0, 0, 20}, z);
    CHECK(contact::effects(t));
    t.gaps.clear();
    add_gap(t, 0, 2, {0, 0, 20}, x);
    const auto refused = contact::effects(t);
    REQUIRE_FALSE(refused);
    CHECK(refused.error().why.find("body 2") != std::string::npos);
    CHECK(refused.error().kind == FailureKind::not_held);
    t.mechanism.contacts[1].type = Type::loose;
    t.gaps[0].along = z;
    CHECK_FALSE(contact::effects(t));
}

TEST_CASE("one size that is met twice is one size", "[contact]") {
    // Two pins 40 apart, the gap midway, and one hole position of each part that carries all of it.
    Toleranced t =
        firm(mechanism(2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {0, 0, 0}),
                           touching(Type::slot, 0, 1, {40, 0, 0}, z, x)}));
    add_gap(t, 0, 1, {20, 0, 0}, y);
    add_size(t, 0.1, {side_b(1, y), side_b(2, y)});
    const auto both = contact::answer(t, must(t), 0);
    CHECK_THAT(both.worst_case->max - both.worst_case->min,
               WithinAbs(0.2, 1e-9)); // as one, not 0.1 + 0.1 apart in root sum square
    CHECK_THAT(both.rss.max - both.rss.min, WithinAbs(0.2, 1e-9));
    t.sizes.clear();
    add_size(t, 0.1, {side_b(1, y)});
    add_size(t, 0.1, {side_b(2, y)});
    const auto apart = contact::answer(t, must(t), 0);
    CHECK_THAT(apart.rss.max - apart.rss.min, WithinAbs(0.2 / std::sqrt(2.0), 1e-9));
}

TEST_CASE("two round pins stand by chance as the disc's law says", "[contact]") {
    // Along their line the shift x has density (ρ² − x²): variance ρ²/5; across 4·ρ²/15 at each pin.
    const double rho = 0.05;
    Toleranced t =
        firm(mechanism(2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {0, 0, 0}),
                           touching(Type::pin, 0, 1, {60, 0, 0})}));
    for (const std::size_t pin : {1U, 2U})
        clear(t, pin, 2 * rho, 0);
    add_gap(t, 0, 1, {200, 0, 0}, x);
    add_gap(t, 0, 1, {0, 0, 0}, y);
    add_gap(t, 0, 1, {30, 0, 0}, y);
    const auto effects = must(t);
    const auto simulated = *contact::simulate(t, effects, {.samples = 400'000, .seed = 3});
    CHECK(simulated.left_out == 0);
    CHECK_THAT(std::pow(simulated.gaps[0].sigma, 2), WithinRel(rho * rho / 5, 0.01));
    CHECK_THAT(std::pow(simulated.gaps[1].sigma, 2), WithinRel(4 * rho * rho / 15, 0.01));
    CHECK_THAT(std::pow(simulated.gaps[2].sigma, 2),
               WithinRel(2 * rho * rho / 15, 0.01)); // the mean of two uncorrelated ones
    // Pushed as far as they go: along by ρ, across at a pin by ρ.
    for (std::size_t g = 0; g < 3; ++g) {
        const auto a = contact::answer(t, effects, g);
        CHECK_FALSE(a.exact);
        CHECK_THAT(a.worst_case->max - 5, WithinAbs(rho, 1e-9));
        CHECK_THAT(a.worst_case->min - 5, WithinAbs(-rho, 1e-9));
    }
    // Gap a span beyond the second pin, askew: extremes by trying every place.
    t.gaps.clear();
    add_gap(t, 0, 1, {120, 0, 0}, Vector3(1, 2, 0).normalized());
    double most = 0;
    for (int i = 0; i <= 400; ++i) {
        const double shift = rho * (i / 200.0 - 1), reach = std::sqrt(rho * rho - shift * shift);
        for (const double y1 : {-reach, reach})
            for (const double y2 : {-reach, reach})
                most = std::max(most, t.gaps[0].along.dot(Vector3(shift, y2 + (y2 - y1), 0)));
    }
    CHECK_THAT(contact::answer(t, must(t), 0).worst_case->max - 5, WithinAbs(most, 1e-6 + 1e-4 * most));
}

TEST_CASE("a circle of screws gives all of their float, whatever their order", "[contact][long]") {
    // Four M6 in holes of 6.6, on 60 × 40: shifts and turns that every hole allows, tried one by one.
    const double rho = 0.3;
    const std::array<Vector3, 4> places{Vector3(0, 0, 0), {60, 0, 0}, {60, 40, 0}, {0, 40, 0}};
    Dice dice(7);
    double sum = 0, squares = 0;
    int inside = 0;
    const Vector3 at(90, 20, 0);
    while (inside < 100'000) {
        const double dx = dice.number(-rho, rho), dy = dice.number(-rho, rho),
                     turn = dice.number(-0.02, 0.02);
        const auto shift = [&](const Vector3& p) {
            return Vector3(dx - turn * (p.y() - 20), dy + turn * (p.x() - 30), 0);
        };
        if (std::ranges::any_of(places, [&](const Vector3& p) { return shift(p).norm() > rho; })) continue;
        ++inside;
        sum += shift(at).y();
        squares += shift(at).y() * shift(at).y();
    }
    const double sigma = std::sqrt(squares / inside - std::pow(sum / inside, 2));
    std::optional<double> first_worst;
    for (const auto& order : {std::array{0, 1, 2, 3}, {2, 0, 3, 1}, {3, 2, 1, 0}}) {
        std::vector<contact::Contact> contacts{touching(Type::seat, 0, 1, {30, 20, 0})};
        for (const int p : order)
            contacts.push_back(touching(Type::pin, 0, 1, places[static_cast<std::size_t>(p)]));
        Toleranced t = firm(mechanism(2, contacts));
        for (std::size_t c = 1; c <= 4; ++c)
            clear(t, c, 2 * rho, 0);
        add_gap(t, 0, 1, at, y);
        add_gap(t, 0, 1, {30, 20, 0}, x);
        const auto effects = must(t);
        const auto simulated = *contact::simulate(t, effects, {.samples = 100'000, .seed = 5});
        CHECK_THAT(simulated.gaps[0].sigma, WithinRel(sigma, 0.015));
        const auto beyond = contact::answer(t, effects, 0), middle = contact::answer(t, effects, 1);
        CHECK_THAT(middle.worst_case->max - 5,
                   WithinAbs(rho, 1e-8)); // the whole shifts by no more than one hole gives
        if (!first_worst) first_worst = beyond.worst_case->max;
        CHECK_THAT(beyond.worst_case->max, WithinAbs(*first_worst, 1e-8));
    }
}

TEST_CASE("pins that do not go in are counted", "[contact]") {
    // Two pins 6 m6 in F7 holes; each part's hole distance ± t.  Shares by drawing pairs here.
    Dice dice(8);
    for (const double half : {0.15, 0.1, 0.02, 0.01}) { // 0.15: ISO 2768-m for distances over 6 to 30
        Toleranced t =
            firm(mechanism(2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {0, 0, 0}),
                               touching(Type::pin, 0, 1, {25, 0, 0})}));
        for (const std::size_t pin : {1U, 2U}) // 10…22 less 4…12 µm
            t.behaviour[pin].clearance =
                contact::Clearance{{.name = "c", .nominal = 0, .plus = 0.018, .minus = -0.002}};
        add_size(t, half, {side_a(2, x)});
        add_size(t, half, {side_b(2, x)});
        std::normal_distribution<double> distance(0, half / 3), clearance(0.008, 0.02 / 6);
        int together = 0;
        constexpr int pairs = 200'000;
        for (int i = 0; i < pairs; ++i) {
            const double apart = std::abs(distance(dice.engine) - distance(dice.engine));
            const auto room = [&] { return std::max(0.0, clearance(dice.engine)) / 2; };
            together += apart <= room() + room();
        }
        const auto effects = must(t);
        const auto simulated = *contact::simulate(t, effects, {.samples = 20'000, .seed = 2});
        const auto found = contact::misfits(t, effects.held, simulated);
        REQUIRE(found.size() == 1);
        CAPTURE(half);
        CHECK(found[0].contacts == std::vector<std::size_t>{1, 2});
        CHECK_THAT(found[0].together, WithinAbs(together / static_cast<double>(pairs), 0.005));
        CHECK_THAT(found[0].disagreement->sigma, WithinRel(half / 3 * std::sqrt(2.0), 1e-9));
        CHECK_THAT(1 - static_cast<double>(simulated.left_out) / 20'000, WithinAbs(found[0].together, 0.015));
    }
}

TEST_CASE("levels keep what comes first: a gap is shared by equals and carried by the later", "[contact]") {
    // Two firm pins that want 0.03 between them: equal level 0.015 each, the second a level lower all of it.
    const auto shift_of_part = [](int second_level) {
        Toleranced t =
            firm(mechanism(2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {0, 0, 0}),
                               touching(Type::pin, 0, 1, {60, 0, 0})}));
        t.behaviour[2].level = second_level;
        add_size(t, 0.03, {side_a(2, x)});
        add_gap(t, 0, 1, {0, 0, 0}, x);
        return must(t).gaps[0].pulls.of_size.at(0);
    };
    CHECK_THAT(shift_of_part(1), WithinAbs(0.5, 1e-9));
    CHECK_THAT(shift_of_part(2), WithinAbs(0, 1e-9));
    CHECK_THAT(shift_of_part(0), WithinAbs(1, 1e-9));
}

TEST_CASE("a pushed pin shifts the gap by its radius and scatters with it", "[contact]") {
    Toleranced t =
        firm(mechanism(2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {0, 0, 0}),
                           touching(Type::slot, 0, 1, {60, 0, 0}, z, x)}));
    clear(t, 1, 0.2, 0.06, contact::Rest::pushed, y);
    clear(t, 2, 0.2, 0.06, contact::Rest::pushed, -y);
    add_gap(t, 0, 1, {0, 0, 0}, y);
    add_gap(t, 0, 1, {120, 0, 0}, y);
    const auto effects = must(t);
    const auto here = contact::answer(t, effects, 0), beyond = contact::answer(t, effects, 1);
    CHECK_THAT(here.distribution.mean, WithinAbs(5.1, 1e-9));
    CHECK_THAT(here.distribution.sigma, WithinAbs(0.06 / 3 / 2, 1e-9));
    CHECK_THAT(here.worst_case->max, WithinAbs(5.13, 1e-9));
    CHECK_THAT(beyond.nominal, WithinAbs(5 - 0.1 - 0.2, 1e-9)); // −1·0.1 + 2·(−0.1)
    const auto simulated = *contact::simulate(t, effects, {.samples = 100'000, .seed = 1});
    CHECK_THAT(simulated.gaps[1].mean, WithinAbs(beyond.distribution.mean, 1e-3));
    CHECK_THAT(simulated.gaps[1].sigma, WithinRel(beyond.distribution.sigma, 0.02));
}

TEST_CASE("sums of lengths have their least value, and say when there is none", "[contact][long]") {
    Dice dice(9);
    for (int trial = 0; trial < 40 / test::one_of; ++trial) {
        const Eigen::Index n = 1 + static_cast<Eigen::Index>(dice.index(3));
        std::vector<contact::Norm> norms;
        for (int i = 0; i < 4; ++i) {
            contact::Norm norm{dice.number(0.1, 2), Eigen::VectorXd::Random(2),
                               Eigen::MatrixXd::Random(2, n)};
            norms.push_back(norm);
        }
        const Eigen::VectorXd linear = 0.1 * Eigen::VectorXd::Random(n);
        const auto value = [&](const Eigen::VectorXd& mu) {
            double sum = 0.5 + linear.dot(mu);
            for (const auto& norm : norms)
                sum += norm.weight * (norm.offset + norm.slope * mu).norm();
            return sum;
        };
        // A pattern search that knows nothing of slopes.
        Eigen::VectorXd best = Eigen::VectorXd::Zero(n);
        for (double step = 4; step > 1e-9; step *= 0.9)
            for (int i = 0; i < 300; ++i) {
                const Eigen::VectorXd next = best + step * Eigen::VectorXd::Random(n);
                if (value(next) < value(best)) best = next;
            }
        const auto found = contact::least_sum_of_norms(0.5, linear, norms);
        REQUIRE(found);
        CHECK(*found <= value(best) + 1e-9);
        CHECK(*found >= value(best) - 1e-3);
    }
    const Eigen::VectorXd down = Eigen::VectorXd::Constant(1, -1);
    const contact::Norm weak{0.9, Eigen::VectorXd::Zero(1), Eigen::MatrixXd::Identity(1, 1)};
    CHECK_FALSE(contact::least_sum_of_norms(0, down, {weak}));
    CHECK(contact::least_sum_of_norms(0, down, {{1.1, weak.offset, weak.slope}}));
}

TEST_CASE("balls that meet have a point in common, and balls that do not have none", "[contact]") {
    // Two balls 1 apart: they meet when their radii sum to more.
    const auto meet = [](double r1, double r2) {
        const Eigen::MatrixXd identity = Eigen::MatrixXd::Identity(2, 2);
        Eigen::VectorXd away(2);
        away << 0.6, 0.8;
        return contact::inside_all({{r1, Eigen::VectorXd::Zero(2), identity}, {r2, away, identity}}, 2);
    };
    CHECK(meet(0.6, 0.4 + 1e-6));
    CHECK_FALSE(meet(0.6, 0.4 - 1e-6));
    CHECK(meet(0.1, 0.95));
    CHECK_FALSE(meet(0, 0.9));
}
