#include "fit/adviser.hpp"
#include "standards/table.hpp"
#include <algorithm>
#include <cctype>
#include <fmt/format.h>

namespace kollema::fit {
namespace {

using standards::Basis;

const char* column(Duty duty) {
    switch (duty) {
    case Duty::turn:
        return "turn";
    case Duty::slide:
        return "slide";
    case Duty::locate:
        return "locate";
    case Duty::press_by_hand:
        return "hand";
    case Duty::press:
        return "press";
    case Duty::shrink:
        break;
    }
    return "shrink";
}

/// Marks of a row for a task; 0 or less: unfit.
int mark_of(const standards::Table& table, std::size_t row, const Task& task) {
    const auto of = [&](const char* name) { return static_cast<int>(*table.number(row, name)); };
    const int duty = of(column(task.duty));
    if (duty == 0) return 0;
    int mark = 10 * duty;
    if (task.apart == TakenApart::often) mark += 6 * (of("apart") - 2);
    if (task.apart == TakenApart::never) mark += of("apart") == 0 ? 3 : 0;
    if (task.load == LoadHeldBy::fit) mark += 6 * (of("holds") - 1);
    if (task.load == LoadHeldBy::key_or_pin) mark -= 2 * of("holds"); // no need to strain the hub
    return mark;
}

std::string why(const standards::Table& table, std::size_t row, const Task& task) {
    const int duty = static_cast<int>(*table.number(row, column(task.duty)));
    return fmt::format("{} \"{}\"",
                       duty == 3   ? "made for"
                       : duty == 2 ? "well suited to"
                                   : "will do for",
                       title(task.duty));
}

void add_circumstances(Advice& advice, const standards::Table& table, std::size_t row, const Task& task,
                       const standards::Material& hub, const standards::Material& shaft) {
    const auto of = [&](const char* name) { return static_cast<int>(*table.number(row, name)); };
    if (task.apart == TakenApart::often)
        (of("apart") >= 2 ? advice.reasons : advice.watch)
            .push_back(of("apart") >= 2 ? "comes apart again and again"
                                        : "suffers each time it is taken apart");
    if (task.load == LoadHeldBy::fit)
        (of("holds") >= 2 ? advice.reasons : advice.watch)
            .push_back(of("holds") >= 2 ? "carries load without key or pin; see the press fit's figures"
                                        : "does not carry the load by itself: add a key, pin or screw");
    if (hub.expansion_per_K > shaft.expansion_per_K * 1.2)
        advice.watch.push_back(
            fmt::format("{} grows away from {} when warm: the fit loosens", hub.title, shaft.title));
    if (shaft.expansion_per_K > hub.expansion_per_K * 1.2)
        advice.watch.push_back(
            fmt::format("{} grows into {} when warm: the fit tightens", shaft.title, hub.title));
    if ((task.duty == Duty::turn || task.duty == Duty::slide) && hub.id == shaft.id &&
        hub.family != "plastic")
        advice.watch.emplace_back("equal materials seize on each other: take a bush or harden one");
}

void add_cost(Advice& advice, const std::vector<standards::Process>& processes) {
    const auto grade = [](const std::string& zone) { return standards::parse_zone(zone)->grade; };
    const auto hole = standards::cheapest_for_grade(processes, grade(advice.fit.hole_zone)),
               shaft = standards::cheapest_for_grade(processes, grade(advice.fit.shaft_zone));
    if (!hole || !shaft) {
        advice.watch.emplace_back("no process at hand holds its grade");
        advice.relative_cost = 1e6;
        return;
    }
    const auto lower = [](std::string text) {
        text[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(text[0])));
        return text;
    };
    advice.relative_cost = hole->cost + shaft->cost;
    advice.cost =
        fmt::format("hole {} ({}), shaft {} ({}): about {:.1f} times two milled faces", advice.fit.hole_zone,
                    lower(hole->title), advice.fit.shaft_zone, lower(shaft->title), advice.relative_cost / 2);
}

}

std::string_view title(Duty duty) {
    switch (duty) {
    case Duty::turn:
        return "turn";
    case Duty::slide:
        return "slide";
    case Duty::locate:
        return "locate";
    case Duty::press_by_hand:
        return "go in by hand, no play";
    case Duty::press:
        return "be pressed in";
    case Duty::shrink:
        break;
    }
    return "be shrunk on by heat or cold";
}

std::string_view title(LoadHeldBy load) {
    switch (load) {
    case LoadHeldBy::nothing:
        return "no load to hold";
    case LoadHeldBy::key_or_pin:
        return "a key, pin or screw holds the load";
    case LoadHeldBy::fit:
        break;
    }
    return "the fit holds the load";
}

std::string_view title(TakenApart apart) {
    switch (apart) {
    case TakenApart::never:
        return "never taken apart";
    case TakenApart::seldom:
        return "seldom taken apart";
    case TakenApart::often:
        break;
    }
    return "often taken apart";
}

Result<std::vector<Advice>> advise(const Task& task, const std::vector<standards::Process>& processes) {
    const auto hub = standards::material(task.hub_material);
    if (!hub) return tl::unexpected(hub.error());
    const auto shaft = standards::material(task.shaft_material);
    if (!shaft) return tl::unexpected(shaft.error());
    const auto& table = standards::built_in_table("fit_advice");
    std::vector<Advice> all;
    for (std::size_t row = 0; row < table.rows(); ++row) {
        const int mark = mark_of(table, row, task);
        if (mark <= 0) continue;
        auto fit = standards::fit(task.diameter_mm,
                                  table.text(row, task.basis == Basis::shaft ? "shaft_basis" : "fit"));
        if (!fit) return tl::unexpected(fit.error());
        Advice advice{.fit = *fit, .mark = mark, .character = table.text(row, "character")};
        advice.reasons.push_back(why(table, row, task));
        advice.watch.push_back(table.text(row, "watch"));
        add_circumstances(advice, table, row, task, *hub, *shaft);
        add_cost(advice, processes);
        all.push_back(std::move(advice));
    }
    std::ranges::stable_sort(all, [](const Advice& a, const Advice& b) {
        return a.mark != b.mark ? a.mark > b.mark : a.relative_cost < b.relative_cost;
    });
    if (all.size() > 3) all.resize(3);
    return all;
}

}
