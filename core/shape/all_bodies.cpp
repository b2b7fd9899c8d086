#include "shape/all_bodies.hpp"
#include "quantity/nearest.hpp"
#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace kollema {

Body::Body() = default;
Body::Body(const Body&) = default;
Body::Body(Body&&) noexcept = default;
Body& Body::operator=(const Body&) = default;
Body& Body::operator=(Body&&) noexcept = default;
Body::~Body() = default;
bool Body::operator==(const Body& other) const { return one_ == other.one_; }

}

namespace kollema::shape {
namespace {

constexpr double largest_mm = 1e6;

template <class... B>
std::vector<Body> one_of_each(const std::variant<B...>*) {
    static_assert((BodyShape<B> && ...), "what is listed in all_bodies.hpp must be a body");
    return {Body(B{})...};
}

const std::array<Field<TurnedStep>, 5> step_fields{
    {{"diameter", "diameter", "", &TurnedStep::diameter_mm, Unit::length},
     {"length", "length", "Along the axis", &TurnedStep::length_mm, Unit::length},
     {"zone", "zone", "Limits of the diameter; empty: by the process", &TurnedStep::zone},
     {"chamfer", "chamfer", "At its free edges, 45°; 0: sharp", &TurnedStep::chamfer_mm, Unit::length},
     {"fillet", "fillet", "At the foot of its shoulder; 0: sharp", &TurnedStep::fillet_mm, Unit::length}}};

/// "steps/2/diameter" taken apart.
struct RowKey {
    std::string_view rows, field;
    std::size_t row = 0;
};
std::optional<RowKey> row_key(std::string_view key) {
    const std::size_t first = key.find('/'), second = key.find('/', first + 1);
    if (first == std::string_view::npos || second == std::string_view::npos) return std::nullopt;
    RowKey r{key.substr(0, first), key.substr(second + 1)};
    const std::string_view number = key.substr(first + 1, second - first - 1);
    const auto [end, error] = std::from_chars(number.data(), number.data() + number.size(), r.row);
    if (error != std::errc() || end != number.data() + number.size() || r.row == 0) return std::nullopt;
    return r;
}

template <class B>
std::vector<TurnedStep>* rows_named(B& body, std::string_view key) {
    for (const Rows<B>& rows : B::rows())
        if (rows.key == key) return &(body.*rows.member);
    return nullptr;
}

Failure refused(std::string what, std::string why, std::string remedy) {
    return {.what = std::move(what),
            .why = std::move(why),
            .remedy = std::move(remedy),
            .kind = FailureKind::argument};
}

Result<Body> if_possible(Body body) {
    if (auto defect = defect_of(body)) return tl::unexpected(*defect);
    return body;
}

/// The face of a body that has this frame.
std::optional<Offer> offered(const Body& body, const Frame& frame) {
    for (auto& offer : offers(body))
        if (offer.frame == frame && std::holds_alternative<PlaneFace>(offer.shape)) return std::move(offer);
    return std::nullopt;
}

}

const std::vector<Body>& all_bodies() {
    static const std::vector<Body> all = one_of_each(static_cast<const OneBody*>(nullptr));
    return all;
}

Result<Body> body_named(std::string_view key) {
    std::vector<std::string_view> known;
    for (const auto& body : all_bodies()) {
        if (info(body).key == key) return body;
        known.push_back(info(body).key);
    }
    return fail({.what = fmt::format("\"{}\"", key),
                 .why = fmt::format("no body is of this shape; the nearest is \"{}\"", nearest(key, known)),
                 .remedy = fmt::format("Use one of {}", fmt::join(known, ", ")),
                 .kind = FailureKind::file});
}

BodyInfo info(const Body& body) {
    return std::visit([](const auto& b) { return b.info(); }, body.one());
}

std::vector<Parameter> parameters(const Body& body) {
    return std::visit(
        []<class B>(const B& b) {
            std::vector<Parameter> all;
            for (const Field<B>& field : B::fields())
                all.push_back(parameter_of(field, b));
            for (const Rows<B>& rows : B::rows())
                for (std::size_t row = 0; row < (b.*rows.member).size(); ++row)
                    for (const auto& field : step_fields) {
                        Parameter p = parameter_of(field, (b.*rows.member)[row]);
                        p.key = fmt::format("{}/{}/{}", rows.key, row + 1, field.key);
                        p.title = fmt::format("{} {}: {}", rows.title, row + 1, field.title);
                        all.push_back(std::move(p));
                    }
            return all;
        },
        body.one());
}

std::vector<RowsInfo> rows(const Body& body) {
    return std::visit(
        []<class B>(const B& b) {
            std::vector<RowsInfo> all;
            for (const Rows<B>& rows : B::rows())
                all.push_back({rows.key, rows.title, (b.*rows.member).size(), rows.may_be_empty});
            return all;
        },
        body.one());
}

bool set_unchecked(Body& body, std::string_view key, const Value& value) {
    return std::visit(
        [&]<class B>(B& b) {
            if (const auto in_row = row_key(key)) {
                auto* rows = rows_named(b, in_row->rows);
                if (!rows || in_row->row > rows->size()) return false;
                const auto* field = std::ranges::find(step_fields, in_row->field, &Field<TurnedStep>::key);
                return field != step_fields.end() && set_value(*field, (*rows)[in_row->row - 1], value);
            }
            const std::span<const Field<B>> fields = B::fields();
            const auto field = std::ranges::find(fields, key, &Field<B>::key);
            return field != fields.end() && set_value(*field, b, value);
        },
        body.one());
}

bool set_rows_unchecked(Body& body, std::string_view key, std::size_t count) {
    return std::visit(
        [&](auto& b) {
            auto* rows = rows_named(b, key);
            if (rows) rows->resize(count);
            return rows != nullptr;
        },
        body.one());
}

Result<Body> with_parameter(Body body, std::string_view key, const Value& value) {
    const auto all = parameters(body);
    const auto parameter = std::ranges::find(all, key, &Parameter::key);
    if (parameter == all.end())
        return tl::unexpected(refused(std::string(key), fmt::format("{} has no such size", info(body).title),
                                      "Choose one of the sizes shown"));
    if (!set_unchecked(body, key, value))
        return tl::unexpected(refused(parameter->title, "this is not the kind of value it takes",
                                      "Give a value like the one that stands there"));
    return if_possible(std::move(body));
}

Result<Body> with_row(Body body, std::string_view key, std::size_t before) {
    const bool done = std::visit(
        [&](auto& b) {
            auto* rows = rows_named(b, key);
            if (!rows || before > rows->size()) return false;
            const TurnedStep like = rows->empty() ? TurnedStep{8, 10} : (*rows)[before == 0 ? 0 : before - 1];
            rows->insert(rows->begin() + static_cast<std::ptrdiff_t>(before), like);
            return true;
        },
        body.one());
    if (!done)
        return tl::unexpected(refused(std::string(key), "there is no such row", "Choose a row that exists"));
    return if_possible(std::move(body));
}

Result<Body> without_row(Body body, std::string_view key, std::size_t row) {
    bool last_one = false;
    for (const auto& r : rows(body))
        if (r.key == key) last_one = r.count == 1 && !r.may_be_empty;
    if (last_one)
        return tl::unexpected(refused(std::string(key), "the body needs at least one", "Change it instead"));
    const bool done = std::visit(
        [&](auto& b) {
            auto* rows = rows_named(b, key);
            if (!rows || row >= rows->size()) return false;
            rows->erase(rows->begin() + static_cast<std::ptrdiff_t>(row));
            return true;
        },
        body.one());
    if (!done)
        return tl::unexpected(refused(std::string(key), "there is no such row", "Choose a row that exists"));
    return if_possible(std::move(body));
}

std::optional<Failure> defect_of(const Body& body) {
    for (const auto& r : rows(body))
        if (r.count == 0 && !r.may_be_empty)
            return refused(std::string(r.title), "the body needs at least one", "Add one");
    for (const auto& p : parameters(body))
        if (const auto* size = std::get_if<double>(&p.value);
            size && *size != 0 && !(*size >= 1 / largest_mm && *size <= largest_mm))
            return refused(p.title, "it is not greater than zero, or beyond a kilometre",
                           "Give a size within that");
    return std::visit([](const auto& b) { return b.defect(); }, body.one());
}

std::vector<Offer> offers(const Body& body) {
    return std::visit([](const auto& b) { return b.offers(); }, body.one());
}

Recipe recipe(const Body& body) {
    return std::visit([](const auto& b) { return b.recipe(); }, body.one());
}

}

