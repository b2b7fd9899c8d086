#include "geometry/cut.hpp"
#include "geometry/edges.hpp"
#include "geometry/kernel.hpp"
#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <Bnd_Box.hxx>
#include <GCPnts_QuasiUniformDeflection.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>
#include <array>
#include <cmath>

namespace kollema::geometry {
namespace {

constexpr double within_mm = 0.01;

Polygon polygon_of(const TopoDS_Wire& wire, const Frame& plane) {
    Polygon polygon;
    const auto take = [&](const gp_Pnt& p) {
        const Vector3 local = plane.local(vector(p));
        polygon.push_back({local.x(), local.y()});
    };
    for (BRepTools_WireExplorer edges(wire); edges.More(); edges.Next()) {
        const BRepAdaptor_Curve curve(edges.Current());
        const bool reversed = edges.Current().Orientation() == TopAbs_REVERSED;
        if (curve.GetType() == GeomAbs_Line) {
            take(curve.Value(reversed ? curve.LastParameter() : curve.FirstParameter()));
            continue;
        }
        const GCPnts_QuasiUniformDeflection points(curve, within_mm);
        for (int i = 1; i < points.NbPoints(); ++i) // the last one is the next edge's first
            take(points.Value(reversed ? points.NbPoints() + 1 - i : i));
    }
    return polygon;
}

drawing::CutFace face_of(const TopoDS_Face& face, const Frame& plane) {
    const TopoDS_Wire outer = BRepTools::OuterWire(face);
    drawing::CutFace found{polygon_of(outer, plane)};
    for (TopExp_Explorer wires(face, TopAbs_WIRE); wires.More(); wires.Next())
        if (!wires.Current().IsSame(outer)) found.push_back(polygon_of(TopoDS::Wire(wires.Current()), plane));
    return found;
}

/// Whether a plane face of the solid lies in the plane.
bool lies_on_a_face(const TopoDS_Shape& solid, const gp_Pln& plane) {
    for (TopExp_Explorer faces(solid, TopAbs_FACE); faces.More(); faces.Next()) {
        const BRepAdaptor_Surface surface(TopoDS::Face(faces.Current()), false);
        if (surface.GetType() != GeomAbs_Plane) continue;
        const gp_Pln own = surface.Plane();
        if (own.Axis().Direction().IsParallel(plane.Axis().Direction(), 1e-9) &&
            plane.Distance(own.Location()) < 1e-7)
            return true;
    }
    return false;
}

}

std::vector<drawing::CutFace> cut(const Solid& solid, const Frame& plane) {
    std::vector<drawing::CutFace> found;
    if (solid.is_empty()) return found;
    Bnd_Box box;
    BRepBndLib::Add(solid.shape(), box);
    gp_Pln cutting(axes(plane));
    if (box.IsOut(cutting)) return found;
    constexpr double behind_mm = 1e-5;
    if (lies_on_a_face(solid.shape(), cutting)) cutting.Translate(vec(plane.z) * -behind_mm);
    // As large as the solid as it is seen from the plane's origin.
    const gp_Pnt middle(0.5 * (box.CornerMin().XYZ() + box.CornerMax().XYZ()));
    const double reach =
        box.CornerMin().Distance(box.CornerMax()) / 2 + middle.Distance(cutting.Location()) + 1;
    try {
        TopTools_ListOfShape arguments, tools;
        arguments.Append(solid.shape());
        tools.Append(BRepBuilderAPI_MakeFace(cutting, -reach, reach, -reach, reach).Face());
        BRepAlgoAPI_Common common;
        common.SetArguments(arguments);
        common.SetTools(tools);
        common.SetNonDestructive(true);
        common.Build();
        if (!common.IsDone() || common.HasErrors()) return found;
        for (TopExp_Explorer faces(common.Shape(), TopAbs_FACE); faces.More(); faces.Next())
            found.push_back(face_of(TopoDS::Face(faces.Current()), plane));
    } catch (const Standard_Failure&) {
        return {};
    }
    return found;
}

namespace {

/// Whether nothing of the material stands between a point of its surface and the plane before it.
bool is_seen(const shape::Recipe& recipe, const Vector3& point, const Frame& plane) {
    const double behind = -plane.local(point).z();
    constexpr double surface_mm = 1e-3;
    for (const double share : {0.5, 0.2, 0.8}) // mostly material is everywhere between
        if (behind > 10 * surface_mm && shape::contains(recipe, point + share * behind * plane.z))
            return false;
    for (const auto& s : shape::stretches(recipe, point, plane.z))
        if (s.to_mm > surface_mm && s.from_mm < behind - surface_mm &&
            std::min(s.to_mm, behind) - std::max(s.from_mm, 0.0) > surface_mm)
            return false;
    return true;
}

constexpr int parts_of_an_edge = 24;
/// Ends of the parts of an edge and their middles, by turns.
using EdgePoints = std::array<Vector3, 2 * parts_of_an_edge + 1>;

EdgePoints points_of(const TopoDS_Edge& edge) {
    const BRepAdaptor_Curve curve(edge);
    const double from = curve.FirstParameter(), to = curve.LastParameter();
    EdgePoints points;
    for (std::size_t i = 0; i < points.size(); ++i)
        points[i] =
            vector(curve.Value(from + (to - from) * static_cast<double>(i) / (2.0 * parts_of_an_edge)));
    return points;
}

/// The steps that lines square to the plane, from a box as the plane sees it, may meet before they reach it.
shape::Recipe before(const shape::Recipe& recipe, const std::vector<shape::Bounds>& seen,
                     const shape::Bounds& box) {
    constexpr double spare_mm = 0.01;
    shape::Recipe met;
    for (std::size_t i = 0; i < recipe.size(); ++i)
        if (seen[i].greatest.z() >= box.least.z() - spare_mm && seen[i].least.z() <= spare_mm &&
            seen[i].least.x() <= box.greatest.x() + spare_mm &&
            box.least.x() <= seen[i].greatest.x() + spare_mm &&
            seen[i].least.y() <= box.greatest.y() + spare_mm &&
            box.least.y() <= seen[i].greatest.y() + spare_mm)
            met.push_back(recipe[i]);
    return met;
}

}

std::vector<Line> edges_behind(const Solid& solid, const shape::Recipe& recipe, const Frame& plane,
                               const drawing::Strip& strip) {
    std::vector<Line> lines;
    if (solid.is_empty()) return lines;
    std::vector<shape::Bounds> seen;
    for (const auto& step : recipe)
        seen.push_back(shape::bounds(step, plane));
    constexpr double behind_mm = 1e-6;
    for (const auto& edge : drawn_edges(solid.shape())) {
        const EdgePoints points = points_of(edge);
        shape::Bounds box;
        for (const auto& p : points)
            box.take(plane.local(p));
        if (box.least.z() > -behind_mm || box.greatest.x() < strip.left || box.least.x() > strip.right)
            continue;
        const shape::Recipe met = before(recipe, seen, box);
        Polygon run;
        const auto finish = [&] {
            if (run.size() > 1) lines.push_back({LineKind::thin, run});
            run.clear();
        };
        for (std::size_t p = 0; p < parts_of_an_edge; ++p) {
            const Vector3 begin = plane.local(points[2 * p]), end = plane.local(points[2 * p + 2]);
            const Vector3& middle = points[2 * p + 1];
            if (plane.local(middle).z() > -behind_mm || !is_seen(met, middle, plane)) {
                finish();
                continue;
            }
            if (run.empty()) run.push_back({begin.x(), begin.y()});
            run.push_back({end.x(), end.y()});
        }
        finish();
    }
    return lines;
}

double area_mm2(const std::vector<drawing::CutFace>& faces) {
    double area = 0;
    for (const auto& face : faces)
        for (std::size_t i = 0; i < face.size(); ++i) {
            double twice = 0;
            for (std::size_t p = 0; p < face[i].size(); ++p) {
                const Point &a = face[i][p], &b = face[i][(p + 1) % face[i].size()];
                twice += a.x * b.y - a.y * b.x;
            }
            area += (i == 0 ? 1 : -1) * std::abs(twice) / 2;
        }
    return area;
}

}
