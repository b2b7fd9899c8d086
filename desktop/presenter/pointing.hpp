#pragma once
#include "assembly/mass.hpp"
#include "geometry/scene.hpp"
#include "joint/pointing.hpp"
#include "presenter/results.hpp"
#include <QStringList>

namespace kollema::desktop {

/// What stands under the mouse in the picture of the assembly.
struct Pointed {
    InstanceId instance;
    FeatureId feature;            ///< empty where the part has no feature there
    JointId joint;                ///< of a piece of hardware
    Vector2 at = Vector2::Zero(); ///< on a face, from its middle
    bool is_nothing() const { return instance.text.empty() && joint.text.empty(); }
    bool operator==(const Pointed&) const = default;
};
Pointed pointed_at(const Project& project, const geometry::Scene& scene, const geometry::View& view,
                   const geometry::Picture& picture, int x, int y);

/// "9 parts, 21 pieces of hardware · 3.42 kg, centre of mass at 62, 45, 21", then what could not be made;
/// without a mass that it is being weighed.
QString scene_words(const geometry::Scene& scene, const assembly::Mass* mass, LengthUnit unit);
/// "0.42 kg"; nothing where it is not known.
QString mass_words(const assembly::Mass* mass, const InstanceId& part);
/// "Pin · step 3 · ø20 g6, 40 long", then the joints there.
QStringList words_for(const Project& project, const Pointed& pointed, LengthUnit unit);

/// Joints of the feature that was pointed at, or else of its part.
std::vector<JointId> joints_to_show(const Project& project, const Pointed& pointed);
/// A hand points to half a millimetre, or to a sixty-fourth of an inch.
Vector2 rounded_place(const Vector2& at, LengthUnit unit);

/// A kind that could join the seats, with what would come of it.
struct JoinOffer {
    Joint joint;
    QString title, purpose;
    QString would_be; ///< the hardware and its figures, or why it cannot be
    bool possible = false;
};
/// What joints must do, as a person says it, with the word of the kinds.
struct Duty {
    QString title, word;
};
const std::vector<Duty>& joint_duties();
/// Those kinds that take hold of such seats and do this; those that can be come first.
std::vector<JoinOffer> join_offers(const Project& project, const assembly::Placement& placement,
                                   const std::vector<joint::PointedSeat>& seats,
                                   const std::vector<Vector2>& places, const QString& duty, LengthUnit unit);
/// The section that a joint would have, of its members alone; nothing where it cannot be made.
std::optional<drawing::Section> section_of_offer(const Project& project, const Joint& joint,
                                                 const drawing::Cutter& cutter);

/// "10, -24; 10, 24" as points, and back.
Result<std::vector<Vector2>> parse_places(const QString& text, LengthUnit unit);
QString places_text(const std::vector<Vector2>& places, LengthUnit unit);

/// Lines that show where a face or a cylinder is, in the part.
std::vector<std::vector<Vector3>> outline_of(const Part& part, const Feature& feature);

enum class Colouring { material, finding, freedom };
/// rgb of each instance by what is asked; hardware keeps its own.
std::map<InstanceId, std::uint32_t> colours_of(const Results& results, Colouring by);

}
