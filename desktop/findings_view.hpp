#pragma once
#include "check/finding.hpp"
#include <QWidget>

class QLabel;
class QListView;
class QScrollArea;

namespace kollema::desktop {

class FindingsModel;

/// Findings as a conversation: a list of what was found; of the chosen one why, and fixes that can be looked
/// at before they are made.
class FindingsView : public QWidget {
    Q_OBJECT
public:
    explicit FindingsView(QWidget* parent = nullptr);
    void show_findings(const std::shared_ptr<const check::Findings>& findings, bool anything_to_check,
                       LengthUnit unit);
    /// What a previewed fix would change; shown in the card that asked.
    void show_preview(const QStringList& changes);
    void set_outdated(bool outdated);

signals:
    void joint_asked(const JointId& joint);
    void preview_asked(const check::Fix& fix);
    void apply_asked(const check::Fix& fix);

private:
    void show_chosen();
    QWidget* make_card(const check::Finding& finding);
    QWidget* make_fix(const check::Fix& fix, QWidget* card);

    LengthUnit unit_ = LengthUnit::mm;
    QLabel *heading_, *none_;
    FindingsModel* model_;
    QListView* list_;
    QScrollArea* card_;         ///< of the chosen finding
    QLabel* preview_ = nullptr; ///< of the fix that was asked last
    QString card_shows_;        ///< what the finding in the card tells; empty once that is outdated
    QString count_text_;
};

}
