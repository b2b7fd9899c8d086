#include "geometry/mesh.hpp"
#include "geometry/edges.hpp"
#include "geometry/kernel.hpp"
#include <BRepAdaptor_Curve.hxx>
#include <BRepGProp_Face.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_TangentialDeflection.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>

namespace kollema::geometry {
namespace {

constexpr double mesh_within_mm = 0.05, within_rad = 0.35;

void add_face(const TopoDS_Face& face, Mesh& mesh) {
    TopLoc_Location location;
    const Handle(Poly_Triangulation) triangles = BRep_Tool::Triangulation(face, location);
    if (triangles.IsNull()) return;
    const BRepGProp_Face surface(face);
    const gp_Trsf placed = location.Transformation();
    const bool reversed = face.Orientation() == TopAbs_REVERSED;
    const auto first = static_cast<std::uint32_t>(mesh.points.size());
    for (int i = 1; i <= triangles->NbNodes(); ++i) {
        mesh.points.push_back(vector(triangles->Node(i).Transformed(placed)));
        mesh.bounds.take(mesh.points.back());
        gp_Pnt there;
        gp_Vec normal; // outward; where the surface has none, as at the tip of a cone, it is told by the
                       // triangles
        surface.Normal(triangles->UVNode(i).X(), triangles->UVNode(i).Y(), there, normal);
        const Vector3 n(normal.X(), normal.Y(), normal.Z());
        mesh.normals.push_back(n.norm() > 1e-12 ? Vector3(n.normalized()) : Vector3(Vector3::UnitZ()));
    }
    for (int i = 1; i <= triangles->NbTriangles(); ++i) {
        int a = 0, b = 0, c = 0;
        triangles->Triangle(i).Get(a, b, c);
        if (reversed) std::swap(b, c);
        const auto index = [&](int node) { return first + static_cast<std::uint32_t>(node - 1); };
        mesh.triangles.push_back({index(a), index(b), index(c)});
    }
}

}

Mesh mesh_of(const Solid& solid) {
    Mesh mesh;
    if (solid.is_empty()) return mesh;
    // The triangles are kept within the kernel's shape: a copy of it, so that others may read the solid
    // meanwhile.
    try {
        const TopoDS_Shape shape = copy_of(solid.shape());
        const BRepMesh_IncrementalMesh made(shape, mesh_within_mm, false, within_rad);
        for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next())
            add_face(TopoDS::Face(faces.Current()), mesh);
        for (const auto& edge : drawn_edges(shape)) {
            const BRepAdaptor_Curve curve(edge);
            const GCPnts_TangentialDeflection points(curve, within_rad, mesh_within_mm);
            auto& line = mesh.edges.emplace_back();
            for (int i = 1; i <= points.NbPoints(); ++i)
                line.push_back(vector(points.Value(i)));
        }
    } catch (const Standard_Failure&) {
        return {}; // nothing of it is shown
    }
    return mesh;
}

}
