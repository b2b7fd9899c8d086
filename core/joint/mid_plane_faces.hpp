#pragma once
#include "joint/members.hpp"

namespace kollema::joint {

/// Of a member that is held by a mid-plane: the nearest two faces that are alike on both sides of it.
void take_nearest_faces(MemberView& view);

/// Where one of two members is a gap and the other stands in it: the two pairs of faces that meet, of several
/// the closest in width, and where they can touch.  What only goes through the faces, as a pin does, does not
/// stand between them.
void face_each_other(MemberView& a, MemberView& b);

}
