#include "pattern/typed_pattern.hpp"
#include "formula/steps.hpp"
#include "quantity/expression.hpp"
#include "quantity/text.hpp"
#include "standards/holes.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>
#include <sstream>

namespace kollema::pattern {
namespace {

using stack::Nominal;
using stack::plain_cell;
using stack::Reading;

constexpr int most_in_a_row = 1000;

/// Cells are read by functions of their own; what one cannot read ends the whole.
struct Unreadable {
    Failure failure;
};

[[noreturn]] void refuse(std::string why, std::string remedy) {
    throw Unreadable{{"", std::move(why), std::move(remedy), FailureKind::file}};
}

template <class T>
T taken(const Result<T>& result) {
    if (!result) throw Unreadable{result.error()};
    return *result;
}

/// Reads with `read`; its failure tells the cell.
template <class Read>
decltype(auto) in_cell(const std::string& row, const char* column, Read read) {
    try {
        return read();
    } catch (Unreadable& u) {
        throw Unreadable{stack::in_cell(std::move(u.failure), row, column)};
    }
}

/// The words of a cell by the key that they stand behind: "slot 12 mm at 90" is slot: "12 mm", at: "90".
std::map<std::string, std::string> by_key(const std::string& cell) {
    static const std::set<std::string> keys{"fastener", "flattened", "hole",    "slot", "tapped",
                                            "pressed",  "at",        "engaged", "above"};
    std::map<std::string, std::string> all;
    std::string key, word;
    for (std::istringstream words(cell); words >> word;)
        if (keys.contains(word)) {
            key = word;
            all[key];
        } else
            all[key] += (all[key].empty() ? "" : " ") + word;
    return all;
}

struct What {
    enum Kind { fastener, hole, carried } kind = hole;
    std::optional<Flattened> flattened = {};
    std::optional<SlottedHole> slot = {};
    std::optional<Leaning> leaning = {};
};

What what_of(const std::string& cell, const Reading& reading) {
    if (cell.empty()) return {};
    const auto said = by_key(cell);
    const auto is = [&](std::initializer_list<std::string> keys, std::initializer_list<std::string> others) {
        return std::ranges::all_of(keys, [&](const auto& k) { return said.contains(k); }) &&
               std::ranges::all_of(said, [&](const auto& one) {
                   return std::ranges::find(keys, one.first) != keys.end() ||
                          std::ranges::find(others, one.first) != others.end();
               });
    };
    const auto bare = [&](const std::string& word) { return is({word}, {}) && said.at(word).empty(); };
    const auto length = [&](const std::string& key) {
        return taken(parse_length_mm(said.at(key), reading.bare));
    };
    const auto direction = [&] { return said.contains("at") ? taken(parse_angle_deg(said.at("at"))) : 0; };
    if (bare("hole")) return {};
    if (bare("fastener")) return {.kind = What::fastener};
    if (bare("tapped") || bare("pressed")) return {.kind = What::carried};
    if (is({"slot"}, {"at"})) return {.kind = What::hole, .slot = SlottedHole{length("slot"), direction()}};
    if (is({"flattened"}, {"at"}))
        return {.kind = What::fastener, .flattened = Flattened{length("flattened"), direction()}};
    if (is({"tapped", "engaged", "above"}, {}) && said.at("tapped").empty())
        return {.kind = What::carried, .leaning = Leaning{length("engaged"), length("above")}};
    refuse(fmt::format("\"{}\" is nothing that a pattern has", cell),
           "Write fastener, flattened 2 at 90, hole, slot 12 at 90, tapped, tapped engaged 12 above 10 or "
           "pressed");
}

/// The size of a fastener, and by what clearance holes are found for it.
struct Fastener {
    Nominal nominal;
    Size size;
    std::string found_by() const {
        return nominal.thread ? nominal.thread->size : "M" + plain(nominal.mm, 6);
    }
};

Size sized(const Nominal& nominal, const std::string& limits, const Reading& reading) {
    const auto d = taken(stack::read_limits(limits, nominal, reading));
    return {nominal.mm, d.plus_mm, d.minus_mm};
}

[[noreturn]] void refuse_empty(const char* remedy) { refuse("the cell is empty", remedy); }

std::string limits_or(const TypedMember& m, std::string_view usual) {
    const std::string cell = plain_cell(m.limits);
    if (cell.empty() && usual.empty()) refuse_empty("Write for example ±0.1, +0.15 0 or H13");
    return cell.empty() ? std::string(usual) : cell;
}

std::string_view usual_class(const standards::Thread& thread) {
    using standards::ThreadSystem;
    return thread.system == ThreadSystem::metric ? "6g" : thread.system == ThreadSystem::unified ? "2A" : "";
}

Fastener fastener_of(const TypedMember& m, const std::string& row, const Reading& reading) {
    Fastener f;
    in_cell(row, "size", [&] {
        if (plain_cell(m.size).empty()) refuse_empty("Write a diameter, or a thread such as M6");
        f.nominal = taken(stack::read_nominal(plain_cell(m.size), reading));
    });
    in_cell(row, "limits", [&] {
        const auto usual = f.nominal.thread ? usual_class(*f.nominal.thread) : std::string_view();
        f.size = sized(f.nominal, limits_or(m, usual), reading);
    });
    return f;
}

/// A hole's diameter: typed, or of a class of clearance.
Size hole_of(const TypedMember& m, const Fastener& fastener, const std::string& row, const Reading& reading) {
    const std::string cell = plain_cell(m.size);
    const auto clearance = standards::parse_clearance_class(lower_case(cell));
    Nominal nominal;
    in_cell(row, "size", [&] {
        if (cell.empty()) refuse_empty("Write a diameter, or fine, medium or coarse");
        if (clearance)
            nominal.mm = taken(standards::clearance_hole_mm(fastener.found_by(), *clearance));
        else
            nominal = taken(stack::read_nominal(cell, reading));
    });
    return in_cell(row, "limits", [&] {
        const auto usual = clearance ? standards::clearance_hole_zone(*clearance) : std::string_view();
        return sized(nominal, limits_or(m, usual), reading);
    });
}

/// A hole that carries the fastener has its size.
void check_carried(const TypedMember& m, const Fastener& fastener, const std::string& row,
                   const Reading& reading) {
    in_cell(row, "size", [&] {
        const std::string cell = plain_cell(m.size);
        if (cell.empty()) return;
        const auto nominal = taken(stack::read_nominal(cell, reading));
        if (nominal.mm != fastener.nominal.mm)
            refuse("this is not the size of the fastener that it carries", "Leave the cell empty");
    });
    in_cell(row, "limits", [&] {
        if (!plain_cell(m.limits).empty())
            refuse("a hole that carries its fastener has no clearance", "Leave the cell empty");
    });
}

void read_position(const TypedMember& m, const std::string& row, const Reading& reading, Plate& plate) {
    in_cell(row, "position", [&] {
        std::string cell = plain_cell(m.position);
        if (cell.empty()) return;
        for (const std::string sign : {" M", "Ⓜ"}) // ISO 2692: at maximum material
            if (cell.ends_with(sign)) {
                plate.bonus = true;
                cell = plain_cell(std::string_view(cell).substr(0, cell.size() - sign.size()));
                break;
            }
        for (const std::string sign : {"ø", "Ø", "⌀"})
            if (cell.starts_with(sign)) cell = plain_cell(std::string_view(cell).substr(sign.size()));
        plate.position_mm = taken(parse_length_mm(cell, reading.bare));
        if (plate.bonus && plate.threaded)
            refuse("a zone grows with a hole that has a diameter", "Leave the M out");
    });
}

Plate plate_of(const TypedMember& m, const What& what, const Fastener& fastener, const std::string& row,
               const Reading& reading) {
    Plate plate{.threaded = what.kind == What::carried};
    plate.slot = what.slot;
    plate.leaning = what.leaning;
    if (plate.threaded)
        check_carried(m, fastener, row, reading);
    else
        plate.hole = hole_of(m, fastener, row, reading);
    read_position(m, row, reading, plate);
    return plate;
}

/// Rows of the members by the name of their group, in order of appearance.
struct Rows {
    std::string group;
    std::vector<std::size_t> at;
};
std::vector<Rows> groups_of(const std::vector<TypedMember>& members) {
    std::vector<Rows> all;
    std::string name;
    for (std::size_t i = 0; i < members.size(); ++i) {
        if (const auto cell = plain_cell(members[i].group); !cell.empty()) name = cell;
        auto found = std::ranges::find(all, name, &Rows::group);
        if (found == all.end()) found = all.insert(all.end(), {name, {}});
        found->at.push_back(i);
    }
    return all;
}

std::string member_row(std::size_t at) { return fmt::format("members, row {}", at + 1); }

/// What each row of a group is, of which exactly one is its fastener.
std::vector<What> what_of(const Typed& typed, const Rows& rows, const Reading& reading) {
    std::vector<What> all;
    std::size_t fasteners = 0;
    for (const auto at : rows.at) {
        in_cell(member_row(at), "what", [&] {
            all.push_back(what_of(lower_case(plain_cell(typed.members[at].what)), reading));
            if (all.back().kind == What::fastener && ++fasteners > 1)
                refuse("its group has a fastener already", "Give it a group of its own");
        });
    }
    if (fasteners == 0)
        throw Unreadable{{rows.group.empty() ? "the members" : rows.group, "there is no fastener among them",
                          "Give it a row with \"fastener\"", FailureKind::file}};
    return all;
}

/// Which plate a row is of: by its name where the first group has such names, else by its place among them.
std::size_t plate_at(const std::string& name, const std::vector<std::string>& plates, std::size_t place) {
    if (name.empty() || std::ranges::all_of(plates, &std::string::empty)) return place;
    const auto found = std::ranges::find(plates, name);
    if (found == plates.end())
        refuse("the first fasteners join no plate of this name", "Give it the name that it has there");
    return static_cast<std::size_t>(found - plates.begin());
}

/// `plates`: their names, which the first group gives and whose order the others keep.
Group group_of(const Typed& typed, const Rows& rows, const Reading& reading,
               std::vector<std::string>& plates) {
    const auto what = what_of(typed, rows, reading);
    const auto first =
        static_cast<std::size_t>(std::ranges::find(what, What::fastener, &What::kind) - what.begin());
    const auto fastener = fastener_of(typed.members[rows.at[first]], member_row(rows.at[first]), reading);
    const bool gives_names = plates.empty();
    std::vector<std::optional<Plate>> found(plates.size());
    std::size_t place = 0;
    for (std::size_t i = 0; i < rows.at.size(); ++i) {
        if (i == first) continue;
        const auto& m = typed.members[rows.at[i]];
        const std::string row = member_row(rows.at[i]), name = plain_cell(m.name);
        if (gives_names) {
            plates.push_back(name);
            found.emplace_back();
        }
        auto& plate = in_cell(row, "name", [&]() -> std::optional<Plate>& {
            const auto at = gives_names ? place : plate_at(name, plates, place);
            if (at >= found.size() || found[at])
                refuse("there is a row of its plate already", "Take one out, or name the plates");
            return found[at];
        });
        plate = plate_of(m, what[i], fastener, row, reading);
        ++place;
    }
    Group group{.fastener = fastener.size, .holes = {}, .plates = {}, .flattened = what[first].flattened};
    for (std::size_t p = 0; p < found.size(); ++p) {
        if (!found[p])
            throw Unreadable{{rows.group, fmt::format("it has no row of plate {} {}", p + 1, plates[p]),
                              "Say what its fastener meets there", FailureKind::file}};
        group.plates.push_back(*found[p]);
    }
    return group;
}

void add_holes(const TypedHoles& h, const std::string& row, const Reading& reading,
               std::vector<Point>& holes) {
    const auto length = [&](const char* column, const std::string& typed) {
        const std::string cell = plain_cell(typed);
        return in_cell(row, column,
                       [&] { return cell.empty() ? 0 : taken(parse_length_mm(cell, reading.bare)); });
    };
    const Point middle(length("x", h.x), length("y", h.y));
    const double diameter = length("circle", h.circle);
    if (diameter < 0) in_cell(row, "circle", [] { refuse("a diameter is not below zero", "Check it"); });
    const int count = in_cell(row, "count", [&] {
        const std::string cell = plain_cell(h.count);
        const double n = cell.empty() ? 1 : taken(parse_number(cell));
        if (!(n >= 1 && n <= most_in_a_row && n == std::floor(n)))
            refuse(fmt::format("a whole number from 1 to {} is expected here", most_in_a_row), "Check it");
        if (n > 1 && diameter == 0)
            refuse("several holes of one row lie in a circle", "Give its diameter, or each hole a row");
        return static_cast<int>(n);
    });
    const double first = in_cell(row, "first", [&] {
        const std::string cell = plain_cell(h.first);
        return cell.empty() ? 0 : taken(parse_angle_deg(cell));
    });
    for (int i = 0; i < count; ++i) {
        const double angle = first + 360.0 * i / count;
        holes.push_back(middle + diameter / 2 * Point(formula::cosine(angle), formula::sine(angle)));
    }
}

ReadPattern read(const Typed& typed, const Reading& reading) {
    ReadPattern all;
    all.pattern.may_move = typed.may_move;
    all.pattern.positions = typed.positions;
    all.pattern.sizes = typed.sizes;
    const auto groups = groups_of(typed.members);
    if (groups.empty())
        throw Unreadable{{"the members", "there are none", "Type the fastener and the plates that it joins",
                          FailureKind::file}};
    for (const auto& rows : groups)
        all.pattern.groups.push_back(group_of(typed, rows, reading, all.plates));
    std::string name = groups.front().group;
    for (std::size_t i = 0; i < typed.holes.size(); ++i) {
        const std::string row = fmt::format("holes, row {}", i + 1);
        if (const auto cell = plain_cell(typed.holes[i].group); !cell.empty()) name = cell;
        const auto of = std::ranges::find(groups, name, &Rows::group);
        if (of == groups.end())
            in_cell(row, "group", [&] {
                refuse(fmt::format("no member is of \"{}\"", name), "Write a group that there is");
            });
        add_holes(typed.holes[i], row, reading,
                  all.pattern.groups[static_cast<std::size_t>(of - groups.begin())].holes);
    }
    return all;
}

}

Result<ReadPattern> read_typed(const Typed& typed, const stack::Reading& reading) {
    try {
        auto all = read(typed, reading);
        if (auto sound = validate(all.pattern); !sound) return tl::unexpected(sound.error());
        return all;
    } catch (Unreadable& u) {
        return tl::unexpected(std::move(u.failure));
    }
}

Typed with_class(Typed typed, const std::string& clearance) {
    const auto groups = groups_of(typed.members);
    if (groups.empty()) return typed;
    for (const auto at : groups.front().at) {
        auto& m = typed.members[at];
        if (const auto what = lower_case(plain_cell(m.what)); what.empty() || what == "hole")
            m.size = clearance;
    }
    return typed;
}

}
