#pragma once
#include "background/job.hpp"
#include "presenter/chains.hpp"
#include "presenter/patterns.hpp"
#include <QWidget>
#include <map>
#include <memory>
#include <variant>

class QComboBox;
class QListWidget;
class QPushButton;
class QStackedWidget;

namespace kollema::desktop {

class ChainAnswer;
class ChainPicture;
class ChainTable;
class FormulaPicture;
class LinesEdit;
class PatternSheet;
class ValueEdit;

/// Every chain, requirement and hole pattern at a glance; the chosen chain to scale, as a table, with all
/// that follows from it and the ways out where it is missed.  Typed chains are changed here; those of the
/// assembly are shown, and the holes of its joints.
class StacksView : public QWidget {
    Q_OBJECT
public:
    explicit StacksView(QWidget* parent = nullptr);

    void show_project(std::shared_ptr<const Project> project, const Results* results, LengthUnit unit);
    void choose(const ChainId& chain);
    void choose(const PatternId& pattern);
    bool is_computing() const;
    void restyle();
    void save_page_to(const QString& path); ///< SVG, or text where the name ends in .txt
    void edit_first_empty_cell();           ///< for the keyboard: go on typing; of a pattern the first cell

signals:
    void chain_wished(const QString& what, const TypedChain& chain);
    void new_chain_wished();
    void chain_unwished(const ChainId& chain);
    void pattern_wished(const QString& what, const TypedPattern& pattern);
    void new_pattern_wished();
    void pattern_unwished(const PatternId& pattern);
    void gap_looked_for(const RequirementId& requirement); ///< show it in the assembly
    void joint_looked_for(const JointId& joint);           ///< the same
    void clearance_class_wished(const JointId& joint, const std::string& name);
    void refused(const QString& message);

protected:
    void showEvent(QShowEvent* event) override;

private:
    struct Answer {
        TypedChain of;
        Workshop workshop;
        Result<ShownChain> shown;
    };
    using Answers = std::map<ChainId, std::shared_ptr<const Answer>>;

    QWidget* build_left();
    QWidget* build_middle();
    void connect_answer();
    void connect_fields();
    void compute();
    void show_list();
    void show_chosen();
    void show_typed(const TypedChain& chain);
    void show_results(const ShownChain* shown, const QString& message);
    void show_unit(LengthUnit unit);
    void take_out();
    void take_fields();
    void commit_fields();
    const TypedChain* chain() const;
    const GapResult* gap() const;
    std::optional<stack::Page> shown_page() const;

    std::shared_ptr<const Project> project_ = std::make_shared<const Project>();
    std::vector<std::shared_ptr<const GapResult>> gaps_;
    LengthUnit unit_ = LengthUnit::mm;
    using Chosen = std::variant<std::monostate, ChainId, RequirementId, JointId, PatternId>;
    Chosen chosen_;
    std::vector<Chosen> listed_;  ///< as the list shows them
    std::vector<JointId> joints_; ///< with patterns
    Answers answers_;
    Job compute_;
    bool is_stale_ = false; ///< the answers are of an earlier project, and nobody looks
    QString failure_;       ///< why there are no answers

    QListWidget* list_;
    QPushButton *remove_, *show_joint_;
    ValueEdit *name_, *lower_, *upper_, *yield_wanted_, *measured_on_, *formula_;
    LinesEdit* closing_;
    QComboBox *decided_by_, *chain_unit_;
    ChainPicture* picture_;
    FormulaPicture* formula_picture_;
    ChainTable* table_;
    ChainAnswer* answer_;
    PatternSheet* pattern_sheet_;
    QStackedWidget* sheets_; ///< the chain, or the pattern
};

}
