#pragma once
// Mechanisms put together in a line each.
#include "contact/effects.hpp"
#include "contact/toleranced.hpp"
#include <catch2/catch.hpp>
#include <random>

namespace kollema::test {

inline contact::Contact touching(contact::Type type, std::size_t a, std::size_t b, const Vector3& at,
                                 const Vector3& z = Vector3::UnitZ(), const Vector3& x = Vector3::Zero()) {
    contact::Contact c{.id = "c" + std::to_string(at.norm()), .type = type, .a = a, .b = b};
    c.frame.origin = at;
    c.frame.z = z.normalized();
    const Vector3 wish = x.isZero() ? c.frame.z.unitOrthogonal() : x;
    c.frame.x = (wish - wish.dot(c.frame.z) * c.frame.z).normalized();
    return c;
}

inline contact::Mechanism mechanism(std::size_t bodies, std::vector<contact::Contact> contacts) {
    contact::Mechanism m{.bodies = {}, .ground = 0, .contacts = std::move(contacts)};
    for (std::size_t i = 0; i < bodies; ++i)
        m.bodies.push_back("body " + std::to_string(i));
    for (std::size_t i = 0; i < m.contacts.size(); ++i)
        m.contacts[i].id = "contact " + std::to_string(i);
    return m;
}

inline const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ();

inline contact::Effects must(const contact::Toleranced& t) {
    auto all = contact::effects(t);
    if (!all) FAIL(in_one_line(all.error()));
    return *all;
}

/// Firm contacts, without anything that scatters.
inline contact::Toleranced firm(contact::Mechanism m) {
    contact::Toleranced all{.mechanism = std::move(m), .behaviour = {}, .sizes = {}, .gaps = {}};
    for (const auto& c : all.mechanism.contacts)
        all.behaviour.push_back({.level = contact::usual_level(c.type)});
    return all;
}

inline stack::Contributor plus_minus(double half, Distribution distribution = Distribution::normal,
                                     double nominal = 0) {
    return {.name = "size", .nominal = nominal, .plus = half, .minus = -half, .distribution = distribution};
}

struct Dice {
    std::mt19937 engine;
    explicit Dice(unsigned seed) : engine(seed) {}
    double number(double from, double to) { return std::uniform_real_distribution<double>(from, to)(engine); }
    std::size_t index(std::size_t count) {
        return std::uniform_int_distribution<std::size_t>(0, count - 1)(engine);
    }
    Vector3 point(double reach) {
        return {number(-reach, reach), number(-reach, reach), number(-reach, reach)};
    }
    Vector3 direction() {
        Vector3 v;
        do
            v = point(1);
        while (v.norm() > 1 || v.norm() < 0.1);
        return v.normalized();
    }
};

}
