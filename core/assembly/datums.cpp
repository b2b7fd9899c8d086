#include "assembly/datums.hpp"
#include "assembly/gap_points.hpp"
#include "quantity/format.hpp"
#include "standards/materials.hpp"
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <deque>
#include <fmt/format.h>
#include <set>
#include <tuple>

namespace kollema::assembly {
namespace {

/// The features of a part and the dimensions between them along one direction.
class Direction {
public:
    struct Step {
        const Dimension* dimension = nullptr;
        double sign = 1;
        FeatureId to;
        const Width* width = nullptr; ///< that no dimension gives; neither: they stand on one axis
    };
    /// How a feature stands from the datum: along dimensions, from `base` on; base is the datum itself, or a
    /// feature that stands from it by an untoleranced distance.
    struct Way {
        FeatureId base;
        std::vector<Step> steps;
    };

    Direction(const Part& part, const Vector3& along, const std::vector<FeatureId>& used,
              const std::vector<Width>& widths)
        : part_(part),
          along_(along) {
        for (const auto& d : part.dimensions)
            if (along_one_line(d.direction, along)) {
                edges_[d.from].push_back({&d, d.direction.dot(along) > 0 ? 1.0 : -1.0, d.to});
                edges_[d.to].push_back({&d, d.direction.dot(along) > 0 ? -1.0 : 1.0, d.from});
            }
        tie_coaxial();
        for (const auto& width : widths)
            tie(width);
        choose_datum(used);
        spread_from(datum_);
        for (const auto& feature : used) // what no dimension ties to the datum
            if (!ways_.contains(feature)) spread_from(base_of(feature));
    }

    const Vector3& along() const { return along_; }
    const FeatureId& datum() const { return datum_; }
    /// Of a feature that nothing uses, though a sloped dimension leads from it, too.
    const Way& way(const FeatureId& feature) {
        if (!ways_.contains(feature)) spread_from(base_of(feature));
        return ways_.at(feature);
    }
    bool is_dimensioned(const FeatureId& feature) {
        return !way(feature).steps.empty() || (feature == datum_ && is_face(feature));
    }
    bool is_axis() const { return along_.cwiseAbs().maxCoeff() > 1 - 1e-9; }

private:
    /// Across their axis cylinders of the body that stand on one axis are one: turned or bored in one
    /// setting; their run-out to each other is not counted.
    void tie_coaxial() {
        const Feature* before = nullptr;
        for (const auto& feature : part_.features) {
            if (!std::holds_alternative<Round>(feature.shape) || std::abs(feature.frame.z.dot(along_)) > 1e-9)
                continue;
            if (before && along_one_line(before->frame.z, feature.frame.z) &&
                (feature.frame.origin - before->frame.origin).cross(before->frame.z).norm() < 1e-9) {
                edges_[before->id].push_back({nullptr, 1, feature.id});
                edges_[feature.id].push_back({nullptr, 1, before->id});
            }
            before = &feature;
        }
    }

    /// What is made to one width is measured across it, not from elsewhere to either face.
    void tie(const Width& width) {
        if (!is_face(width.from) || !is_face(width.to) || tied_to(width.from).contains(width.to)) return;
        edges_[width.from].push_back({nullptr, 1, width.to, &width});
        edges_[width.to].push_back({nullptr, -1, width.from, &width});
    }

    bool is_face(const FeatureId& id) const {
        const Feature* feature = find(part_, id);
        return feature && std::holds_alternative<PlaneFace>(feature->shape) &&
               along_one_line(feature->frame.z, along_);
    }

    std::set<FeatureId> tied_to(const FeatureId& start) const {
        std::set<FeatureId> seen{start};
        std::deque<FeatureId> open{start};
        while (!open.empty()) {
            const auto edges = edges_.find(open.front());
            open.pop_front();
            if (edges == edges_.end()) continue;
            for (const auto& edge : edges->second)
                if (seen.insert(edge.to).second) open.push_back(edge.to);
        }
        return seen;
    }

    /// The face to which dimensions tie most of the features in use; of equals the first.
    void choose_datum(const std::vector<FeatureId>& used) {
        long most = -1;
        for (const auto& feature : part_.features) {
            if (!is_face(feature.id)) continue;
            const auto tied = tied_to(feature.id);
            const auto count =
                std::ranges::count_if(used, [&](const FeatureId& f) { return tied.contains(f); });
            if (count > most) {
                most = count;
                datum_ = feature.id;
            }
        }
        if (most < 0) datum_ = used.front();
    }

