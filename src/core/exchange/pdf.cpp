// PDF 1.7 (ISO 32000-1:2008): one page, a group of optional content a layer (8.11), letters in a standard
// font.

#include <array>
#include <cmath>
#include <numbers>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/plan.hpp"

namespace plume {
namespace {

constexpr double points_per_mm = 72 / 25.4;
// Pages are counted in units of points; larger ones have larger units (14.11.2).
constexpr double most_points = 14'400;

// Exponents are none of PDF's.
std::string number(double value) {
    std::array<char, 48> text{};
    std::snprintf(text.data(), text.size(), "%.5f", value);
    std::string plain = text.data();
    plain.erase(plain.find_last_not_of('0') + 1);
    if (plain.ends_with('.')) plain.pop_back();
    return plain == "-0" ? "0" : plain;
}

std::string colour(Rgb rgb) {
    return number(static_cast<double>(rgb.red)) + ' ' + number(static_cast<double>(rgb.green)) + ' ' +
           number(static_cast<double>(rgb.blue));
}

// Text of names: UTF-16 with its mark (7.9.2.2).
std::string text_string(const std::string& utf8) {
    std::string hex = "<FEFF";
    const auto unit = [&](char32_t value) {
        std::array<char, 8> digits{};
        std::snprintf(digits.data(), digits.size(), "%04X", static_cast<unsigned>(value));
        hex += digits.data();
    };
    for (const char32_t character : characters_of(utf8)) {
        if (character < 0x10000) {
            unit(character);
            continue;
        }
        unit(0xD800 + ((character - 0x10000) >> 10U));
        unit(0xDC00 + ((character - 0x10000) & 0x3FFU));
    }
    return hex + '>';
}

// Shown text: one byte a letter, those of the Latin page; others are question marks, which is said.
std::string shown_string(const std::string& utf8, bool& lost) {
    std::string text = "(";
    for (const char32_t character : characters_of(utf8)) {
        const bool known =
            (character >= 0x20 && character < 0x7F) || (character >= 0xA0 && character <= 0xFF);
        lost = lost || !known;
        const char c = known ? static_cast<char>(character) : '?';
        if (c == '(' || c == ')' || c == '\\') text += '\\';
        text += c;
    }
    return text + ')';
}

class Content {
public:
    explicit Content(double unit) : unit_(points_per_mm / unit) {}

    void add(const PlanLayer& layer, std::size_t number_of_layer) {
        bytes_ += "/OC /L" + std::to_string(number_of_layer) + " BDC\n" + number(PlanPath().stroke * unit_) +
                  " w 1 j 1 J\n";
        for (const PlanFill& fill : layer.fills)
            add(fill);
        for (const PlanPath& path : layer.paths)
            add(path);
        for (const PlanDot& dot : layer.dots)
            add(dot);
        for (const PlanText& text : layer.texts) {
            const PaperPlace begin{text.at.x - (text.middle ? text_width_mm(text) / 2 : 0), text.at.y};
            bytes_ += "BT /F1 " + number(text.letters * unit_) + " Tf 0.1 0.1 0.1 rg " + at(begin) + " Td " +
                      shown_string(text.text, letters_lost) + " Tj ET\n";
        }
        bytes_ += "EMC\n";
    }
    const std::string& bytes() const { return bytes_; }
    bool letters_lost = false;

private:
    std::string at(PaperPlace place) const { return number(place.x * unit_) + ' ' + number(place.y * unit_); }

    void add(const PlanPath& path) {
        const bool usual = path.stroke == PlanPath().stroke && path.dashes == PlanDashes::none;
        if (!usual) bytes_ += "q " + number(path.stroke * unit_) + " w ";
        if (path.dashes != PlanDashes::none) {
            bytes_ += '[';
            for (const double length : dash_lengths(path.dashes))
                bytes_ += number(length * unit_) + ' ';
            bytes_ += "] 0 d ";
        }
        bytes_ += colour(path.colour) + " RG " + at(path.start) + " m";
        PaperPlace from = path.start;
        for (const PlanStep& step : path.steps) {
            switch (step.form) {
                case PlanStep::Form::line:
                    bytes_ += ' ' + at(step.to) + " l";
                    break;
                case PlanStep::Form::cubic:
                    add_cubic(step.first, step.second, step.to);
                    break;
                case PlanStep::Form::arc:
                    add_arc(from, step);
            }
            from = step.to;
        }
        bytes_ += path.closed ? " s" : " S";
        bytes_ += usual ? "\n" : " Q\n";
    }
    void add(const PlanFill& fill) {
        bytes_ += colour(fill.colour) + " rg";
        for (const std::vector<PaperPlace>& ring : fill.rings) {
            for (std::size_t place = 0; place < ring.size(); ++place)
                bytes_ += ' ' + at(ring[place]) + (place == 0 ? " m" : " l");
            bytes_ += " h";
        }
        bytes_ += " f*\n";
    }
    void add_cubic(PaperPlace first, PaperPlace second, PaperPlace to) {
        bytes_ += ' ' + at(first) + ' ' + at(second) + ' ' + at(to) + " c";
    }
    // In pieces of at most an eighth of a turn, each off by less than 4e-6 of the radius.
    void add_arc(PaperPlace from, const PlanStep& step) {
        const PlanArc arc = arc_of(from, step);
        const int pieces =
            static_cast<int>(std::ceil(std::abs(arc.turn_rad) / (std::numbers::pi / 4) - 1e-9));
        const double each = arc.turn_rad / pieces, reach = 4.0 / 3 * std::tan(each / 4) * arc.radius;
        for (int piece = 0; piece < pieces; ++piece) {
            const double a = arc.begin_rad + each * piece, b = a + each;
            const PaperPlace p = arc.at(a), q = piece + 1 == pieces ? step.to : arc.at(b);
            add_cubic({p.x - reach * std::sin(a), p.y + reach * std::cos(a)},
                      {q.x + reach * std::sin(b), q.y - reach * std::cos(b)}, q);
        }
    }
    void add(const PlanDot& dot) {
        const PaperPlace left{dot.at.x - plan_dot / 2, dot.at.y}, right{dot.at.x + plan_dot / 2, dot.at.y};
        bytes_ += colour(dot.colour) + " rg " + at(left) + " m";
        PlanStep half{PlanStep::Form::arc, right, plan_dot / 2, true, false};
        add_arc(left, half);
        half.to = left;
        add_arc(right, half);
        bytes_ += " f\n";
    }

