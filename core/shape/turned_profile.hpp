#pragma once
#include "shape/body.hpp"

/// Internal to the folder: what all turned bodies share.
namespace kollema::shape {

double length_of(const std::vector<TurnedStep>& steps);
/// The steps about z from z = 0 on, less the bore, which ends with the part.
Recipe turned(const std::vector<TurnedStep>& steps, const std::vector<TurnedStep>& bore);
/// The cylinder of a step, with what it ends in; `inside` for a bore's.
Round round_of(const std::vector<TurnedStep>& steps, std::size_t step, bool inside, double length_mm);
/// What is wrong with them; `title` begins what is said.
std::optional<Failure> defect_of(const std::vector<TurnedStep>& steps, std::string_view title, bool inside);

}
