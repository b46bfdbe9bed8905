#include <array>
#include <cmath>
#include <numbers>
#include <set>
#include <unordered_map>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/moves/affine.hpp"
#include "core/readers/curve_draft.hpp"
#include "core/readers/curve_formats.hpp"
#include "core/readers/svg_path.hpp"
#include "core/readers/text_scan.hpp"
#include "core/readers/xml_tree.hpp"

namespace plume {
namespace {

constexpr std::size_t deepest_uses = 32;

// What draws nothing by itself.
const std::set<std::string_view> unseen = {
    "defs", "symbol",   "clipPath", "mask",   "marker",         "pattern",        "title",
    "desc", "metadata", "style",    "script", "linearGradient", "radialGradient", "filter"};

double number_of(const XmlElement& element, std::string_view name, double otherwise = 0) {
    const std::vector<double> numbers = svg_numbers(element.attribute(name));
    return numbers.empty() ? otherwise : numbers.front();
}

// Metres of "297mm", "11.7in"; nothing of bare numbers, pixels and shares of the window.
std::optional<double> metres_in(std::string_view text) {
    double value = 0;
    const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (problem != std::errc() || !(value > 0) || !std::isfinite(value)) return {};
    const std::string_view unit =
        without_blanks(std::string_view(end, static_cast<std::size_t>(text.data() + text.size() - end)));
    constexpr std::array<std::pair<std::string_view, double>, 5> units = {
        {{"mm", 0.001}, {"cm", 0.01}, {"in", 0.0254}, {"pt", 0.0254 / 72}, {"pc", 0.0254 / 6}}};
    for (const auto& [name, metres] : units)
        if (unit == name) return value * metres;
    return {};
}

Affine one_transform(std::string_view name, const std::vector<double>& n) {
    constexpr double degree = std::numbers::pi / 180;
    const auto at = [&](std::size_t index, double otherwise = 0) {
        return index < n.size() ? n[index] : otherwise;
    };
    Affine map;
    if (name == "matrix" && n.size() == 6) {
        map.x = {n[0], n[1], 0};
        map.y = {n[2], n[3], 0};
        map.shift = {n[4], n[5], 0};
    } else if (name == "translate") {
        map.shift = {at(0), at(1), 0};
    } else if (name == "scale") {
        map.x = {at(0, 1), 0, 0};
        map.y = {0, at(1, at(0, 1)), 0};
    } else if (name == "rotate") {
        map = turned_about({at(1), at(2), 0}, {0, 0, 1}, at(0) * degree);
    } else if (name == "skewX") {
        map.y = {std::tan(at(0) * degree), 1, 0};
    } else if (name == "skewY") {
        map.x = {1, std::tan(at(0) * degree), 0};
    }
    return map;
}

// "translate(10 20) rotate(45)": the first is the outermost.
Affine transform_of(std::string_view text) {
    Affine map;
    while (true) {
        const std::size_t open = text.find('('),
                          close = text.find(')', open == std::string_view::npos ? 0 : open);
        if (open == std::string_view::npos || close == std::string_view::npos) return map;
        std::string_view name = text.substr(0, open);
        const std::size_t begin = name.find_first_not_of(" \t\r\n,");
        name = without_blanks(name.substr(begin == std::string_view::npos ? name.size() : begin));
        map = composed(map, one_transform(name, svg_numbers(text.substr(open + 1, close - open - 1))));
        text.remove_prefix(close + 1);
    }
}

bool is_hidden(const XmlElement& element) {
    std::string style;
    for (const char c : element.attribute("style"))
        if (c != ' ') style += c;
    return element.attribute("display") == "none" || element.attribute("visibility") == "hidden" ||
           style.find("display:none") != std::string::npos ||
           style.find("visibility:hidden") != std::string::npos;
}

// A rectangle with its corners rounded, as a path.
std::string path_of_rectangle(const XmlElement& element) {
    const double x = number_of(element, "x"), y = number_of(element, "y"),
                 width = number_of(element, "width"), height = number_of(element, "height");
    double rx = number_of(element, "rx", -1), ry = number_of(element, "ry", -1);
    if (rx < 0) rx = std::max(ry, 0.0);
    if (ry < 0) ry = rx;
    rx = std::min(rx, width / 2);
    ry = std::min(ry, height / 2);
    if (!(width > 0 && height > 0)) return {};
    const auto at = [](double u, double v) { return exact_text(u) + ' ' + exact_text(v) + ' '; };
    if (!(rx > 0 && ry > 0))
        return "M" + at(x, y) + "H" + exact_text(x + width) + "V" + exact_text(y + height) + "H" +
               exact_text(x) + "Z";
    const std::string arc = "A" + at(rx, ry) + "0 0 1 ";
    return "M" + at(x + rx, y) + "H" + exact_text(x + width - rx) + arc + at(x + width, y + ry) + "V" +
           exact_text(y + height - ry) + arc + at(x + width - rx, y + height) + "H" + exact_text(x + rx) +
           arc + at(x, y + height - ry) + "V" + exact_text(y + ry) + arc + at(x + rx, y) + "Z";
}

std::string path_of_corners(const XmlElement& element, bool closed) {
    const std::string_view points = element.attribute("points");
    return points.empty() ? std::string() : "M" + std::string(points) + (closed ? "Z" : "");
}

std::string path_of_line(const XmlElement& element) {
    const auto at = [&](const char* name) { return exact_text(number_of(element, name)) + ' '; };
    return "M" + at("x1") + at("y1") + "L" + at("x2") + at("y2");
}

std::optional<SplineCurve> ellipse_of(const XmlElement& element, double rx, double ry) {
    if (!(rx > 0 && ry > 0)) return {};
    const Vec3 centre{number_of(element, "cx"), number_of(element, "cy"), 0};
    return ellipse(placement_of(centre, {0, 0, 1}, {1, 0, 0}), rx, ry);
}

class SvgReader {
public:
    SvgReader(const XmlTree& tree, const Run& run) : tree_(tree), run_(run) {
        for (const XmlElement& element : tree.elements())
            if (const std::string_view id = element.attribute("id"); !id.empty())
                by_id_.try_emplace(std::string(id), &element);
    }

