#pragma once
#include "background/job.hpp"
#include "presenter/pointing.hpp"
#include <QWidget>
#include <memory>

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace kollema::desktop {

class ValueEdit;

/// How the seats that were pointed at, in order from the head side, can be joined: what it must do, the kinds
/// that do it with a small section and what would come of each, and the one that is taken.
class JoinPanel : public QWidget {
    Q_OBJECT
public:
    JoinPanel();

    void show_results(std::shared_ptr<const Results> results, std::shared_ptr<geometry::PartSolids> solids,
                      LengthUnit unit);
    void restyle(); ///< the theme is another one
    /// A seat more; another one of a part takes the earlier one's place.
    void take_seat(const joint::PointedSeat& seat);

signals:
    void joint_wished(const Joint& joint);

private:
    void fill_seats();
    void show_place();
    void read_place();
    void fill_offers();
    void draw_offers();
    void say_offer(int row);
    void join();

    std::shared_ptr<const Results> results_;
    std::shared_ptr<geometry::PartSolids> solids_;
    LengthUnit unit_ = LengthUnit::mm;
    QListWidget *seats_, *kinds_;
    ValueEdit *at_, *places_, *name_;
    QComboBox* duty_;
    QLabel* would_be_;
    QPushButton *join_, *forget_;
    std::vector<joint::PointedSeat> taken_;
    std::vector<JoinOffer> offers_;
    Job draw_;
};

}
