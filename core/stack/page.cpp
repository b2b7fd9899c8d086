#include "stack/page.hpp"
#include "quantity/format.hpp"
#include "quantity/printable.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <sstream>

namespace kollema::stack {
namespace {

// Upright A4 in points of 1/96 in.
constexpr double page_width = 794, page_height = 1123, margin = 56, right = page_width - margin;
/// A page holds so many rows; the largest stand there, the rest is counted.
constexpr std::size_t most_rows = 16;
constexpr const char *ink = "#1d2a2f", *faint = "#5d6a6c", *good = "#2c6b3f", *bad = "#a3261f",
                     *line_colour = "#c9c4b6";

std::string figure(double value) { return plain(std::abs(value) < 1e-12 ? 0 : value, 6); }

std::string percent(double share) {
    // As many decimals as its distance from the whole needs.
    const double miss = std::min(share, 1 - share);
    constexpr int most = 7;
    const int decimals =
        miss <= 0 ? 2 : std::clamp(static_cast<int>(-std::floor(std::log10(miss))) - 1, 2, most);
    const double finest = std::pow(10, -most - 2);
    if (miss > 0 && miss < finest) return share < 0.5 ? "below 0.0000001 %" : "over 99.9999999 %";
    return fixed(100 * share, decimals) + " %";
}

std::string range(const Interval& i, const std::string& unit) {
    return fmt::format("{} to {} {}", figure(i.min), figure(i.max), unit);
}

std::string limits_of(const Page& page) {
    const auto& l = page.limits;
    if (l.lower && l.upper) return range({*l.lower, *l.upper}, page.unit);
    if (l.lower) return fmt::format("at least {} {}", figure(*l.lower), page.unit);
    if (l.upper) return fmt::format("at most {} {}", figure(*l.upper), page.unit);
    return "no limits";
}

std::string verdict_of(const Page& page) {
    if (!page.limits.lower && !page.limits.upper) return "no limit is given";
    return fmt::format("{} by {}", word(page.verdict), page.verdict.because);
}

/// Label and value of everything that is one figure.
std::vector<std::pair<std::string, std::string>> figures_of(const Page& page) {
    const auto& d = page.distribution;
    std::vector<std::pair<std::string, std::string>> all{
        {"must lie", limits_of(page)},
        {"nominal", fmt::format("{} {}", figure(page.nominal), page.unit)},
        {"worst case", page.worst_case ? range(*page.worst_case, page.unit) : "nothing goes together"},
        {"root sum square", range(page.rss, page.unit)},
        {"mean, sigma", fmt::format("{}, {} {}", figure(d.mean), figure(d.sigma), page.unit)},
        {page.exact ? "yield, exact" : "yield", percent(d.yield)},
        {"per million below, above", fmt::format("{:.4g}, {:.4g}", 1e6 * d.below, 1e6 * d.above)}};
    if (page.drawn)
        all.emplace_back("yield, simulated",
                         fmt::format("{} to {} ({} samples, seed {})", percent(page.drawn->ci95.min),
                                     percent(page.drawn->ci95.max), page.drawn->samples, page.drawn->seed));
    all.insert(all.end(), page.notes.begin(), page.notes.end());
    return all;
}

std::vector<const Page::Row*> shown_rows(const Page& page) {
    std::vector<const Page::Row*> rows;
    for (const auto& row : page.rows)
        rows.push_back(&row);
    if (rows.size() > most_rows) {
        std::ranges::stable_sort(rows, std::greater{}, [](const auto* r) { return r->variance_share; });
        rows.resize(most_rows);
    }
    return rows;
}

std::string left_out(const Page& page) {
    return page.rows.size() <= most_rows ? std::string()
                                         : fmt::format("and {} smaller ones", page.rows.size() - most_rows);
}

std::string escaped(std::string_view text) {
    std::string safe;
    for (const char c : printable(text))
        switch (c) {
        case '&':
            safe += "&amp;";
            break;
        case '<':
            safe += "&lt;";
            break;
        case '>':
            safe += "&gt;";
            break;
        case '"':
            safe += "&quot;";
            break;
        default:
            safe += c;
        }
    return safe;
}

/// Writes the elements of a page, from its top down.
class Sheet {
public:
    void text(double x, double y, std::string_view words, double size = 11, const char* colour = ink,
              const char* anchor = "start", bool bold = false) {
        out_ += fmt::format(
            "<text x=\"{:.2f}\" y=\"{:.2f}\" font-size=\"{}\" fill=\"{}\" text-anchor=\"{}\"{}>{}</text>\n",
            x, y, size, colour, anchor, bold ? " font-weight=\"bold\"" : "", escaped(words));
    }
    void line(double x1, double y1, double x2, double y2, const char* colour = ink, double width = 1,
              const char* dashes = "") {
        out_ += fmt::format("<line x1=\"{:.2f}\" y1=\"{:.2f}\" x2=\"{:.2f}\" y2=\"{:.2f}\" stroke=\"{}\" "
                            "stroke-width=\"{}\"{}/>\n",
                            x1, y1, x2, y2, colour, width,
                            *dashes ? fmt::format(" stroke-dasharray=\"{}\"", dashes) : std::string());
    }
    void box(double x, double y, double width, double height, const char* fill) {
        out_ +=
            fmt::format("<rect x=\"{:.2f}\" y=\"{:.2f}\" width=\"{:.2f}\" height=\"{:.2f}\" fill=\"{}\"/>\n",
                        x, y, std::max(0.0, width), height, fill);
    }
    void shape(const std::vector<std::pair<double, double>>& points, const char* fill, const char* stroke) {
        std::string list;
        for (const auto& [x, y] : points)
            list += fmt::format("{:.2f},{:.2f} ", x, y);
        out_ += fmt::format("<polygon points=\"{}\" fill=\"{}\" stroke=\"{}\"/>\n", list, fill, stroke);
    }
    std::string finished(std::string_view title) const {
        return fmt::format("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0}\" height=\"{1}\" "
                           "viewBox=\"0 0 {0} {1}\" font-family=\"sans-serif\">\n<title>{2}</title>\n"
                           "<rect width=\"{0}\" height=\"{1}\" fill=\"#ffffff\"/>\n{3}</svg>\n",
                           page_width, page_height, escaped(title), out_);
    }

private:
    std::string out_;
};

/// Sizes as arrows end to end, one below the other, and the gap that closes them; answers where it ends.
double draw_arrows(Sheet& sheet, const Page& page, double top) {
    const auto rows = shown_rows(page);
    double at = 0, least = std::min(0.0, page.nominal), most = std::max(0.0, page.nominal);
    for (const auto* row : rows) {
        at += row->sensitivity * row->nominal;
        least = std::min(least, at);
        most = std::max(most, at);
    }
    const double scale = (right - margin) / std::max(1e-12, most - least);
    constexpr double room = 204, widest_lane = 26;
    const double lane = std::min(widest_lane, room / static_cast<double>(rows.size() + 2));
    const auto x = [&](double v) { return margin + (v - least) * scale; };
    const auto arrow = [&](double from, double to, double y, const char* colour, double width) {
        sheet.line(x(from), y, x(to), y, colour, width);
        const double way = to >= from ? 1 : -1;
        if (std::abs(x(to) - x(from)) > 6)
            sheet.shape({{x(to), y}, {x(to) - way * 7, y - 3}, {x(to) - way * 7, y + 3}}, colour, colour);
    };
    const auto name = [&](double from, double to, double y, const std::string& words, const char* colour) {
        const double half = 2.8 * static_cast<double>(words.size());
        const double middle =
            std::clamp((x(from) + x(to)) / 2, margin + half, std::max(margin + half, right - half));
        sheet.text(middle, y - 3, words, lane < 13 ? 7.5 : 9, colour, "middle");
    };
    double y = top;
    at = 0;
    for (const auto* row : rows) {
        y += lane;
        const double to = at + row->sensitivity * row->nominal;
        arrow(at, to, y, ink, 1.2);
        sheet.line(x(to), y, x(to), y + lane, line_colour, 0.8, "2,2");
        name(at, to, y, fmt::format("{}  {} {}", row->name, figure(row->nominal), row->limits), ink);
        at = to;
    }
    if (std::abs(at - page.nominal) > 1e-9 * (1 + std::abs(page.nominal))) {
        y += lane;
        arrow(at, page.nominal, y, faint, 1);
        name(at, page.nominal, y, "all else", faint);
    }
    y += lane;
    arrow(0, page.nominal, y, page.verdict.met ? good : bad, 2);
    name(0, page.nominal, y, fmt::format("gap  {} {}", figure(page.nominal), page.unit),
         page.verdict.met ? good : bad);
    return y + 16;
}

double draw_curve(Sheet& sheet, const Page& page, double top) {
    if (page.curve.empty()) return top;
    constexpr double height = 150;
    double from = page.curve.front().first, to = page.curve.back().first, peak = 0;
    for (const auto& [x, density] : page.curve)
        peak = std::max(peak, density);
    for (const auto& limit : {page.limits.lower, page.limits.upper})
        if (limit) {
            from = std::min(from, *limit);
            to = std::max(to, *limit);
        }
    if (page.worst_case) {
        from = std::min(from, page.worst_case->min);
        to = std::max(to, page.worst_case->max);
    }
    const double scale = (right - margin) / (to - from), base = top + height;
    const auto x = [&](double v) { return margin + (v - from) * scale; };
    const auto area = [&](double low, double high, const char* fill) {
        std::vector<std::pair<double, double>> points;
        for (const auto& [v, density] : page.curve)
            if (v >= low && v <= high) points.emplace_back(x(v), base - density / peak * (height - 24));
        if (points.size() < 2) return;
        points.insert(points.begin(), {points.front().first, base});
        points.emplace_back(points.back().first, base);
        sheet.shape(points, fill, ink);
    };
    const double low = page.limits.lower.value_or(from), high = page.limits.upper.value_or(to);
    area(from, to, "#ffffff");
    area(low, high, "#cfe0d2");
    // What misses is hatched: seen without colour too, and in programs that know no patterns.
    constexpr double step = 4;
    const int lines = static_cast<int>((right - margin) / step);
    for (int i = 0; i < lines; ++i) {
        const double at = margin + i * step;
        const double v = from + (at - margin) / scale;
        if (v >= low && v <= high) continue;
        const auto next = std::ranges::lower_bound(page.curve, v, {}, &std::pair<double, double>::first);
        if (next == page.curve.begin() || next == page.curve.end()) continue;
        sheet.line(at, base, at, base - next->second / peak * (height - 24), bad, 1.2);
    }
    sheet.line(margin, base, right, base);
    for (const auto& limit : {page.limits.lower, page.limits.upper})
        if (limit) {
            sheet.line(x(*limit), top + 10, x(*limit), base, bad, 1.6);
            const bool left = x(*limit) > page_width / 2;
            sheet.text(x(*limit), top + 6,
                       fmt::format("{} {}", left ? "at most" : "at least", figure(*limit)), 9, bad,
                       left ? "end" : "start");
        }
    const auto reach = [&](const Interval& i, double y, const char* name) {
        sheet.line(x(i.min), y, x(i.max), y, faint, 1.2);
        for (const double end : {i.min, i.max})
            sheet.line(x(end), y - 4, x(end), y + 4, faint, 1.2);
        sheet.text((x(i.min) + x(i.max)) / 2, y - 3, name, 8, faint, "middle");
        sheet.text(x(i.min), y + 13, figure(i.min), 8, faint, "middle");
        sheet.text(x(i.max), y + 13, figure(i.max), 8, faint, "middle");
    };
    reach(page.rss, base + 20, "root sum square");
    if (page.worst_case) reach(*page.worst_case, base + 48, "worst case");
    return base + 80;
}

double draw_rows(Sheet& sheet, const Page& page, double y) {
    const double nominal = 330, limits = 420, factor = 480, share = 490, alone = right;
    sheet.text(margin, y, "Contributor", 9, faint);
    sheet.text(nominal, y, "nominal", 9, faint, "end");
    sheet.text(limits, y, "limits", 9, faint, "end");
    sheet.text(factor, y, "factor", 9, faint, "end");
    sheet.text(share, y, "share of variance", 9, faint);
    if (std::ranges::any_of(page.rows, [](const auto& r) { return !r.alone.empty(); }))
        sheet.text(alone, y, "alone up to", 9, faint, "end");
    sheet.line(margin, y + 4, right, y + 4, line_colour);
    for (const auto* row : shown_rows(page)) {
        y += 15;
        sheet.box(share, y - 9, 120 * row->variance_share, 11, "#cfe0d2");
        sheet.text(margin, y, row->name, 10);
        sheet.text(nominal, y, figure(row->nominal), 10, ink, "end");
        sheet.text(limits, y, row->limits, 10, ink, "end");
        sheet.text(factor, y, plain(row->sensitivity, 4), 10, ink, "end");
        sheet.text(share + 3, y, fixed(100 * row->variance_share, 1) + " %", 10);
        sheet.text(alone, y, row->alone, 10, ink, "end");
    }
    if (const auto rest = left_out(page); !rest.empty()) sheet.text(margin, y += 15, rest, 10, faint);
    return y + 24;
}

/// At words, so that no line is longer; a longer word stands alone.
std::vector<std::string> lines_of(const std::string& text, std::size_t most) {
    std::vector<std::string> lines{""};
    std::istringstream words(text);
    for (std::string word; words >> word;) {
        if (!lines.back().empty() && lines.back().size() + 1 + word.size() > most) lines.emplace_back();
        lines.back() += (lines.back().empty() ? "" : " ") + word;
    }
    return lines;
}

/// As many as the page has room for, and how many more there are.
void draw_ways(Sheet& sheet, const Page& page, double y) {
    if (page.ways.empty()) return;
    constexpr double line = 13, indent = 12;
    constexpr std::size_t characters = 120; // of this size, across the page
    sheet.text(margin, y, "Ways out, each alone", 11, ink, "start", true);
    for (std::size_t i = 0; i < page.ways.size(); ++i) {
        const auto lines = lines_of(page.ways[i], characters);
        if (y + line * static_cast<double>(lines.size() + 1) > page_height - margin) {
            sheet.text(margin, y + line, fmt::format("and {} more", page.ways.size() - i), 9, faint);
            return;
        }
        for (const auto& text : lines)
            sheet.text(&text == &lines.front() ? margin : margin + indent, y += line, text, 9);
    }
}

}

std::string page_svg(const Page& page) {
    Sheet sheet;
    double y = margin + 8;
    sheet.text(margin, y, page.name, 18, ink, "start", true);
    sheet.text(right, y, percent(page.yield.value_or(page.distribution.yield)), 18,
               page.verdict.met ? good : bad, "end", true);
    sheet.text(margin, y += 20, verdict_of(page), 11, page.verdict.met ? good : bad);
    y += 10;
    for (const auto& [label, value] : figures_of(page)) {
        y += 15;
        sheet.text(margin, y, label, 10, faint);
        sheet.text(margin + 160, y, value, 10);
    }
    y = draw_arrows(sheet, page, y + 6);
    y = draw_curve(sheet, page, y + 8);
    y = draw_rows(sheet, page, y + 6);
    draw_ways(sheet, page, y);
    return sheet.finished(page.name);
}

std::string page_text(const Page& page) {
    std::string text = printable(page.name) + "\n" + verdict_of(page) + "\n\n";
    for (const auto& [label, value] : figures_of(page))
        text += fmt::format("{:<26}{}\n", label, value);
    text += fmt::format("\n{:<24}{:>10}{:>14}{:>7}{:>8}{:>8}  {}\n", "contributor", "nominal", "limits",
                        "factor", "share", "worst", "alone up to");
    bool has_slopes = false;
    for (const auto* row : shown_rows(page)) {
        text += fmt::format("{:<24}{:>10}{:>14}{:>7}{:>6} %{:>6} %  {}\n", printable(row->name),
                            figure(row->nominal), row->limits, plain(row->sensitivity, 4),
                            fixed(100 * row->variance_share, 1), fixed(100 * row->worst_case_share, 1),
                            row->alone);
        has_slopes = has_slopes || row->yield_slope;
    }
    if (has_slopes) text += fmt::format("\na nominal 0.01 {} larger changes the yield by\n", page.unit);
    for (const auto* row : shown_rows(page))
        if (row->yield_slope)
            text += fmt::format("  {:<32}{:>+10.4g} ppm\n", printable(row->name), 1e4 * *row->yield_slope);
    if (const auto rest = left_out(page); !rest.empty()) text += rest + "\n";
    if (!page.ways.empty()) text += "\nways out, each alone\n";
    for (const auto& way : page.ways)
        text += "  " + printable(way) + "\n";
    return text;
}

}
