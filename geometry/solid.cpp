#include "geometry/solid.hpp"
#include "geometry/kernel.hpp"
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <GProp_GProps.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Circ.hxx>

namespace kollema::geometry {
namespace {

/// The outline in the plane of the frame's `right` and `up`.
TopoDS_Wire wire_of(const shape::Outline& outline, const gp_Pnt& origin, const gp_Vec& right,
                    const gp_Vec& up) {
    const auto point = [&](const Vector2& p) { return origin.Translated(right * p.x() + up * p.y()); };
    BRepBuilderAPI_MakeWire wire;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vector2 &from = outline[i].at, &to = outline[(i + 1) % outline.size()].at;
        if ((from - to).norm() < 1e-9) continue;
        if (outline[i].bulge == 0) {
            wire.Add(BRepBuilderAPI_MakeEdge(point(from), point(to)).Edge());
            continue;
        }
        const shape::Arc arc = shape::arc(outline[i], to);
        const double middle = arc.from_rad + arc.sweep_rad / 2;
        const Vector2 between = arc.centre + arc.radius_mm * Vector2(std::cos(middle), std::sin(middle));
        wire.Add(BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(point(from), point(between), point(to)).Value())
                     .Edge());
    }
    return wire.Wire();
}

TopoDS_Shape form(const shape::Prism& prism) {
    const Frame& f = prism.base;
    const TopoDS_Wire wire = wire_of(prism.outline, point(f.origin), vec(f.x), vec(f.y()));
    const TopoDS_Face face = BRepBuilderAPI_MakeFace(gp_Pln(point(f.origin), direction(f.z)), wire).Face();
    return BRepPrimAPI_MakePrism(face, vec(f.z) * prism.length_mm).Shape();
}

TopoDS_Shape form(const shape::Turned& turned) {
    const Frame& f = turned.axis;
    const TopoDS_Wire wire = wire_of(turned.half, point(f.origin), vec(f.x), vec(f.z));
    const TopoDS_Face face =
        BRepBuilderAPI_MakeFace(gp_Pln(point(f.origin), direction(f.x.cross(f.z))), wire).Face();
    return BRepPrimAPI_MakeRevol(face, gp_Ax1(point(f.origin), direction(f.z))).Shape();
}

/// One boolean operation with several tools; a null shape where it fails.
TopoDS_Shape combined(BRepAlgoAPI_BooleanOperation&& operation, const TopoDS_Shape& shape,
                      const TopTools_ListOfShape& tools) {
    TopTools_ListOfShape arguments;
    arguments.Append(shape);
    operation.SetArguments(arguments);
    operation.SetTools(tools);
    operation.SetNonDestructive(true);
    operation.Build();
    return operation.IsDone() && !operation.HasErrors() ? operation.Shape() : TopoDS_Shape();
}

TopoDS_Shape combined(bool cuts, const TopoDS_Shape& shape, const TopTools_ListOfShape& tools) {
    try {
        TopoDS_Shape result =
            cuts ? combined(BRepAlgoAPI_Cut(), shape, tools) : combined(BRepAlgoAPI_Fuse(), shape, tools);
        if (result.IsNull() || cuts) return result;
        ShapeUpgrade_UnifySameDomain unify(result); // seams where two forms make one face
        unify.Build();
        return unify.Shape();
    } catch (const Standard_Failure&) {
        return {};
    }
}

/// Steps that follow each other and do the same, as tools of one operation.
class Builder {
public:
    explicit Builder(const shape::Recipe& recipe) : recipe_(recipe) {}

    Built build() {
        for (std::size_t i = 0; i < recipe_.size(); ++i) {
            const auto made = make(i);
            if (made.IsNull()) continue;
            if (whole_.IsNull()) {
                if (!recipe_[i].cuts) whole_ = made;
                continue;
            }
            if (!waiting_.empty() && recipe_[waiting_.front().step].cuts != recipe_[i].cuts) take_waiting();
            waiting_.push_back({i, made});
        }
        take_waiting();
        if (!whole_.IsNull()) built_.solid = Solid(whole_);
        return std::move(built_);
    }

private:
    struct Tool {
        std::size_t step;
        TopoDS_Shape shape;
    };

    TopoDS_Shape make(std::size_t step) {
        try {
            return std::visit([](const auto& one) { return form(one); }, recipe_[step].form);
        } catch (const Standard_Failure&) {
            built_.missing.push_back(step);
            return {};
        }
    }

    /// All at once; where that fails one by one, and those that fail are told.
    void take_waiting() {
        if (waiting_.empty()) return;
        const bool cuts = recipe_[waiting_.front().step].cuts;
        TopTools_ListOfShape all;
        for (const auto& tool : waiting_)
            all.Append(tool.shape);
        if (const TopoDS_Shape result = combined(cuts, whole_, all); !result.IsNull())
            whole_ = result;
        else
            for (const auto& tool : waiting_) {
                TopTools_ListOfShape one;
                one.Append(tool.shape);
                if (const TopoDS_Shape single = combined(cuts, whole_, one); !single.IsNull())
                    whole_ = single;
                else
                    built_.missing.push_back(tool.step);
            }
        waiting_.clear();
    }

    const shape::Recipe& recipe_;
    TopoDS_Shape whole_;
    std::vector<Tool> waiting_;
    Built built_;
};

}

Solid::Solid(const TopoDS_Shape& shape) : shape_(std::make_shared<const TopoDS_Shape>(shape)) {}

Built solid_of(const shape::Recipe& recipe) { return Builder(recipe).build(); }

Solid placed(const Solid& solid, const Frame& frame) {
    return Solid(solid.shape().Moved(TopLoc_Location(transformation(frame))));
}

double volume_mm3(const Solid& solid) {
    GProp_GProps properties;
    BRepGProp::VolumeProperties(solid.shape(), properties);
    return properties.Mass();
}

Vector3 centre_of_volume(const Solid& solid) {
    GProp_GProps properties;
    BRepGProp::VolumeProperties(solid.shape(), properties);
    return vector(properties.CentreOfMass());
}

bool is_sound(const Solid& solid) { return BRepCheck_Analyzer(solid.shape()).IsValid(); }

double common_volume_mm3(const Solid& a, const Solid& b) {
    TopTools_ListOfShape tool;
    tool.Append(b.shape());
    const TopoDS_Shape common = combined(BRepAlgoAPI_Common(), a.shape(), tool);
    if (common.IsNull()) return 0;
    GProp_GProps properties;
    BRepGProp::VolumeProperties(common, properties);
    return std::abs(properties.Mass());
}

double distance_mm(const Solid& a, const Solid& b) {
    return BRepExtrema_DistShapeShape(a.shape(), b.shape()).Value();
}

}
