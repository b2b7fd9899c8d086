#include "geometry/edges.hpp"
#include <BRepBuilderAPI_Copy.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>

namespace kollema::geometry {
namespace {

bool is_seam(const TopoDS_Edge& edge, const TopTools_ListOfShape& faces) {
    for (const auto& face : faces)
        if (BRep_Tool::IsClosed(edge, TopoDS::Face(face))) return true;
    return false;
}

}

std::vector<TopoDS_Edge> drawn_edges(const TopoDS_Shape& shape) {
    std::vector<TopoDS_Edge> all;
    TopTools_IndexedDataMapOfShapeListOfShape edges;
    TopExp::MapShapesAndAncestors(shape, TopAbs_EDGE, TopAbs_FACE, edges);
    for (int i = 1; i <= edges.Extent(); ++i) {
        const TopoDS_Edge& edge = TopoDS::Edge(edges.FindKey(i));
        if (!BRep_Tool::Degenerated(edge) && !is_seam(edge, edges(i))) all.push_back(edge);
    }
    return all;
}

TopoDS_Shape copy_of(const TopoDS_Shape& shape) { return BRepBuilderAPI_Copy(shape, false, false).Shape(); }

}
