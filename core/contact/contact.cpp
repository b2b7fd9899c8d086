#include "contact/contact.hpp"
#include <algorithm>
#include <numbers>

namespace kollema::contact {
namespace {

/// What a type stops, as a word for each motion: "Tz", "Rx" …
struct Row {
    Type type;
    std::string_view name;
    std::string_view stops;
};
constexpr std::array<Row, type_count> table{{
    {Type::seat, "seat", "TzRxRy"},
    {Type::midplane, "midplane", "TzRxRy"},
    {Type::pin, "pin", "TxTy"},
    {Type::shaft, "shaft", "TxTyRxRy"},
    {Type::slot, "slot", "Ty"},
    {Type::guide, "guide", "TyRx"},
    {Type::key, "key", "Tz"},
    {Type::point, "point", "Tz"},
    {Type::ring, "ring", "Tz"},
    {Type::line, "line", "TzRy"},
    {Type::ball, "ball", "TxTyTz"},
    {Type::hinge, "hinge", "TxTyTzRxRy"},
    {Type::taper, "taper", "TxTyTzRxRy"},
    {Type::slide, "slide", "TxTyRxRyRz"},
    {Type::screw, "screw", "TxTyTzRxRy"}, // its Tz turns with Rz
    {Type::fixed, "fixed", "TxTyTzRxRyRz"},
    {Type::loose, "loose", ""},
    {Type::clamp, "clamp", "TxTyRz"},
}};

const Row& row_of(Type type) { return table.at(static_cast<std::size_t>(type)); }

}

std::string_view name(Type type) { return row_of(type).name; }

std::optional<Type> type_named(std::string_view name) {
    const auto* found = std::ranges::find(table, name, &Row::name);
    return found == table.end() ? std::nullopt : std::optional(found->type);
}

bool needs_axis(Type type) { return type != Type::ball && type != Type::fixed && type != Type::loose; }
bool needs_line(Type type) { return type == Type::slot || type == Type::guide || type == Type::line; }
bool is_clearance_type(Type type) {
    return type == Type::pin || type == Type::slot || type == Type::key || type == Type::ring;
}

std::vector<Stop> stops(const Contact& contact) {
    std::vector<Stop> all;
    const std::string_view words = row_of(contact.type).stops;
    for (std::size_t i = 0; i + 1 < words.size(); i += 2) {
        const char axis = words[i + 1];
        Stop stop{.u = axis == 'x'   ? contact.frame.x
                       : axis == 'y' ? contact.frame.y()
                                     : contact.frame.z,
                  .turns = words[i] == 'R'};
        if (contact.type == Type::screw && words.substr(i, 2) == "Tz")
            stop.lead_per_radian_mm = contact.lead_mm / (2 * std::numbers::pi);
        all.push_back(stop);
    }
    return all;
}

}
