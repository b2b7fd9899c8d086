#include "contact/freedoms.hpp"
#include "contact/subspaces.hpp"
#include "mechanisms.hpp"
#include <Eigen/Geometry>
#include <Eigen/LU>
#include <algorithm>
#include <deque>
#include <numbers>
#include <set>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;
using contact::Contact;
using contact::Mechanism;
using contact::Motion;
using contact::Type;

namespace {

/// Freedoms from the other side: what each contact lets through as joint rates, and that every closed way of
/// bodies comes back to where it was.
struct Rates {
    Eigen::Index mobility = 0, redundancy = 0;
};

/// The twists about the origin that a contact allows, written down by hand for each type.
Eigen::MatrixXd allowed(const Contact& c) {
    const Vector3 cx = c.frame.x, cy = c.frame.y(), cz = c.frame.z;
    std::vector<Eigen::Matrix<double, 6, 1>> all;
    const auto slide = [&](const Vector3& u) {
        all.emplace_back((Eigen::Matrix<double, 6, 1>() << Vector3::Zero(), u).finished());
    };
    const auto turn = [&](const Vector3& u, double lead = 0) {
        all.emplace_back(
            (Eigen::Matrix<double, 6, 1>() << u, c.frame.origin.cross(u) + lead / (2 * std::numbers::pi) * u)
                .finished());
    };
    const auto any_turn = [&] { turn(cx), turn(cy), turn(cz); };
    switch (c.type) {
    case Type::seat:
    case Type::midplane:
        slide(cx), slide(cy), turn(cz);
        break;
    case Type::pin:
        slide(cz), any_turn();
        break;
    case Type::shaft:
        slide(cz), turn(cz);
        break;
    case Type::slot:
        slide(cx), slide(cz), any_turn();
        break;
    case Type::guide:
        slide(cx), slide(cz), turn(cy), turn(cz);
        break;
    case Type::key:
    case Type::point:
    case Type::ring:
        slide(cx), slide(cy), any_turn();
        break;
    case Type::line:
        slide(cx), slide(cy), turn(cx), turn(cz);
        break;
    case Type::ball:
        any_turn();
        break;
    case Type::hinge:
    case Type::taper:
        turn(cz);
        break;
    case Type::slide:
        slide(cz);
        break;
    case Type::screw:
        turn(cz, c.lead_mm);
        break;
    case Type::fixed:
        break;
    case Type::loose:
        slide(cx), slide(cy), slide(cz), any_turn();
        break;
    case Type::clamp:
        slide(cz), turn(cx), turn(cy);
        break;
    }
    Eigen::MatrixXd m(6, static_cast<Eigen::Index>(all.size()));
    for (std::size_t i = 0; i < all.size(); ++i)
        m.col(static_cast<Eigen::Index>(i)) = all[i];
    return m;
}

Rates by_rates(const Mechanism& m) {
    // A tree of contacts that reaches every body; each contact beside it closes one way.
    std::vector<std::vector<std::pair<std::size_t, double>>> way(
        m.bodies.size()); // contacts from the ground, ±
    std::vector<bool> reached(m.bodies.size(), false), in_tree(m.contacts.size(), false);
    std::deque<std::size_t> open{0};
    reached[0] = true;
    while (!open.empty()) {
        const std::size_t here = open.front();
        open.pop_front();
        for (std::size_t i = 0; i < m.contacts.size(); ++i) {
            const auto& c = m.contacts[i];
            if (c.a != here && c.b != here) continue;
            const std::size_t next = c.a == here ? c.b : c.a;
            if (reached[next]) continue;
            reached[next] = in_tree[i] = true;
            way[next] = way[here];
            way[next].emplace_back(i, c.a == here ? 1 : -1);
            open.push_back(next);
        }
    }
    std::vector<Eigen::MatrixXd> twists;
    std::vector<Eigen::Index> first;
    Eigen::Index rates = 0;
    for (const auto& c : m.contacts) {
        twists.push_back(allowed(c));
        first.push_back(rates);
        rates += twists.back().cols();
    }
    std::vector<Eigen::MatrixXd> loops;
    for (std::size_t i = 0; i < m.contacts.size(); ++i) {
        if (in_tree[i]) continue;
        Eigen::MatrixXd loop = Eigen::MatrixXd::Zero(6, rates);
        const auto add = [&](std::size_t contact, double sign) {
            loop.middleCols(first[contact], twists[contact].cols()) += sign * twists[contact];
        };
        for (const auto& [contact, sign] : way[m.contacts[i].a])
            add(contact, sign);
        add(i, 1);
        for (const auto& [contact, sign] : way[m.contacts[i].b])
            add(contact, -sign);
        loops.push_back(loop);
    }
    Eigen::MatrixXd closing(6 * static_cast<Eigen::Index>(loops.size()), rates);
    for (std::size_t i = 0; i < loops.size(); ++i)
        closing.middleRows<6>(6 * static_cast<Eigen::Index>(i)) = loops[i];
    Eigen::Index rank = 0;
    if (closing.size() > 0) {
        Eigen::FullPivLU<Eigen::MatrixXd> lu(closing);
        lu.setThreshold(1e-9);
        rank = lu.rank();
    }
    return {rates - rank, closing.rows() - rank};
}

Mechanism turned_about(Mechanism m, const Eigen::Quaterniond& q, const Vector3& by) {
    for (auto& c : m.contacts)
        c.frame = {q * c.frame.origin + by, q * c.frame.x, q * c.frame.z};
    return m;
}

Mechanism hinged_ring(const std::vector<std::pair<Vector3, Vector3>>& axes) {
    std::vector<Contact> contacts;
    for (std::size_t i = 0; i < axes.size(); ++i)
        contacts.push_back(touching(Type::hinge, i, (i + 1) % axes.size(), axes[i].first, axes[i].second));
    return mechanism(axes.size(), contacts);
}

/// Four links of a Bennett mechanism: opposite sides alike, sines of the twists as the lengths.
Mechanism bennett() {
    const double a = 50, alpha = 0.7, b = 70, beta = std::asin(b * std::sin(alpha) / a), theta = 0.9;
    // Its closure: tan(θ/2)·tan(φ/2) = sin((β+α)/2)/sin((β−α)/2).
    const double phi =
        2 * std::atan(std::sin((beta + alpha) / 2) / std::sin((beta - alpha) / 2) / std::tan(theta / 2));
    Eigen::Isometry3d at = Eigen::Isometry3d::Identity();
    std::vector<std::pair<Vector3, Vector3>> axes;
    for (const auto& [turn, length, twist] :
         {std::tuple{theta, a, alpha}, {phi, b, beta}, {-theta, a, alpha}, {-phi, b, beta}}) {
        axes.emplace_back(at.translation(), at.linear() * z);
        at = at * Eigen::AngleAxisd(turn, z) * Eigen::Translation3d(length, 0, 0) *
             Eigen::AngleAxisd(twist, x);
    }
    return hinged_ring(axes);
}

}

