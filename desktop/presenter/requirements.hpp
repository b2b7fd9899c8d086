#pragma once
#include "model/project.hpp"
#include "quantity/format.hpp"
#include <QString>
#include <array>

/// The choices of a requirement as its panel shows them.
namespace kollema::desktop {

inline constexpr std::array all_restings{Resting::chance, Resting::centred, Resting::to_wider,
                                         Resting::to_closer};
QString words(Resting resting);
QString meaning(Resting resting);

inline constexpr std::array all_deciders{DecidedBy::automatic, DecidedBy::worst_case, DecidedBy::statistics};
QString words(DecidedBy decider);

/// "12.5 ; 0", or empty where it is asked at the ends of the faces.
QString point_text(const Requirement& requirement, LengthUnit unit);
/// What a typed point makes of the requirement.  Errors: not two lengths with a semicolon between them.
Result<Requirement> with_point(Requirement requirement, const QString& text, LengthUnit unit);

}
