#pragma once
#include "geometry/mesh.hpp"
#include <optional>

/// Pictures of meshes drawn in software: no graphics card, the same on every machine, and every pixel knows
/// what it shows.
namespace kollema::geometry {

/// How the viewer looks: without perspective, so that lengths along the screen can be compared.
struct View {
    Frame eye; ///< x to the right, y upward, z towards the viewer; its origin is in the middle of the picture
    double px_per_mm = 1;
    int width = 0, height = 0;
    std::optional<Frame> cut = {}; ///< what stands on the side of its z is taken away
};

enum class Side { front, back, left, right, top, bottom, slanted };
/// The eye before that side of the assembly; z is up but from above and below.
Frame eye_at(Side side);
/// The eye carried round its own middle: what is seen turns with the hand.
Frame turned(const Frame& eye, double right_rad, double up_rad);
/// All of it in the picture, with some air round it.
View fitted(View view, const shape::Bounds& bounds);
/// The picture moved by so many pixels, right and down.
View shifted(View view, double x_px, double y_px);
/// Larger by a factor; the pixel keeps what it shows.
View zoomed(View view, double factor, double x_px, double y_px);

/// A plane through the middle, square to an axis (0, 1, 2), that takes away the side towards the viewer.
Frame cut_across(int axis, const Frame& eye, const shape::Bounds& bounds);

enum class Look { solid, ghost, lit };

struct Shown {
    const Mesh* mesh = nullptr;
    Frame placed;
    std::uint32_t rgb = 0xC0C0C0;
    Look look = Look::solid;
};

struct Picture {
    int width = 0, height = 0;
    std::vector<std::uint32_t> argb; ///< row by row from the top; transparent where nothing is
    std::vector<float> depth;        ///< along the view's z in mm; -infinity where nothing is
    std::vector<int> shown;          ///< index of what a pixel shows; -1: nothing
    std::vector<bool> is_cut;        ///< the pixel shows a cut face
    /// The point in space that a pixel shows; empty where nothing is.
    std::optional<Vector3> point(const View& view, int x, int y) const;
};
/// `ink` is the colour of the edges.  Cut faces are hatched.
Picture picture_of(const View& view, const std::vector<Shown>& all, std::uint32_t ink);

}
