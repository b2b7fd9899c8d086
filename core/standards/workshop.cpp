#include "standards/workshop.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <string_view>

namespace kollema {

std::optional<Failure> defect_of(const standards::Process& p) {
    const auto cannot_be = [&](std::string why, std::string remedy) {
        return Failure{.what = fmt::format("process \"{}\"", p.id),
                       .why = std::move(why),
                       .remedy = std::move(remedy),
                       .kind = FailureKind::argument};
    };
    if (p.id.empty() || p.title.empty()) return cannot_be("it has no name", "Give it one");
    if (std::string_view("fmcv").find(p.tolerance_class) == std::string_view::npos)
        return cannot_be("ISO 2768-1 has the classes f, m, c and v", "Choose one of them");
    if (p.finest_grade < 1 || p.usual_grade > 18 || p.finest_grade > p.usual_grade)
        return cannot_be("its grades must lie between IT1 and IT18, the finest first",
                         "Give for example 7 and 9");
    for (const double value : {p.least_mm.value_or(1), p.roughness_um, p.cost})
        if (!std::isfinite(value) || value <= 0)
            return cannot_be("tolerance, roughness and cost are greater than zero",
                             "Give figures above zero");
    return std::nullopt;
}

std::optional<Failure> defect_of(const Workshop& workshop) {
    for (const auto& item : workshop.stock) {
        const auto held = standards::hardware(item.standard, item.size);
        if (!held) return held.error();
        for (const double l : item.lengths_mm)
            if (std::ranges::find(held->lengths_mm, l) == held->lengths_mm.end())
                return Failure{.what = fmt::format("{} {}", item.standard, item.size),
                               .why = fmt::format("the standard has no length {}", l),
                               .remedy = "Take standard lengths only",
                               .kind = FailureKind::argument};
    }
    for (const auto& process : workshop.processes)
        if (auto found = defect_of(process)) return found;
    return std::nullopt;
}

const StockItem* find_stock(const Workshop& workshop, const std::string& standard, const std::string& size) {
    const auto found = std::ranges::find_if(workshop.stock, [&](const StockItem& item) {
        return item.standard == standard && item.size == size;
    });
    return found == workshop.stock.end() ? nullptr : &*found;
}

std::vector<double> stocked_lengths(const Workshop& workshop, const std::string& standard,
                                    const std::string& size, const std::vector<double>& lengths_mm) {
    const StockItem* item = find_stock(workshop, standard, size);
    if (!item) return {};
    if (item->lengths_mm.empty()) return lengths_mm;
    std::vector<double> both;
    for (const double l : lengths_mm)
        if (std::ranges::find(item->lengths_mm, l) != item->lengths_mm.end()) both.push_back(l);
    return both;
}

std::vector<standards::Process> processes_at_hand(const Workshop& workshop) {
    auto all = standards::processes();
    for (const auto& own : workshop.processes) {
        const auto same = std::ranges::find(all, own.id, &standards::Process::id);
        if (same == all.end())
            all.push_back(own);
        else
            *same = own;
    }
    return all;
}

Result<standards::Process> process_at_hand(const Workshop& workshop, const std::string& id) {
    const auto own = std::ranges::find(workshop.processes, id, &standards::Process::id);
    if (own != workshop.processes.end()) return *own;
    return standards::process(id);
}

}