    /// Of the features that dimensions tie to this one: a face if there is one, and of equals the one that
    /// stands first by its coordinates, so that neither names nor the order in which they are met decide.
    FeatureId base_of(const FeatureId& feature) const {
        const auto tied = tied_to(feature);
        const auto rank = [&](const FeatureId& id) {
            const Vector3& at = find(part_, id)->frame.origin;
            return std::tuple(!is_face(id), std::round(at.x() * 1e6), std::round(at.y() * 1e6),
                              std::round(at.z() * 1e6));
        };
        return *std::ranges::min_element(tied, {}, rank);
    }

    /// The fewest dimensions from a base to everything that is tied to it.
    void spread_from(const FeatureId& base) {
        ways_[base] = {base, {}};
        std::deque<FeatureId> open{base};
        while (!open.empty()) {
            const FeatureId here = open.front();
            open.pop_front();
            const auto edges = edges_.find(here);
            if (edges == edges_.end()) continue;
            for (const auto& edge : edges->second) {
                if (ways_.contains(edge.to)) continue;
                Way way = ways_.at(here);
                if (edge.dimension || edge.width) way.steps.push_back(edge);
                ways_.emplace(edge.to, std::move(way));
                open.push_back(edge.to);
            }
        }
    }

    const Part& part_;
    Vector3 along_;
    FeatureId datum_;
    std::map<FeatureId, std::vector<Step>> edges_; ///< sign: of the dimension when walked away from the key
    std::map<FeatureId, Way> ways_;
};

class DatumBuilder {
public:
    DatumBuilder(const Project& project, const Part& part, const std::vector<FeatureId>& used,
                 const std::vector<Width>& widths)
        : project_(project),
          part_(part),
          used_(used),
          widths_(widths) {
        for (const auto& d : part.dimensions)
            add_direction(d.direction);
        for (int axis = 0; axis < 3; ++axis)
            add_direction(Vector3::Unit(axis));
    }

    Result<Datums> build() {
        for (const auto& feature : used_)
            if (auto done = place(feature); !done) return tl::unexpected(done.error());
        return std::move(datums_);
    }

private:
    void add_direction(const Vector3& along) {
        const bool known = std::ranges::any_of(
            directions_, [&](const Direction& d) { return along_one_line(d.along(), along); });
        if (!known) directions_.emplace_back(part_, along, used_, widths_);
    }

    /// Three independent directions: those in which it is dimensioned, then the part's axes.
    std::vector<Direction*> directions_for(const FeatureId& feature) {
        std::vector<Direction*> chosen;
        const auto independent = [&](const Vector3& v) {
            if (chosen.empty()) return true;
            if (chosen.size() == 1) return chosen[0]->along().cross(v).norm() > 1e-3;
            return std::abs(chosen[0]->along().cross(chosen[1]->along()).dot(v)) > 1e-3;
        };
        for (const bool only_dimensioned : {true, false})
            for (auto& d : directions_) {
                const bool suits = only_dimensioned ? d.is_dimensioned(feature) : d.is_axis();
                if (chosen.size() < 3 && suits && independent(d.along())) chosen.push_back(&d);
            }
        return chosen;
    }

    Result<void> place(const FeatureId& feature) {
        const auto chosen = directions_for(feature);
        Eigen::Matrix3d m;
        for (int i = 0; i < 3; ++i)
            m.row(i) = chosen[static_cast<std::size_t>(i)]->along();
        const Eigen::Matrix3d dual = m.inverse(); // column i: the shift that only direction i sees
        auto& shifts = datums_.shifts[feature];
        const Feature& placed = *find(part_, feature);
        const bool is_plane = std::holds_alternative<PlaneFace>(placed.shape);
        for (int i = 0; i < 3; ++i) {
            // A plane face has no place along itself.
            if (is_plane && std::abs(dual.col(i).dot(placed.frame.z)) < 1e-9) continue;
            const auto terms = along(*chosen[static_cast<std::size_t>(i)], feature);
            if (!terms) return tl::unexpected(terms.error());
            for (const auto& [size, factor] : *terms)
                shifts.push_back({size, factor * dual.col(i)});
        }
        return {};
    }

    using Terms = std::vector<std::pair<std::size_t, double>>; ///< sizes with their factors