TEST_CASE("known mechanisms have their known mobility and redundancy", "[contact][reference]") {
    // Textbooks of mechanisms; redundancy as stops minus rank, by hand.
    struct Known {
        const char* name;
        Mechanism m;
        Eigen::Index mobility, redundancy;
    };
    const Vector3 o(10, 20, 30);
    std::vector<Known> all{
        {"planar four-bar",
         hinged_ring({{{0, 0, 0}, z}, {{-20, 60, 5}, z}, {{90, 80, -3}, z}, {{100, 0, 0}, z}}), 1, 3},
        {"spherical four-bar",
         hinged_ring({{o, z},
                      {o + Vector3(5, 10, 10), {1, 2, 2}},
                      {o + Vector3(20, -10, 20), {2, -1, 2}},
                      {o + Vector3(40, 0, 30), {4, 0, 3}}}),
         1, 3},
        {"slider-crank",
         mechanism(4, {touching(Type::hinge, 0, 1, {0, 0, 0}, z), touching(Type::hinge, 1, 2, {20, 30, 0}, z),
                       touching(Type::hinge, 2, 3, {120, 0, 0}, z),
                       touching(Type::slide, 3, 0, {120, 0, 0}, x)}),
         1, 3},
        {"two balls between two hinges",
         mechanism(4, {touching(Type::hinge, 0, 1, {0, 0, 0}, z), touching(Type::ball, 1, 2, {20, 30, 5}),
                       touching(Type::ball, 2, 3, {90, 40, 50}),
                       touching(Type::hinge, 3, 0, {100, 0, 0}, {1, 0, 1})}),
         2, 0},
        {"plate on seat, round and flattened pin",
         mechanism(2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {5, 5, 0}),
                       touching(Type::slot, 0, 1, {90, 10, 0}, z, {85, 5, 0})}),
         0, 0},
        {"plate on seat and two round pins",
         mechanism(2, {touching(Type::seat, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {5, 5, 0}),
                       touching(Type::pin, 0, 1, {90, 10, 0})}),
         0, 1},
        {"shaft in two long bushes",
         mechanism(2, {touching(Type::shaft, 0, 1, {0, 0, 0}), touching(Type::shaft, 0, 1, {0, 0, 90})}), 2,
         4},
        {"cone, vee and flat",
         mechanism(2, {touching(Type::ball, 0, 1, {0, 0, 0}), touching(Type::pin, 0, 1, {100, 0, 0}, x),
                       touching(Type::point, 0, 1, {40, 70, 0})}),
         0, 0},
        {"two bodies that hang from nothing", mechanism(3, {touching(Type::hinge, 1, 2, {7, 8, 9})}), 7, 0},
    };
    // Sarrus: two pairs of parallel hinges, the pairs square to each other, guide a table straight.
    all.push_back(
        {"straight guide of six hinges",
         mechanism(
             6, {touching(Type::hinge, 0, 1, {50, 0, 0}, y), touching(Type::hinge, 1, 2, {80, 0, 40}, y),
                 touching(Type::hinge, 2, 3, {50, 0, 80}, y), touching(Type::hinge, 0, 4, {0, 50, 0}, x),
                 touching(Type::hinge, 4, 5, {0, 80, 40}, x), touching(Type::hinge, 5, 3, {0, 50, 80}, x)}),
         1, 1});
    all.push_back({"four links askew", bennett(), 1, 3});
    for (const auto& known : all) {
        CAPTURE(known.name);
        const auto f = contact::freedoms(known.m);
        CHECK(f.mobility == known.mobility);
        CHECK(f.redundancy == known.redundancy);
    }
}