    Result<CurveFile> read() {
        const XmlElement& root = tree_.root();
        if (root.name != "svg")
            return Error{ErrorCode::file_unreadable, "", "is XML, but no SVG",
                         "Choose a file of DXF or SVG."};
        const Result<double> count = count_of(root);
        if (!count) return count.error();
        if (*count > static_cast<double>(CurveDraft::most_curves))
            return Error{ErrorCode::file_too_large, "",
                         "places " + short_text(*count, 3) + " shapes, of which " +
                             grouped_text(CurveDraft::most_curves) + " can be held",
                         "Take out what uses itself over and over."};
        Affine page;
        page.y = {0, -1, 0};
        page.shift = {0, height_of_page(root), 0};
        if (Status walked = walk_children(root, page, ""); !walked) return walked.error();
        if (wrong_ > 0)
            draft_.lose(count_text(wrong_, "path is", "paths are") +
                        " drawn up to a mistake only, the first one in line " + first_wrong_ + ".");
        if (outside_ > 0)
            draft_.lose(count_text(outside_, "reference", "references") +
                        " to what is not in the file left out.");
        Result<CurveFile> made = std::move(draft_).finish();
        if (made) made->metres_per_unit = metres_of_unit(root);
        return made;
    }

private:
    // y is counted up from the lower side of the page, where that is known.
    static double height_of_page(const XmlElement& root) {
        const std::vector<double> box = svg_numbers(root.attribute("viewBox"));
        return box.size() == 4 ? box[1] + box[3] : number_of(root, "height");
    }
    // Lengths with units are those of the page; what is drawn counts shares of its box.
    static std::optional<double> metres_of_unit(const XmlElement& root) {
        const std::vector<double> box = svg_numbers(root.attribute("viewBox"));
        const auto width = metres_in(root.attribute("width"));
        if (!width) return {};
        if (box.size() == 4 && box[2] > 0) return *width / box[2];
        return 0.0254 / 96;  // a pixel of CSS
    }

    // Shapes that come of an element once all that it uses is in place.
    Result<double> count_of(const XmlElement& element, std::size_t depth = 0) {
        const auto known = counts_.find(&element);
        if (known != counts_.end()) return known->second;
        if (depth > deepest_uses * 256)
            return Error{ErrorCode::too_deep, "",
                         "uses within uses without an end, in line " + std::to_string(element.line),
                         "Choose another file."};
        if (!being_counted_.insert(&element).second)
            return Error{ErrorCode::file_damaged, "",
                         "has an element that uses itself, in line " + std::to_string(element.line),
                         "Take it out of itself."};
        double count = 1;
        for (const XmlElement* child : element.children) {
            const Result<double> of_child = count_of(*child, depth + 1);
            if (!of_child) return of_child.error();
            count += *of_child;
        }
        if (const XmlElement* used = element.name == "use" ? used_by(element) : nullptr) {
            const Result<double> of_used = count_of(*used, depth + 1);
            if (!of_used) return of_used.error();
            count += *of_used;
        }
        being_counted_.erase(&element);
        counts_[&element] = count;
        return count;
    }
    const XmlElement* used_by(const XmlElement& element) const {
        const std::string_view reference = element.attribute("href");
        const auto found =
            reference.starts_with('#') ? by_id_.find(std::string(reference.substr(1))) : by_id_.end();
        return found == by_id_.end() ? nullptr : found->second;
    }

