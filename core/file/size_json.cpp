#include "file/size_json.hpp"
#include <span>

namespace kollema::file {

stack::Contributor read_scatter(const Node& node, std::string name) {
    const auto number_or = [&](const char* key, double otherwise) {
        return node.has(key) ? node.at(key).number(stack::largest_size) : otherwise;
    };
    stack::Contributor c{.name = std::move(name)};
    c.nominal = number_or("nominal", 0);
    c.plus = number_or("plus", 0);
    c.minus = number_or("minus", 0);
    c.cpk = number_or("cpk", 1);
    c.shift = number_or("shift", 0);
    if (node.has("distribution")) {
        const auto distribution = parse_distribution(node.at("distribution").text());
        if (!distribution) node.at("distribution").bad(distribution.error().remedy);
        c.distribution = *distribution;
    }
    if (const auto sound = stack::validate(std::span(&c, 1), {}); !sound) node.bad(sound.error().why);
    return c;
}

}