TEST_CASE("stops and joint rates tell the same freedoms of any mechanism", "[contact]") {
    Dice dice(1);
    int moving = 0, redundant = 0;
    for (int trial = 0; trial < 300; ++trial) {
        const std::size_t bodies = 2 + dice.index(6);
        std::vector<Contact> contacts;
        const std::array directions{Vector3(z), Vector3(x), Vector3(y), dice.direction()};
        const auto add = [&](std::size_t a, std::size_t b) {
            const auto type =
                static_cast<Type>(dice.index(contact::type_count - 2)); // all connect; no clamps
            auto c = touching(type, a, b,
                              100 * Vector3(std::round(dice.number(-1, 1)), std::round(dice.number(-1, 1)),
                                            dice.number(-1, 1)),
                              directions[dice.index(4)], dice.direction());
            c.lead_mm = type == Type::screw ? 5 : 0;
            contacts.push_back(c);
        };
        for (std::size_t b = 1; b < bodies; ++b)
            add(dice.index(b), b);
        for (std::size_t extra = dice.index(4); extra > 0; --extra) {
            const std::size_t a = dice.index(bodies), b = dice.index(bodies);
            if (a != b) add(a, b);
        }
        const auto m = mechanism(bodies, contacts);
        const auto f = contact::freedoms(m);
        const auto other = by_rates(m);
        CAPTURE(trial, bodies, contacts.size());
        CHECK(f.mobility == other.mobility);
        CHECK(f.redundancy == other.redundancy);
        moving += f.mobility > 0;
        redundant += f.redundancy > 0;
        // Nothing depends on where the whole stands.
        const auto moved = contact::freedoms(
            turned_about(m, Eigen::Quaterniond(Eigen::AngleAxisd(dice.number(0, 3), dice.direction())),
                         500 * dice.direction()));
        CHECK(moved.mobility == f.mobility);
        CHECK(moved.redundant == f.redundant);
        for (std::size_t body = 0; body < bodies; ++body) {
            CHECK(moved.bodies[body].motion == f.bodies[body].motion);
            CHECK(moved.bodies[body].dof == f.bodies[body].dof);
        }
    }
    CHECK(moving > 100);
    CHECK(redundant > 50);
}

