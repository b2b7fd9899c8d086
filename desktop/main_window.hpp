#pragma once
#include "document.hpp"
#include "new_items.hpp"
#include "quantity/format.hpp"
#include <QMainWindow>
#include <optional>

class QAction;
class QLabel;
class QMenu;
class QButtonGroup;
class QStackedWidget;

namespace kollema::desktop {

class FigureStrip;
class FindingsView;
class FirstSteps;
class AssemblyView;
class FitBench;
class GapView;
class HardwareFinder;
class JointMap;
class SectionView;
class StacksView;

/// The window: joint map, section with its figures, findings, and the required gap; all of them show the
/// document.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    MainWindow();
    ~MainWindow() override;

    bool open_file(const QString& path); ///< false, with a message, when it cannot be read
    void open_demo();
    Document& document() { return document_; }
    enum View { joints_view, assembly_view, stacks_view, bench_view, hardware_view };
    static QStringList view_names(); ///< as the command line says them, in the order of View
    void show_view(View view);
    void refuse(const QString& message); ///< told in the line below the view
    bool is_painted() const; ///< the shown view is, with the results of all rules but those of solids
    bool is_settled() const; ///< and nothing is being computed any more

protected:
    void closeEvent(QCloseEvent* event) override;

private:
    std::optional<Result<Project>> read_file(const QString& path);
    void build_panels();
    void build_actions();
    void build_file_menu();
    void build_edit_menu();
    void build_view_menu();
    void build_bench_menu();
    QAction* add_action(QMenu* menu, const QString& text, const QKeySequence& keys, const QString& words,
                        auto call);
    void connect_panels();
    void connect_bench();
    void connect_stacks();
    void new_chain();
    void new_pattern();
    QWidget* build_joints_view();

    TakeProject take_edits();
    /// What is being typed is said before anything that would lose it; false where it was refused.
    bool commit_typing();
    void add_part();
    void start_joining();

    void show_project();
    void show_results();
    void show_assembly();
    void show_findings();
    void show_joints_menu();
    void show_way(const RequirementId& requirement);
    void show_joint(const JointId& joint);
    void show_section(const JointId& joint);
    void tell(const QStringList& lines);
    void set_unit(LengthUnit unit);
    void set_dark(bool dark);
    void change_figure(const QString& joint, const QString& key, const QString& value);
    void change_tolerance(const PartId& part, const DimensionId& dimension, const QString& text);
    void change_limits(const RequirementId& requirement, const QString& lower, const QString& upper);
    void preview(const check::Fix& fix);
    QList<QAction*> commands() const; ///< those that can be done now
    void find_command();
    void show_working_of_joint();
    void show_working_of_gap();
    void show_working_here();
    void save_picture();

    bool save();
    bool save_as();
    bool save_to(const QString& path);
    bool may_leave();
    void ask_for_file();
    void remember(const QString& path);
    void fill_recent();
    void update_title();

    Document document_;
    LengthUnit unit_ = LengthUnit::mm;
    JointMap* map_;
    std::shared_ptr<geometry::PartSolids> solids_ = document_.solids();
    Job cut_section_, preview_, read_;
    SectionView* section_;
    FirstSteps* first_steps_ = nullptr;
    QStackedWidget* centre_ = nullptr; ///< the section, or what an empty project offers
    FigureStrip* strip_;
    FindingsView* findings_;
    GapView* gap_;
    AssemblyView* assembly_;
    StacksView* stacks_;
    FitBench* bench_;
    HardwareFinder* hardware_;
    QStackedWidget* views_;
    QButtonGroup* view_buttons_;
    QLabel *joint_name_, *joint_holds_, *refusal_, *consequences_;
    QMenu *recent_ = nullptr, *joints_menu_ = nullptr;
    int refusals_ = 0; ///< so far
    QAction *dark_ = nullptr, *inches_ = nullptr;
};

}