    double unit_;  // of the page's units, a millimetre
    std::string bytes_;
};

// Objects one after the other, and where each begins.
class Objects {
public:
    void add(const std::string& body) {
        starts_.push_back(bytes_.size());
        bytes_ += std::to_string(starts_.size()) + " 0 obj\n" + body + "\nendobj\n";
    }
    std::string finish() {
        const std::size_t table = bytes_.size();
        bytes_ += "xref\n0 " + std::to_string(starts_.size() + 1) + "\n0000000000 65535 f \n";
        for (const std::size_t start : starts_) {
            const std::string digits = std::to_string(start);
            bytes_ += std::string(10 - digits.size(), '0') + digits + " 00000 n \n";
        }
        return bytes_ + "trailer\n<< /Size " + std::to_string(starts_.size() + 1) +
               " /Root 1 0 R /Info 6 0 R >>\nstartxref\n" + std::to_string(table) + "\n%%EOF\n";
    }

private:
    std::string bytes_ = "%PDF-1.7\n%\xE2\xE3\xCF\xD3\n";
    std::vector<std::size_t> starts_;
};

std::string references(std::size_t first, std::size_t count) {
    std::string text;
    for (std::size_t at = 0; at < count; ++at)
        text += (at > 0 ? " " : "") + std::to_string(first + at) + " 0 R";
    return text;
}

}  // namespace

void write_plan_pdf(Plan& plan, const std::string& title, const ByteSink& sink) {
    const double unit =
        std::max(1.0, std::ceil(std::max(plan.width, plan.height) * points_per_mm / most_points));
    Content content(unit);
    constexpr std::size_t first_layer = 7;
    std::string properties;
    for (std::size_t at = 0; at < plan.layers.size(); ++at) {
        content.add(plan.layers[at], at);
        properties += " /L" + std::to_string(at) + ' ' + references(first_layer + at, 1);
    }
    const std::string layers = references(first_layer, plan.layers.size());
    Objects objects;
    objects.add("<< /Type /Catalog /Pages 2 0 R /PageMode /UseOC /OCProperties << /OCGs [" + layers +
                "] /D << /Order [" + layers + "] /ON [" + layers + "] >> >> >>");
    objects.add("<< /Type /Pages /Kids [3 0 R] /Count 1 >>");
    objects.add(
        "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 " + number(plan.width * points_per_mm / unit) + ' ' +
        number(plan.height * points_per_mm / unit) + "]" + (unit > 1 ? " /UserUnit " + number(unit) : "") +
        " /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> /Properties <<" + properties + " >> >> >>");
    objects.add("<< /Length " + std::to_string(content.bytes().size()) + " >>\nstream\n" + content.bytes() +
                "\nendstream");
    objects.add("<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>");
    objects.add("<< /Title " + text_string(title) + " /Producer (Plume Lattice) >>");
    for (const PlanLayer& layer : plan.layers)
        objects.add("<< /Type /OCG /Name " + text_string(printable(layer.name)) + " >>");
    sink(objects.finish());
    if (content.letters_lost)
        plan.report.left_out.emplace_back(
            "letters of labels that are not Latin, for which question marks stand");
}

Result<ExportReport> write_pdf(const ExportJob& job, const ByteSink& sink, const Run& run) {
    auto plan = plan_of(job, run);
    if (!plan) return plan.error();
    write_plan_pdf(*plan, job.results.front().name, sink);
    return std::move(plan->report);
}

}  // namespace plume
