#include "mutate.hpp"
#include <array>
#include <string>
#include <vector>

namespace kollema::fuzz {
namespace {

using Json = nlohmann::json;
using Random = std::mt19937_64;

std::size_t any(std::size_t count, Random& random) { return random() % count; }

template <class T>
const T& one_of(const std::vector<T>& all, Random& random) {
    return all[any(all.size(), random)];
}

void collect(Json& node, std::vector<Json*>& all) {
    all.push_back(&node);
    if (node.is_structured())
        for (auto& child : node)
            collect(child, all);
}

Json odd_number(Random& random) {
    static const std::vector<Json> all{0,
                                       -1,
                                       1,
                                       2,
                                       1e-9,
                                       1e-6,
                                       0.1,
                                       0.5,
                                       1.0000001,
                                       3,
                                       6,
                                       10,
                                       24,
                                       64,
                                       100,
                                       -100,
                                       999.9,
                                       1e5,
                                       1e6,
                                       -1e6,
                                       1e-7,
                                       1e7,
                                       1e300,
                                       1e-300,
                                       -0.0,
                                       1e-320,
                                       25.4,
                                       3.14159,
                                       18446744073709551615ULL,
                                       -5};
    return one_of(all, random);
}

Json odd_word(Random& random) {
    static const std::vector<Json> all{"",       "x",   "M3",           "M64",      "M24",    "M1.6",
                                       "12.9",   "4.6", "top",          "left",     "bottom", "H7",
                                       "zc18",   "A11", "N7",           "uniform",  "fixed",  "worst_case",
                                       "coarse", "pom", "sawn-by-hand", "\x1b[31m", "6204",   "\xC3"};
    return one_of(all, random);
}

Json odd_value(Random& random) {
    switch (any(5, random)) {
    case 0:
        return nullptr;
    case 1:
        return Json::array();
    case 2:
        return Json::object();
    case 3:
        return any(2, random) == 0;
    default:
        return odd_number(random);
    }
}

void change_number(Json& node, Random& random) {
    const double value = node.get<double>();
    static const std::vector<double> factors{-1, 0.5, 2, 10, 0.1, 0.001, 1000, 1.001};
    if (any(2, random) == 0)
        node = odd_number(random);
    else if (node.is_number_integer())
        node = node.get<std::int64_t>() + static_cast<std::int64_t>(any(5, random)) - 2;
    else
        node = value * one_of(factors, random) + (any(3, random) == 0 ? 1 : 0);
}

void change_list(Json& node, Random& random) {
    if (node.empty()) return;
    const auto at = any(node.size(), random), other = any(node.size(), random);
    switch (any(4, random)) {
    case 0:
        node.erase(at);
        break;
    case 1:
        node.push_back(Json(node[at]));
        break;
    case 2:
        std::swap(node[at], node[other]);
        break;
    default:
        node[at] = Json(node[other]);
    }
}

void change_object(Json& node, const std::vector<Json*>& all, Random& random) {
    if (node.empty()) return;
    auto at = node.begin();
    std::advance(at, static_cast<std::ptrdiff_t>(any(node.size(), random)));
    switch (any(4, random)) {
    case 0:
        node.erase(at);
        break;
    case 1: // the same key of another object, or something of another kind
        at.value() = any(3, random) == 0 ? odd_value(random) : Json(*one_of(all, random));
        break;
    case 2:
        node[at.key() + "x"] = Json(at.value());
        break;
    default:
        for (int tries = 0; tries < 20; ++tries)
            if (const Json& other = *one_of(all, random); other.is_object() && other.contains(at.key())) {
                at.value() = Json(other[at.key()]);
                break;
            }
    }
}

}

Json mutated(Json document, Random& random) {
    const auto changes = 1 + any(3, random);
    for (std::size_t i = 0; i < changes; ++i) {
        std::vector<Json*> all;
        collect(document, all);
        Json& node = *one_of(all, random);
        if (node.is_number())
            change_number(node, random);
        else if (node.is_boolean())
            node = !node.get<bool>();
        else if (node.is_string()) { // names of other things are what a hand merge mixes up
            Json& other = *one_of(all, random);
            node = other.is_string() && any(3, random) > 0 ? Json(other) : odd_word(random);
        } else if (node.is_array())
            change_list(node, random);
        else if (node.is_object())
            change_object(node, all, random);
        else
            node = odd_number(random);
    }
    return document;
}

}
