#include "shape/bounds.hpp"
#include <algorithm>
#include <boost/geometry/geometries/box.hpp>
#include <boost/geometry/geometries/point.hpp>
#include <boost/geometry/index/rtree.hpp>

namespace kollema::shape {

std::vector<std::pair<std::size_t, std::size_t>> meeting_pairs(const std::vector<Bounds>& boxes,
                                                               double within_mm) {
    namespace geometry = boost::geometry;
    using Point = geometry::model::point<double, 3, geometry::cs::cartesian>;
    using Box = geometry::model::box<Point>;
    const auto box = [](const Bounds& b, double wider) {
        const auto corner = [](const Vector3& at) { return Point(at.x(), at.y(), at.z()); };
        return Box(corner(b.least.array() - wider), corner(b.greatest.array() + wider));
    };
    std::vector<std::pair<Box, std::size_t>> all;
    all.reserve(boxes.size());
    for (std::size_t i = 0; i < boxes.size(); ++i)
        all.emplace_back(box(boxes[i], 0), i);
    const geometry::index::rtree<std::pair<Box, std::size_t>, geometry::index::quadratic<16>> tree(all);
    std::vector<std::pair<std::size_t, std::size_t>> pairs;
    for (std::size_t i = 0; i < boxes.size(); ++i)
        for (auto met = tree.qbegin(geometry::index::intersects(box(boxes[i], within_mm)));
             met != tree.qend(); ++met)
            if (met->second > i) pairs.emplace_back(i, met->second);
    std::ranges::sort(pairs);
    return pairs;
}

}
