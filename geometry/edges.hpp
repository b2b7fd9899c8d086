#pragma once
#include <TopoDS_Edge.hxx>
#include <TopoDS_Shape.hxx>
#include <vector>

/// Internal to the folder.
namespace kollema::geometry {

/// The edges that a drawing shows: no seams of round faces, no points.
std::vector<TopoDS_Edge> drawn_edges(const TopoDS_Shape& shape);

/// A shape that shares nothing that computing on it may change.
TopoDS_Shape copy_of(const TopoDS_Shape& shape);

}