namespace kollema {
namespace {

/// A single prism along the axis, or a block.
bool same_at_any_depth(const shape::Recipe& recipe, const Vector3& axis) {
    const auto* prism = recipe.size() == 1 ? std::get_if<shape::Prism>(&recipe[0].form) : nullptr;
    if (!prism) return false;
    const bool straight = std::ranges::all_of(prism->outline, [](const auto& c) { return c.bulge == 0; });
    return prism->base.z.cross(axis).norm() < 1e-9 || (straight && prism->outline.size() == 4);
}

/// The nearest edge over the depth of the material that a hole enters at a point.
shape::NearestEdge nearest_over_depth(const Body& body, const Vector3& at, const Vector3& axis) {
    const shape::Recipe recipe = shape::recipe(body);
    const double depth = shape::thickness_mm(recipe, at, axis);
    constexpr double inside_mm = 1e-6;
    if (same_at_any_depth(recipe, axis)) return shape::nearest_edge(recipe, at + depth / 2 * axis, axis);
    shape::NearestEdge best;
    for (const double down : {inside_mm, depth / 4, depth / 2, 3 * depth / 4, depth - inside_mm})
        if (const auto found = shape::nearest_edge(recipe, at + down * axis, axis);
            found.distance_mm < best.distance_mm)
            best = found;
    return best;
}

}

double thickness_mm(const Body& body, const Vector3& from, const Vector3& direction) {
    return shape::thickness_mm(shape::recipe(body), from, direction);
}

std::vector<Vector3> face_corners(const Body& body, const Frame& face) {
    std::vector<Vector3> corners;
    const auto offer = shape::offered(body, face);
    if (!offer) return corners;
    const auto size = shape::extent(offer->ends);
    for (const auto& p : shape::points_round(offer->ends, 0.005 * (size.greatest - size.least).norm()))
        corners.push_back(face.point({p.x(), p.y(), 0}));
    return corners;
}

double edge_distance_mm(const Body& body, const Vector3& at, const Vector3& axis) {
    return nearest_over_depth(body, at, axis).distance_mm;
}

Vector3 away_from_edge(const Body& body, const Vector3& at, const Vector3& axis) {
    return -nearest_over_depth(body, at, axis).towards;
}

}
