#pragma once
#include "geometry/part_solids.hpp"
#include "new_items.hpp"
#include "shape/cut_shapes.hpp"
#include <QDialog>

class QFormLayout;
class QLabel;
class QLineEdit;
class QListWidget;

namespace kollema::desktop {

/// A face or a cylinder, into which something can be cut, or a cut that a person made.
bool can_be_cut(const Part& part, const FeatureId& feature);

/// Cuts a hole, slot, groove, keyway, flat or thread into a face or a cylinder; sizes and place are typed
/// beside a picture of the part that follows them.  Of a person's own cut its sizes and its place.
class CutDialog : public QDialog {
    Q_OBJECT
public:
    /// Precondition: can_be_cut().
    CutDialog(QWidget* parent, const Project& project, const Part& part, const FeatureId& feature,
              LengthUnit unit, geometry::PartSolids& solids, TakeProject take);

private:
    void choose(int cut);
    void fill_fields();
    Result<Project> made();
    void draw();
    void cut();

    const Project& project_;
    PartId part_;
    FeatureId seat_, existing_; ///< existing: none for a new cut
    Shape seat_shape_;
    LengthUnit unit_;
    geometry::PartSolids& solids_;
    TakeProject take_;
    std::vector<Shape> offered_;
    Shape shape_;
    shape::CutPlace place_;
    QListWidget* cuts_;
    QFormLayout* form_;
    std::vector<std::pair<Parameter, QLineEdit*>> sizes_;
    std::vector<QLineEdit*> places_;
    QLabel *picture_, *refusal_;
};

}