TEST_CASE("a contact is redundant when the redundancy falls without it", "[contact]") {
    Dice dice(2);
    for (int trial = 0; trial < 60; ++trial) {
        std::vector<Contact> contacts;
        for (std::size_t i = 0; i < 5; ++i)
            contacts.push_back(touching(static_cast<Type>(dice.index(contact::type_count - 2)), dice.index(2),
                                        2, 50 * dice.point(1), dice.index(2) ? Vector3(z) : dice.direction(),
                                        dice.direction()));
        const auto m = mechanism(3, contacts);
        const auto f = contact::freedoms(m);
        std::vector<std::size_t> found;
        for (std::size_t i = 0; i < contacts.size(); ++i) {
            auto fewer = contacts;
            fewer.erase(fewer.begin() + static_cast<std::ptrdiff_t>(i));
            if (contact::freedoms(mechanism(3, fewer)).redundancy < f.redundancy) found.push_back(i);
        }
        CHECK(f.redundant == found);
    }
}

TEST_CASE("what a body can still do is told with its axis, centre and lead", "[contact]") {
    Dice dice(3);
    for (int trial = 0; trial < 20; ++trial) {
        const Vector3 at = 80 * dice.point(1), axis = dice.direction();
        const auto only = [&](Type type, double lead = 0) {
            auto c = touching(type, 0, 1, at, axis, dice.direction());
            c.lead_mm = lead;
            return contact::freedoms(mechanism(2, {c, touching(Type::loose, 0, 1, {30, 0, 0}),
                                                   touching(Type::loose, 0, 1, {0, 90, 0})}))
                .bodies[1];
        };
        const auto lies_on_axis = [&](const Vector3& p) { return (p - at).cross(axis).norm() < 1e-7; };
        const auto hinge = only(Type::hinge);
        CHECK(hinge.motion == Motion::turn);
        CHECK(lies_on_axis(*hinge.point));
        CHECK(std::abs(hinge.point->dot(axis)) < 1e-7); // the nearest to the origin
        CHECK(hinge.direction->cross(axis).norm() < 1e-9);
        const auto slide = only(Type::slide);
        CHECK(slide.motion == Motion::slide);
        CHECK_FALSE(slide.point);
        CHECK(slide.direction->cross(axis).norm() < 1e-9);
        const auto screw = only(Type::screw, trial % 2 ? 1.75 : -4);
        CHECK(screw.motion == Motion::helical);
        CHECK_THAT(*screw.lead_mm, WithinAbs(trial % 2 ? 1.75 : -4, 1e-7));
        CHECK(lies_on_axis(*screw.point));
        const auto shaft = only(Type::shaft);
        CHECK(shaft.motion == Motion::turn_and_slide);
        CHECK(lies_on_axis(*shaft.point));
        const auto seat = only(Type::seat);
        CHECK(seat.motion == Motion::planar);
        CHECK(seat.direction->cross(axis).norm() < 1e-9);
        const auto ball = only(Type::ball);
        CHECK(ball.motion == Motion::ball);
        CHECK((*ball.point - at).norm() < 1e-7);
        CHECK(only(Type::fixed).motion == Motion::fixed);
        CHECK(only(Type::loose).motion == Motion::free);
        CHECK(only(Type::pin).motion == Motion::other);
    }
}

