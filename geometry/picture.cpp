#include "geometry/picture.hpp"
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <limits>

namespace kollema::geometry {
namespace {

constexpr float nothing = -std::numeric_limits<float>::infinity();

struct Pixel {
    double x = 0, y = 0, z = 0; ///< z towards the viewer, in mm
};

std::uint32_t mixed(std::uint32_t a, std::uint32_t b, double share_of_b) {
    const auto channel = [&](int shift) {
        const double from = (a >> shift) & 0xFF, to = (b >> shift) & 0xFF;
        return static_cast<std::uint32_t>(std::lround(from + (to - from) * share_of_b)) << shift;
    };
    return 0xFF000000U | channel(16) | channel(8) | channel(0);
}

std::uint32_t shaded(std::uint32_t rgb, double light) {
    return light < 0 ? mixed(rgb, 0, -light) : mixed(rgb, 0xFFFFFF, light);
}

class Painter {
public:
    Painter(const View& view, std::uint32_t ink) : view_(view), ink_(ink) {
        const auto pixels = static_cast<std::size_t>(view.width) * static_cast<std::size_t>(view.height);
        picture_.width = view.width;
        picture_.height = view.height;
        picture_.argb.assign(pixels, 0);
        picture_.depth.assign(pixels, nothing);
        picture_.shown.assign(pixels, -1);
        picture_.is_cut.assign(pixels, false);
    }

    Picture paint(const std::vector<Shown>& all) {
        for (const bool ghosts : {false, true})
            for (std::size_t i = 0; i < all.size(); ++i)
                if (all[i].mesh && (all[i].look == Look::ghost) == ghosts) add(all[i], static_cast<int>(i));
        for (const auto& one : all)
            if (one.mesh) add_edges(one);
        if (view_.cut) outline_caps();
        return std::move(picture_);
    }

private:
    Pixel on_screen(const Vector3& point) const {
        const Vector3 seen = view_.eye.local(point);
        return {view_.width / 2.0 + seen.x() * view_.px_per_mm,
                view_.height / 2.0 - seen.y() * view_.px_per_mm, seen.z()};
    }

    /// How far a point stands before the cutting plane; below 0 it stays.
    double before_cut(const Vector3& point) const {
        return view_.cut ? (point - view_.cut->origin).dot(view_.cut->z) : -1;
    }

    void add(const Shown& one, int index) {
        const Mesh& mesh = *one.mesh;
        seen_.resize(mesh.points.size());
        light_.resize(mesh.points.size());
        before_.resize(mesh.points.size());
        const Vector3 lamp = Vector3(-0.35, 0.55, 0.76).normalized(); // over the viewer's left shoulder
        for (std::size_t i = 0; i < mesh.points.size(); ++i) {
            const Vector3 point = one.placed.point(mesh.points[i]);
            seen_[i] = on_screen(point);
            before_[i] = before_cut(point);
            const Vector3 normal = view_.eye.local_vector(one.placed.vector(mesh.normals[i]));
            light_[i] = 0.30 - 0.55 * (1 - std::max(0.0, normal.dot(lamp)));
        }
        behind_ = {view_.width, view_.height, -1, -1};
        if (view_.cut) counts_.assign(picture_.depth.size(), 0);
        for (const auto& t : mesh.triangles)
            fill(t, one, index);
        if (view_.cut && one.look != Look::ghost) cap(one, index);
    }

    void fill(const std::array<std::uint32_t, 3>& t, const Shown& one, int index) {
        const Pixel &a = seen_[t[0]], &b = seen_[t[1]], &c = seen_[t[2]];
        const double area = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
        if (std::abs(area) < 1e-12) return;
        const bool front = area < 0; // y runs downward on the screen
        if (!front && !view_.cut) return;
        if (before_[t[0]] > 0 && before_[t[1]] > 0 && before_[t[2]] > 0) return;
        const int left = std::max(0, static_cast<int>(std::floor(std::min({a.x, b.x, c.x})))),
                  right = std::min(view_.width - 1, static_cast<int>(std::ceil(std::max({a.x, b.x, c.x})))),
                  top = std::max(0, static_cast<int>(std::floor(std::min({a.y, b.y, c.y})))),
                  bottom = std::min(view_.height - 1, static_cast<int>(std::ceil(std::max({a.y, b.y, c.y}))));
        for (int y = top; y <= bottom; ++y)
            for (int x = left; x <= right; ++x) {
                const double px = x + 0.5003, py = y + 0.5007; // off the edges that triangles share
                const double u = ((b.x - px) * (c.y - py) - (b.y - py) * (c.x - px)) / area,
                             v = ((c.x - px) * (a.y - py) - (c.y - py) * (a.x - px)) / area, w = 1 - u - v;
                if (u < 0 || v < 0 || w < 0) continue;
                if (u * before_[t[0]] + v * before_[t[1]] + w * before_[t[2]] > 0) continue;
                const auto depth = static_cast<float>(u * a.z + v * b.z + w * c.z);
                if (view_.cut) {
                    counts_[at(x, y)] = static_cast<signed char>(counts_[at(x, y)] + (front ? -1 : 1));
                    behind_ = {std::min(behind_.left, x), std::min(behind_.top, y),
                               std::max(behind_.right, x), std::max(behind_.bottom, y)};
                }
                if (front)
                    set(x, y, depth, u * light_[t[0]] + v * light_[t[1]] + w * light_[t[2]], one, index);
            }
    }

