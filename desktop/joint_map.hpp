#pragma once
#include "model/project.hpp"
#include "presenter/gap_way.hpp"
#include <QLineF>
#include <QWidget>
#include <map>
#include <memory>

namespace kollema::desktop {

/// The assembly as parts (nodes) and joints (links): what holds what, what is wrong, what only clamps.  Of a
/// large one what stands around the chosen joint.  A joint is chosen by mouse or by the arrow keys.
class JointMap : public QWidget {
    Q_OBJECT
public:
    explicit JointMap(QWidget* parent = nullptr);
    void show_project(std::shared_ptr<const Project> project, std::shared_ptr<const Results> results);
    void show_way(std::optional<GapWay> way); ///< of a gap, beneath the joints that carry it
    void choose(const JointId& joint);
    const JointId& chosen() const { return chosen_; }
    QSize minimumSizeHint() const override { return {240, 200}; }

signals:
    void joint_chosen(const JointId& joint);
    void coming_off_wished(const InstanceId& part, bool is_meant); ///< from the menu of a part or of a joint

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    bool event(QEvent* event) override;

private:
    struct Link {
        JointId joint;
        QString text, detail;
        std::vector<std::size_t> nodes;
        bool locates = false;
        std::optional<Severity> worst;
        QPointF place = {}; ///< of its plate, in 0…1
        double lane = 0;    ///< beside other joints of the same parts, in line distances
    };
    struct Node {
        InstanceId instance;
        QString text, material, note, details; ///< note: how it stands
        bool grounded = false, loose = false;
        int layer = 0;
        QPointF place = {};
    };
    std::vector<std::size_t> joints_to_show() const;
    void look_around();
    void add_node(const Instance& instance);
    void add_link(const Joint& joint);
    std::vector<double> heights_of_layers(int top) const;
    void arrange();
    double foot() const;
    QRectF node_box(const Node& node) const;
    QRectF link_box(const Link& link) const;
    QString details_of(const Link& link) const;
    void step(int by);
    /// From a link's plate to each of its parts.
    std::vector<std::pair<std::size_t, QLineF>> lines_of(const Link& link) const;
    void paint_way(class QPainter& painter) const;
    void paint_link(QPainter& painter, const Link& link) const;
    void paint_plate(QPainter& painter, const Link& link) const;
    void paint_node(QPainter& painter, const Node& node) const;

    std::shared_ptr<const Project> project_ = std::make_shared<const Project>();
    std::shared_ptr<const Results> results_;
    std::map<JointId, Severity> worst_;
    std::optional<GapWay> way_;
    std::vector<Node> nodes_;
    std::vector<Link> links_;
    std::size_t left_out_ = 0; ///< joints that are not shown
    JointId chosen_;
};

}