TEST_CASE("clamps hold by friction what shape leaves free", "[contact]") {
    const auto plate = [](std::vector<Contact> more) {
        more.push_back(touching(Type::seat, 0, 1, {0, 0, 0}));
        return contact::freedoms(mechanism(2, more));
    };
    CHECK(plate({}).mobility == 3);
    const auto clamped =
        plate({touching(Type::clamp, 0, 1, {20, 0, 0}), touching(Type::clamp, 0, 1, {-20, 0, 0})});
    CHECK(clamped.mobility == 0);
    CHECK(clamped.held_by_friction == 3);
    CHECK(clamped.redundancy == 0); // friction does not fight
    CHECK(plate({touching(Type::clamp, 0, 1, {20, 0, 0}), touching(Type::pin, 0, 1, {-20, 0, 0})})
              .held_by_friction == 1);
}

TEST_CASE("blocks hang together without any one of their bodies, and share one body at most", "[contact]") {
    Dice dice(4);
    for (int trial = 0; trial < 100; ++trial) {
        const std::size_t bodies = 3 + dice.index(10);
        std::vector<Contact> contacts;
        for (std::size_t i = 0; i < bodies + dice.index(6); ++i) {
            const std::size_t a = dice.index(bodies), b = dice.index(bodies);
            if (a != b) contacts.push_back(touching(Type::pin, a, b, dice.point(9)));
        }
        const auto all = contact::blocks(mechanism(bodies, contacts));
        std::vector<int> seen(contacts.size(), 0);
        for (const auto& block : all.all) {
            std::set<std::size_t> members(block.bodies.begin(), block.bodies.end());
            if (!block.contacts.empty()) members.insert(block.root);
            for (const std::size_t c : block.contacts) {
                ++seen[c];
                CHECK(members.contains(contacts[c].a));
                CHECK(members.contains(contacts[c].b));
            }
            for (const std::size_t without : members) { // flood what is left
                std::set<std::size_t> left = members;
                left.erase(without);
                if (left.empty()) continue;
                std::set<std::size_t> reached{*left.begin()};
                for (std::size_t round = 0; round < members.size(); ++round)
                    for (const std::size_t c : block.contacts)
                        if (contacts[c].a != without && contacts[c].b != without &&
                            (reached.contains(contacts[c].a) || reached.contains(contacts[c].b)))
                            reached.insert({contacts[c].a, contacts[c].b});
                CHECK(reached == left);
            }
        }
        CHECK(std::ranges::all_of(seen, [](int n) { return n == 1; }));
        for (std::size_t body = 1; body < bodies; ++body)
            CHECK(contact::way_to_ground(all, body).size() >= 1);
    }
}

TEST_CASE("each contact alone stops what its shape says", "[contact]") {
    // Of a body that one contact touches: what it still can, slides x y z then turns x y z, in the contact's
    // own frame; written down from the shapes.
    const std::map<Type, const char*> can{
        {Type::seat, "xy...Z"},     // a plane on a plane
        {Type::midplane, "xy...Z"}, // the same between two
        {Type::pin, "..zXYZ"},      // short, so that it tilts
        {Type::shaft, "..z..Z"},    // long
        {Type::slot, "x.zXYZ"},     // open along x
        {Type::guide, "x.z.YZ"},    // open along x, and long: it turns about the slot's cross axis
        {Type::key, "xy.XYZ"},      // between two faces, narrow
        {Type::point, "xy.XYZ"},    // a ball on a plane
        {Type::ring, "xy.XYZ"},     // held endways only
        {Type::line, "xy.X.Z"},     // a cylinder along x on a plane: it rolls about itself
        {Type::ball, "...XYZ"},     //
        {Type::hinge, ".....Z"},    {Type::taper, ".....Z"}, {Type::slide, "..z..."}, {Type::fixed, "......"},
        {Type::loose, "xyzXYZ"},    {Type::clamp, "..zXY."}, // friction holds what slides and turns on its
                                                             // face
    };
    CHECK(can.size() + 1 == contact::type_count); // a screw couples two
    Dice dice(8);
    for (const auto& [type, letters] : can)
        for (int trial = 0; trial < 4; ++trial) {
            const auto c = touching(type, 0, 1, dice.point(50), dice.direction(), dice.direction());
            const auto free = contact::can_move(mechanism(2, {c}), 1, c.frame);
            CAPTURE(name(type), letters);
            for (std::size_t i = 0; i < 6; ++i)
                CHECK(free[i] == (letters[i] != '.'));
        }
}
