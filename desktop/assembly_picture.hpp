#pragma once
#include "assembly/mass.hpp"
#include "background/job.hpp"
#include "presenter/pointing.hpp"
#include <QImage>
#include <QTimer>
#include <QWidget>
#include <map>
#include <memory>

namespace kollema::desktop {

/// The assembly in space, drawn in software: turned, shifted, zoomed and cut by mouse and keys; says what
/// stands under the mouse.  Solids are built off the window's thread.
class AssemblyPicture : public QWidget {
    Q_OBJECT
public:
    AssemblyPicture();

    void show_assembly(std::shared_ptr<const Results> results, std::shared_ptr<geometry::PartSolids> solids);
    void choose(const InstanceId& part, const JointId& joint);   ///< lights up
    void mark(const InstanceId& part, const FeatureId& feature); ///< as if pointed at
    void look_from(geometry::Side side);
    void fit();
    void colour_by(Colouring colouring);
    void set_cut(int axis); ///< 0 none, 1 across x, 2 across y, 3 across z
    void set_names(bool shown);
    /// How a part is shown: whole, as a ghost that can be looked through, or not at all.
    enum class Presence { whole, ghost, hidden };
    void set_presence(const InstanceId& part, Presence presence);
    Presence presence(const InstanceId& part) const;
    void show_all_parts();
    void restyle() { changed(); } ///< the theme is another one
    const geometry::Scene* scene() const { return scene_.get(); }
    const assembly::Mass* mass() const { return weigh_.is_running() ? nullptr : mass_.get(); }
    bool is_building() const { return build_.is_running(); }
    bool is_weighing() const { return weigh_.is_running(); }
    /// Where a point of the assembly is drawn.
    QPointF on_screen(const Vector3& point) const;

signals:
    void pointed(const Pointed& at);
    void taken(const Pointed& at);            ///< clicked
    void scene_shown(const QString& message); ///< how far it is; empty when it is there
    void weighed();                           ///< the mass is there

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void take(std::shared_ptr<const geometry::Scene> scene);
    void weigh();
    void changed();
    void draw();
    std::vector<QPointF> seen_middles() const;
    void draw_names(QPainter& painter) const;
    void draw_mark(QPainter& painter) const;
    void draw_axes(QPainter& painter) const;
    void move_cut(double by_mm);
    Pointed at(const QPointF& place);

    std::shared_ptr<const Results> results_;
    std::shared_ptr<const geometry::Scene> scene_;
    std::shared_ptr<const assembly::Mass> mass_; ///< of the last results that were weighed
    Job build_, weigh_{nullptr, Job::Haste::later};
    QTimer tell_;
    std::map<InstanceId, std::uint32_t> colours_;
    geometry::View view_;
    geometry::Picture picture_;
    QImage image_;
    bool dirty_ = true, fitted_ = false, moving_ = false, names_ = false;
    double share_ = 1; ///< of the widget's pixels, while it moves
    Colouring colouring_ = Colouring::material;
    int cut_axis_ = 0;
    std::map<InstanceId, Presence> presences_; ///< of those that are not whole
    InstanceId part_;
    JointId joint_;
    Pointed pointed_;
    QPointF pressed_, last_;
};

}