    std::size_t at(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(view_.width) +
               static_cast<std::size_t>(x);
    }

    void set(int x, int y, float depth, double light, const Shown& one, int index) {
        const std::size_t here = at(x, y);
        if (depth <= picture_.depth[here]) return;
        if (one.look == Look::ghost) {
            picture_.argb[here] =
                mixed(picture_.argb[here] == 0 ? 0xFFFFFFFF : picture_.argb[here], one.rgb, 0.16);
            return;
        }
        show(here, depth, false, shaded(colour(one), light), index);
    }

    static std::uint32_t colour(const Shown& one) {
        return one.look == Look::lit ? mixed(one.rgb, 0xF0A030, 0.45) : one.rgb;
    }

    void show(std::size_t here, float depth, bool is_cut, std::uint32_t argb, int index) {
        picture_.depth[here] = depth;
        picture_.shown[here] = index;
        picture_.is_cut[here] = is_cut;
        picture_.argb[here] = argb;
    }

    /// Where more surfaces lead out of the solid behind the plane than into it, the plane runs through its
    /// material.
    void cap(const Shown& one, int index) {
        const Vector3& n = view_.cut->z;
        const double along = view_.eye.z.dot(n);
        if (std::abs(along) < 1e-9) return; // seen edge on
        for (int y = behind_.top; y <= behind_.bottom; ++y)
            for (int x = behind_.left; x <= behind_.right; ++x) {
                if (counts_[at(x, y)] <= 0) continue;
                const Vector3 beside((x + 0.5 - view_.width / 2.0) / view_.px_per_mm,
                                     (view_.height / 2.0 - y - 0.5) / view_.px_per_mm, 0);
                const auto depth =
                    static_cast<float>((view_.cut->origin - view_.eye.point(beside)).dot(n) / along);
                if (depth < picture_.depth[at(x, y)]) continue;
                const int spacing = 7 + 2 * (index % 3), lean = index % 2 == 0 ? 1 : -1;
                const bool line = ((x + lean * y) % spacing + spacing) % spacing == 0;
                show(at(x, y), depth, true, line ? mixed(colour(one), ink_, 0.6) : shaded(colour(one), 0.35),
                     index);
            }
    }

    /// A line where a cut face ends.
    void outline_caps() {
        for (int y = 0; y + 1 < view_.height; ++y)
            for (int x = 0; x + 1 < view_.width; ++x)
                for (const std::size_t beside : {at(x + 1, y), at(x, y + 1)}) {
                    const std::size_t here = at(x, y);
                    const bool cut = picture_.is_cut[here] || picture_.is_cut[beside];
                    if (cut && (picture_.shown[here] != picture_.shown[beside] ||
                                picture_.is_cut[here] != picture_.is_cut[beside]))
                        picture_.argb[here] = 0xFF000000U | ink_;
                }
    }

    /// The shares of a line between which it lies in the picture; the first above the last where it does not.
    std::pair<double, double> within_picture(const Pixel& a, const Pixel& b) const {
        double first = 0, last = 1;
        const auto cut = [&](double from, double to, double most) {
            const double way = to - from;
            if (std::abs(way) < 1e-12) {
                if (from < 0 || from > most) last = -1;
                return;
            }
            const double enters = (way > 0 ? -from : most - from) / way,
                         leaves = (way > 0 ? most - from : -from) / way;
            first = std::max(first, enters);
            last = std::min(last, leaves);
        };
        cut(a.x, b.x, view_.width);
        cut(a.y, b.y, view_.height);
        return {first, last};
    }

    void add_edges(const Shown& one) {
        const double alpha = one.look == Look::ghost ? 0.35 : 0.85;
        for (const auto& line : one.mesh->edges)
            for (std::size_t i = 0; i + 1 < line.size(); ++i) {
                const Vector3 from = one.placed.point(line[i]), to = one.placed.point(line[i + 1]);
                const Pixel a = on_screen(from), b = on_screen(to);
                const auto [first, last] = within_picture(a, b);
                const double steps =
                    std::max(1.0, std::ceil(std::max(std::abs(b.x - a.x), std::abs(b.y - a.y))));
                const double begin = std::ceil(first * steps);
                for (int step = 0; begin + step <= last * steps; ++step) {
                    const double share = (begin + step) / steps;
                    if (before_cut(from + share * (to - from)) > 0) continue;
                    const int x = static_cast<int>(std::floor(a.x + share * (b.x - a.x))),
                              y = static_cast<int>(std::floor(a.y + share * (b.y - a.y)));
                    dot(x, y, static_cast<float>(a.z + share * (b.z - a.z)), alpha);
                }
            }
    }