    /// How a feature is shifted along one direction.  Along a slope dimensions lead from a feature that
    /// itself is placed by the part's axes.
    Result<Terms> along(Direction& d, const FeatureId& feature) {
        Terms terms;
        const auto& way = d.way(feature);
        for (const auto& step : way.steps) {
            if (step.dimension) {
                terms.emplace_back(dimension(*step.dimension), step.sign);
                continue;
            }
            const auto width = untoleranced(d, step.width->from, step.width->to);
            if (!width) return tl::unexpected(width.error());
            terms.emplace_back(*width, step.sign);
        }
        if (d.is_axis()) {
            if (way.base == d.datum()) return terms;
            const auto general = untoleranced(d, d.datum(), way.base);
            if (!general) return tl::unexpected(general.error());
            terms.emplace_back(*general, 1);
            return terms;
        }
        for (auto& axis : directions_) {
            const double share = axis.along().dot(d.along());
            if (!axis.is_axis() || share == 0) continue;
            const auto of_base = along(axis, way.base);
            if (!of_base) return tl::unexpected(of_base.error());
            for (const auto& [size, factor] : *of_base)
                terms.emplace_back(size, factor * share);
        }
        return terms;
    }

    std::size_t dimension(const Dimension& d) {
        const auto known = std::ranges::find(datums_.sizes, &d, &PartSize::dimension);
        if (known != datums_.sizes.end()) return static_cast<std::size_t>(known - datums_.sizes.begin());
        PartSize size{.dimension = &d, .name = fmt::format("{}: {}", part_.name, d.name)};
        size.size = {.name = size.name,
                     .nominal = nominal_mm(part_, d),
                     .plus = d.plus_mm,
                     .minus = d.minus_mm,
                     .distribution = d.distribution,
                     .cpk = d.cpk};
        size.working = {d.name, "read off the part's features",
                        "",     size.size.nominal,
                        "mm",   fmt::format("{} {:+g} {:+g}", part_.name, d.plus_mm, d.minus_mm)};
        datums_.sizes.push_back(std::move(size));
        return datums_.sizes.size() - 1;
    }

    Result<std::size_t> untoleranced(const Direction& d, const FeatureId& from_id, const FeatureId& to_id) {
        const Feature &from = *find(part_, from_id), &to = *find(part_, to_id);
        const std::string axis =
            fmt::format("({:.3g}, {:.3g}, {:.3g})", d.along().x(), d.along().y(), d.along().z());
        const auto key = std::tuple(axis, from_id, to_id);
        if (const auto known = general_.find(key); known != general_.end()) return known->second;
        const double distance = (to.frame.origin - from.frame.origin).dot(d.along());
        const auto process = process_at_hand(project_.workshop, part_.process);
        if (!process) return tl::unexpected(process.error());
        // ISO 2768-1 begins at 0.5 mm, its class v above 3 mm; a smaller distance (features in line) takes
        // the tolerance of the first range.
        const double first_range = process->tolerance_class == 'v' ? 3.001 : 0.5;
        const auto tolerance = standards::general_tolerance_mm(std::max(first_range, std::abs(distance)),
                                                               process->tolerance_class);
        if (!tolerance) return tl::unexpected(tolerance.error());
        PartSize size{.name = fmt::format("{}: {} to {}, untoleranced", part_.name, from.name, to.name)};
        size.size = {.name = size.name, .nominal = distance, .plus = *tolerance, .minus = -*tolerance};
        size.working = {"general tolerance",
                        fmt::format("ISO 2768-{} at the nominal size", process->tolerance_class),
                        fmt::format("{} mm", plain(distance, 6)),
                        *tolerance,
                        "mm",
                        fmt::format("ISO 2768-1, class by process \"{}\": common practice", process->title)};
        datums_.sizes.push_back(std::move(size));
        return general_[key] = datums_.sizes.size() - 1;
    }

    const Project& project_;
    const Part& part_;
    const std::vector<FeatureId>& used_;
    const std::vector<Width>& widths_;
    std::vector<Direction> directions_;
    std::map<std::tuple<std::string, FeatureId, FeatureId>, std::size_t> general_;
    Datums datums_;
};

}

Result<Datums> datums_of(const Project& project, const Part& part, const std::vector<FeatureId>& features,
                         const std::vector<Width>& widths) {
    if (features.empty()) return Datums{};
    return DatumBuilder(project, part, features, widths).build();
}

}
