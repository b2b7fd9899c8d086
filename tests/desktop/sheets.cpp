// Contact sheets to look at: every body in space, every kind of joint in section.  Hidden; KOLLEMA_PICTURES
// says where they go.
#include "driver.hpp"
#include "edit/edits.hpp"
#include "geometry/part_solids.hpp"
#include "presenter/pointing.hpp"
#include "section_view.hpp"
#include "sizes_picture.hpp"
#include <QDir>
#include <QPainter>

using namespace kollema;
using namespace kollema::test;

namespace {

constexpr QSize cell(310, 240);
constexpr int columns = 4;

class Sheet {
public:
    explicit Sheet(int count)
        : image_(columns * cell.width(), (count + columns - 1) / columns * cell.height(),
                 QImage::Format_RGB32) {
        image_.fill(Qt::white);
    }
    void add(const QString& title, const QPixmap& picture) {
        QPainter painter(&image_);
        const QPoint at(count_ % columns * cell.width(), count_ / columns * cell.height());
        painter.drawPixmap(at + QPoint(5, 18), picture);
        painter.setPen(Qt::black);
        painter.drawText(at + QPoint(8, 13), title);
        ++count_;
    }
    void save(const char* name) {
        REQUIRE(image_.save(QDir(qEnvironmentVariable("KOLLEMA_PICTURES", ".")).filePath(name)));
    }

private:
    QImage image_;
    int count_ = 0;
};

Project must(Result<Project> p) {
    if (!p) FAIL(in_one_line(p.error()));
    return *p;
}

/// Parts of which some two suit every kind.
Project bench_of_parts() {
    Project p = must(edit::add_part({}, "Plate", Block{120, 90, 18}, "s235", "milled"));
    p = must(edit::add_part(p, "Block", Block{60, 60, 24}, "aluminium", "milled"));
    p = must(edit::add_part(p, "Shaft", shape::TurnedPart{.steps = {{40, 10}, {20, 46, "h6", 1, 0.6}}}, "c45",
                            "turned"));
    p = must(edit::add_part(
        p, "Wheel", shape::Disc{.diameter_mm = 80, .thickness_mm = 24, .bore_mm = 20, .bore_zone = "H7"},
        "c45", "turned"));
    p = must(edit::add_part(
        p, "Housing", shape::Disc{.diameter_mm = 80, .thickness_mm = 14, .bore_mm = 47, .bore_zone = "H7"},
        "aluminium", "turned"));
    p = must(edit::add_part(p, "Flange", shape::TurnedPart{.steps = {{80, 10}, {50, 4, "h6", 0.5}}}, "c45",
                            "turned"));
    p = must(edit::add_part(p, "Tongue", Block{40, 19, 30}, "aluminium", "milled"));
    for (const auto* sheet : {"Upper sheet", "Lower sheet"})
        p = must(edit::add_part(p, sheet, Block{40, 30, 2}, "aluminium", "milled"));
    return must(edit::add_part(p, "Fork", shape::Fork{}, "c45", "milled"));
}

std::vector<joint::PointedSeat> seats_for(const kind::AnyKind& kind) {
    using kind::Seat;
    const auto has = [&](std::vector<Seat> seats) { return kind::fits(kind, seats); };
    const std::string key(kind::info(kind).key);
    if (key == "ball_bearing") return {{{"housing"}, {"bore"}}, {{"shaft"}, {"step-2"}}};
    if (key == "retaining_ring") return {{{"shaft"}, {"step-2"}}, {{"wheel"}, {"front"}}};
    if (key == "register") return {{{"plate"}, {"top"}}, {{"flange"}, {"step-2"}}};
    if (key == "solid_rivet") return {{{"upper-sheet"}, {"top"}}, {{"lower-sheet"}, {"top"}}};
    if (has({Seat::middle, Seat::middle})) return {{{"fork"}, {"middle"}}, {{"tongue"}, {"mid-width"}}};
    if (has({Seat::bore, Seat::shaft})) return {{{"wheel"}, {"bore"}}, {{"shaft"}, {"step-2"}}};
    if (kind::info(kind).faces_meet) return {{{"plate"}, {"top"}}, {{"block"}, {"bottom"}}};
    return {{{"block"}, {"top"}}, {{"plate"}, {"top"}}};
}

}

TEST_CASE("sheet of all bodies and all kinds", "[.sheets]") {
    geometry::PartSolids solids;
    Sheet bodies(static_cast<int>(shape::all_bodies().size()));
    for (const auto& body : shape::all_bodies())
        bodies.add(desktop::qt(shape::info(body).title),
                   desktop::picture_of_recipe(shape::recipe(body), solids, cell - QSize(10, 24)));
    bodies.save("bodies.png");
    const Project p = bench_of_parts();
    Sheet kinds(static_cast<int>(kind::all_kinds().size()));
    for (const auto& kind : kind::all_kinds()) {
        const Joint joint = joint::joint_between(p, {}, kind, seats_for(kind), "Offer");
        const auto section = desktop::section_of_offer(p, joint, solids.cutter());
        CAPTURE(std::string(kind::info(kind).key));
        CHECK(section);
        kinds.add(desktop::qt(kind::info(kind).title),
                  section ? desktop::small_section(*section, cell - QSize(10, 24)) : QPixmap());
    }
    kinds.save("kinds.png");
}