    Status walk_children(const XmlElement& element, const Affine& map, const std::string& layer) {
        for (const XmlElement* child : element.children)
            if (Status walked = walk(*child, map, layer); !walked) return walked;
        return Done{};
    }
    Status walk(const XmlElement& element, const Affine& above, const std::string& layer) {
        if (run_.cancelled()) return cancelled_error();
        if (unseen.contains(element.name)) return Done{};
        if (is_hidden(element)) {
            draft_.leave_out("hidden");
            return Done{};
        }
        const Affine map = composed(above, transform_of(element.attribute("transform")));
        if (element.name == "g" || element.name == "a" || element.name == "switch")
            return walk_children(element, map, layer.empty() ? name_of(element) : layer);
        if (element.name == "svg") return walk_children(element, composed(map, inner_page(element)), layer);
        if (element.name == "use") {
            const XmlElement* used = used_by(element);
            outside_ += used ? 0 : 1;
            if (!used) return Done{};
            const Affine there =
                composed(map, moved_by({number_of(element, "x"), number_of(element, "y"), 0}));
            return used->name == "symbol" ? walk_children(*used, there, layer) : walk(*used, there, layer);
        }
        draw(element, map, layer.empty() ? "drawing" : layer);
        return Done{};
    }
    // A drawing within the drawing: its box is put into its place.
    static Affine inner_page(const XmlElement& element) {
        Affine map = moved_by({number_of(element, "x"), number_of(element, "y"), 0});
        const std::vector<double> box = svg_numbers(element.attribute("viewBox"));
        const double width = number_of(element, "width"), height = number_of(element, "height");
        if (box.size() != 4 || !(box[2] > 0 && box[3] > 0 && width > 0 && height > 0)) return map;
        const double scale = std::min(width / box[2], height / box[3]);
        const Vec3 rest{(width - scale * box[2]) / 2, (height - scale * box[3]) / 2, 0};
        map = composed(map, moved_by(rest));
        map = composed(map, scaled_about({}, {scale, scale, 1}));
        return composed(map, moved_by({-box[0], -box[1], 0}));
    }
    // A group is called as its title says, or by its mark.
    static std::string name_of(const XmlElement& element) {
        for (const XmlElement* child : element.children)
            if (child->name == "title" && !without_blanks(child->text).empty())
                return printable(without_blanks(child->text));
        for (const char* key : {"label", "id"})
            if (const std::string_view name = element.attribute(key); !name.empty()) return printable(name);
        return {};
    }

    void draw(const XmlElement& element, const Affine& map, const std::string& layer) {
        std::string data;
        if (element.name == "path") {
            data = element.attribute("d");
        } else if (element.name == "rect") {
            data = path_of_rectangle(element);
        } else if (element.name == "line") {
            data = path_of_line(element);
        } else if (element.name == "polyline" || element.name == "polygon") {
            data = path_of_corners(element, element.name == "polygon");
        } else if (element.name == "circle") {
            return add(ellipse_of(element, number_of(element, "r"), number_of(element, "r")), map, layer);
        } else if (element.name == "ellipse") {
            return add(ellipse_of(element, number_of(element, "rx"), number_of(element, "ry")), map, layer);
        } else {
            return draft_.leave_out(printable(element.name));
        }
        const SvgPath path = svg_path(data);
        if (path.wrong && wrong_++ == 0)
            first_wrong_ = std::to_string(element.line) + " " + *path.wrong + " of its data";
        for (const SplineCurve& curve : path.curves)
            add(curve, map, layer);
    }
    void add(const std::optional<SplineCurve>& curve, const Affine& map, const std::string& layer) {
        if (!curve) return;
        if (auto moved = with_poles(*curve, [&](Vec3 pole) { return map.at(pole); }))
            draft_.add(*std::move(moved), layer);
    }

    const XmlTree& tree_;
    const Run& run_;
    std::unordered_map<std::string, const XmlElement*> by_id_;
    std::unordered_map<const XmlElement*, double> counts_;
    std::set<const XmlElement*> being_counted_;
    CurveDraft draft_;
    std::size_t wrong_ = 0, outside_ = 0;
    std::string first_wrong_;
};

}  // namespace

Result<CurveFile> read_svg(std::string_view text, const Run& run) {
    const auto tree = XmlTree::read(text);
    if (!tree) return tree.error();
    return SvgReader(*tree, run).read();
}

}  // namespace plume
