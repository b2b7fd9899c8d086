#pragma once
#include "geometry/part_solids.hpp"
#include "new_items.hpp"
#include <QDialog>

class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QListWidget;

namespace kollema::desktop {

class SizesPicture;

/// A new part from a gallery of drawn shapes: its lengths are typed at their places in a picture that follows
/// them, zones and the like beside it.  Of a part that exists its sizes alone.
class PartGallery : public QDialog {
    Q_OBJECT
public:
    PartGallery(QWidget* parent, const Project& project, LengthUnit unit, geometry::PartSolids& solids,
                TakeProject take, const Part* existing = nullptr);

private:
    void choose(int shape);
    void fill_sizes();
    void change_rows(const std::string& rows, bool more);
    /// Takes what stands in the fields into the body; empty, or why not.
    QString read_sizes();
    void draw();
    void follow(); ///< the picture follows what was typed, where it can be
    void add();
    void refuse(const QString& why);

    const Project& project_;
    LengthUnit unit_;
    geometry::PartSolids& solids_;
    TakeProject take_;
    PartId existing_; ///< empty: a new part
    Body body_;
    QListWidget* shapes_;
    QLineEdit* name_;
    QComboBox *material_, *process_;
    QFormLayout* sizes_;
    std::vector<std::pair<Parameter, QLineEdit*>> fields_; ///< of all sizes
    SizesPicture* picture_;
    QLabel *purpose_, *refusal_;
};

}
