#pragma once
#include "assembly_picture.hpp"
#include <QWidget>

class QComboBox;
class QLayout;
class QLabel;
class QListWidget;

namespace kollema::desktop {

class JoinPanel;

/// The parts in space, and beside them: what is pointed at, what can be done with its part, and how the seats
/// that were pointed at can be joined.
class AssemblyView : public QWidget {
    Q_OBJECT
public:
    AssemblyView();

    void show_results(std::shared_ptr<const Results> results, std::shared_ptr<geometry::PartSolids> solids,
                      LengthUnit unit);
    void choose_joint(const JointId& joint);
    void restyle();
    AssemblyPicture& picture() { return *picture_; }
    void focus_features(); ///< the keyboard's way to point

signals:
    void joint_chosen(const JointId& joint);
    void joint_wished(const Joint& joint);
    void sizes_wished(const InstanceId& part);
    /// A shape to be cut into a face or a cylinder, or one of a person's own to be changed.
    void cut_wished(const InstanceId& part, const FeatureId& feature);
    void uncut_wished(const InstanceId& part, const FeatureId& feature);

private:
    QWidget* build_tools();
    QWidget* build_side();
    QLayout* build_part_buttons();
    InstanceId part() const;
    FeatureId feature() const; ///< chosen in the list
    void point_at(const Pointed& pointed);
    void say(const Pointed& pointed);
    void tell_scene();
    void take(const Pointed& pointed);
    void take_seat(const InstanceId& part, const FeatureId& feature, const Vector2& at);
    void fill_parts();
    void fill_features();

    std::shared_ptr<const Results> results_;
    LengthUnit unit_ = LengthUnit::mm;
    Pointed said_; ///< what the words are of
    AssemblyPicture* picture_;
    QLabel *pointed_, *state_;
    QComboBox* part_;
    QListWidget* features_;
    JoinPanel* join_;
};

}
