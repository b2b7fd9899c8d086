#include "joint/hardware_list.hpp"
#include "piece/view.hpp"
#include "quantity/format.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <fmt/format.h>
#include <tuple>

namespace kollema::joint {
namespace {

std::string designation_of(const kind::PlacedPiece& piece, const standards::HardwareItem* item) {
    std::string text = fmt::format("{} - {}", piece.standard, piece.size);
    if (piece.length_mm > 0)
        text += item && item->inch ? fmt::format(" × {} in", plain(piece.length_mm / mm_per_inch, 5))
                                   : fmt::format(" × {}", plain(piece.length_mm));
    return piece.strength.empty() ? text : text + " - " + piece.strength;
}

}

std::vector<HardwareLine> hardware_list(const Project& project, const Designs& designs) {
    std::map<std::tuple<std::string, std::string, double, std::string>, HardwareLine> lines;
    for (const auto& joint : project.joints) {
        const auto* design = designs.find(joint.id);
        if (!design) continue;
        for (const auto& piece : design->pieces) {
            const auto item = standards::hardware(piece.standard, piece.size);
            auto& line = lines[{piece.standard, piece.size, piece.length_mm, piece.strength}];
            line.designation = designation_of(piece, item ? &*item : nullptr);
            line.standard = piece.standard;
            line.size = piece.size;
            line.strength = piece.strength;
            line.length_mm = piece.length_mm;
            line.quantity += joint.places.size();
            if (line.used_in.empty() || line.used_in.back() != joint.id) line.used_in.push_back(joint.id);
            const auto length = piece.length_mm > 0 ? std::optional(piece.length_mm) : std::nullopt;
            if (const auto one = item ? piece::mass_kg(*item, length) : std::nullopt)
                line.mass_kg = *one * static_cast<double>(line.quantity);
        }
    }
    std::vector<HardwareLine> all;
    all.reserve(lines.size());
    for (auto& [key, line] : lines)
        all.push_back(std::move(line));
    return all;
}

}