    /// An edge lies on the surface itself: it is seen where nothing stands more than a hair before it.
    void dot(int x, int y, float depth, double alpha) {
        if (x < 0 || y < 0 || x >= view_.width || y >= view_.height) return;
        const auto at =
            static_cast<std::size_t>(y) * static_cast<std::size_t>(view_.width) + static_cast<std::size_t>(x);
        const auto hair = static_cast<float>(0.15 + 1.5 / view_.px_per_mm);
        if (depth + hair < picture_.depth[at]) return;
        picture_.argb[at] = mixed(picture_.argb[at] == 0 ? 0xFFFFFFFF : picture_.argb[at], ink_, alpha);
    }

    const View& view_;
    std::uint32_t ink_;
    Picture picture_;
    std::vector<Pixel> seen_;
    std::vector<double> light_, before_;
    std::vector<signed char> counts_; ///< surfaces behind the cutting plane, out of the solid less into it
    struct {
        int left = 0, top = 0, right = -1, bottom = -1;
    } behind_;
};

}

Frame eye_at(Side side) {
    const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ(), none = Vector3::Zero();
    switch (side) {
    case Side::front:
        return {none, x, -y};
    case Side::back:
        return {none, -x, y};
    case Side::left:
        return {none, -y, -x};
    case Side::right:
        return {none, y, x};
    case Side::top:
        return {none, x, z};
    case Side::bottom:
        return {none, x, -z};
    case Side::slanted:
        break;
    }
    return turned(turned(eye_at(Side::front), -0.61, 0), 0, -0.55);
}

Frame turned(const Frame& eye, double right_rad, double up_rad) {
    const Eigen::Matrix3d turn =
        (Eigen::AngleAxisd(-right_rad, eye.y()) * Eigen::AngleAxisd(up_rad, eye.x)).toRotationMatrix();
    return {eye.origin, (turn * eye.x).normalized(), (turn * eye.z).normalized()};
}

Frame cut_across(int axis, const Frame& eye, const shape::Bounds& bounds) {
    const Vector3 across = Vector3::Unit(axis), towards = across.dot(eye.z) < 0 ? Vector3(-across) : across;
    return {(bounds.least + bounds.greatest) / 2, Vector3::Unit((axis + 1) % 3), towards};
}

View fitted(View view, const shape::Bounds& bounds) {
    if ((bounds.least.array() > bounds.greatest.array()).any()) return view;
    view.eye.origin = (bounds.least + bounds.greatest) / 2;
    double wide = 1e-3, high = 1e-3;
    for (int corner = 0; corner < 8; ++corner) {
        const Vector3 p((corner & 1) != 0 ? bounds.least.x() : bounds.greatest.x(),
                        (corner & 2) != 0 ? bounds.least.y() : bounds.greatest.y(),
                        (corner & 4) != 0 ? bounds.least.z() : bounds.greatest.z());
        const Vector3 seen = view.eye.local(p);
        wide = std::max(wide, 2 * std::abs(seen.x()));
        high = std::max(high, 2 * std::abs(seen.y()));
    }
    view.px_per_mm = 0.88 * std::min(view.width / wide, view.height / high);
    return view;
}

View shifted(View view, double x_px, double y_px) {
    view.eye.origin += (-x_px * view.eye.x + y_px * view.eye.y()) / view.px_per_mm;
    return view;
}

namespace {

/// From a hall in a picture to a micrometre a pixel: beyond, numbers of pixels would lose their meaning.
constexpr double least_px_per_mm = 1e-3, most_px_per_mm = 1e3;

}

View zoomed(View view, double factor, double x_px, double y_px) {
    const double dx = x_px - view.width / 2.0, dy = y_px - view.height / 2.0;
    view = shifted(view, -dx, -dy);
    view.px_per_mm = std::clamp(view.px_per_mm * factor, least_px_per_mm, most_px_per_mm);
    return shifted(view, dx, dy);
}

std::optional<Vector3> Picture::point(const View& view, int x, int y) const {
    if (x < 0 || y < 0 || x >= width || y >= height) return std::nullopt;
    const float z =
        depth[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)];
    if (z == nothing) return std::nullopt;
    return view.eye.point(
        {(x + 0.5 - width / 2.0) / view.px_per_mm, (height / 2.0 - y - 0.5) / view.px_per_mm, z});
}

Picture picture_of(const View& view, const std::vector<Shown>& all, std::uint32_t ink) {
    return Painter(view, ink).paint(all);
}

}
