// SVG 1.1 (W3C Recommendation, 2nd ed. 2011): millimetres, a group a layer.

#include <cmath>
#include <cstdio>

#include "core/base/numbers.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/plan.hpp"
#include "core/exchange/xml_text.hpp"

namespace plume {
namespace {

std::string hex(Rgb colour) {
    const auto part = [](float value) { return static_cast<unsigned>(std::lround(value * 255)); };
    std::array<char, 8> text{};
    std::snprintf(text.data(), text.size(), "#%02x%02x%02x", part(colour.red), part(colour.green),
                  part(colour.blue));
    return text.data();
}

std::string number(double value) {
    return short_text(value, 10);
}

// Down the page, as SVG counts.
class SvgPage {
public:
    explicit SvgPage(const Plan& plan) : plan_(plan) {}

    std::string at(PaperPlace place) const { return number(place.x) + ' ' + number(plan_.height - place.y); }
    std::string path(const PlanPath& path) const {
        std::string text = "M" + at(path.start);
        for (const PlanStep& step : path.steps)
            switch (step.form) {
                case PlanStep::Form::line:
                    text += "L" + at(step.to);
                    break;
                case PlanStep::Form::cubic:
                    text += "C" + at(step.first) + ' ' + at(step.second) + ' ' + at(step.to);
                    break;
                case PlanStep::Form::arc:
                    text += "A" + number(step.radius) + ' ' + number(step.radius) + " 0 " +
                            (step.large ? "1 " : "0 ") + (step.anticlockwise ? "0 " : "1 ") + at(step.to);
            }
        return "<path d=\"" + text + (path.closed ? "Z" : "") + "\" stroke=\"" + hex(path.colour) + '"' +
               (path.stroke == PlanPath().stroke ? "" : " stroke-width=\"" + number(path.stroke) + '"') +
               dashes(path.dashes) + "/>\n";
    }
    std::string fill(const PlanFill& fill) const {
        std::string text;
        for (const std::vector<PaperPlace>& ring : fill.rings) {
            for (std::size_t place = 0; place < ring.size(); ++place)
                text += (place == 0 ? "M" : "L") + at(ring[place]);
            text += 'Z';
        }
        return "<path d=\"" + text + "\" fill=\"" + hex(fill.colour) +
               "\" fill-rule=\"evenodd\" stroke=\"none\"/>\n";
    }
    std::string dot(const PlanDot& dot) const {
        return "<circle cx=\"" + number(dot.at.x) + "\" cy=\"" + number(plan_.height - dot.at.y) + "\" r=\"" +
               number(plan_dot / 2) + "\" fill=\"" + hex(dot.colour) + "\" stroke=\"none\"/>\n";
    }
    std::string text(const PlanText& text) const {
        return "<text x=\"" + number(text.at.x) + "\" y=\"" + number(plan_.height - text.at.y) +
               "\" fill=\"#1a1a1a\" stroke=\"none\" font-family=\"sans-serif\" font-size=\"" +
               number(text.letters) + (text.middle ? "\" text-anchor=\"middle" : "") + "\">" +
               xml_text(text.text) + "</text>\n";
    }

private:
    static std::string dashes(PlanDashes as) {
        std::string text;
        for (const double length : dash_lengths(as))
            text += (text.empty() ? "" : " ") + number(length);
        return text.empty() ? "" : " stroke-dasharray=\"" + text + '"';
    }
    const Plan& plan_;
};

}  // namespace

void write_plan_svg(const Plan& plan, const std::string& about, const ByteSink& sink) {
    const std::string width = number(plan.width), height = number(plan.height);
    sink(
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" "
        "version=\"1.1\" "
        "width=\"" +
        width + "mm\" height=\"" + height + "mm\" viewBox=\"0 0 " + width + ' ' + height + "\">\n<desc>" +
        xml_text(about) + "</desc>\n");
    const SvgPage page(plan);
    for (std::size_t at = 0; at < plan.layers.size(); ++at) {
        const PlanLayer& layer = plan.layers[at];
        sink("<g id=\"layer" + std::to_string(at + 1) + "\" fill=\"none\" stroke-width=\"" +
             number(PlanPath().stroke) + "\" stroke-linejoin=\"round\">\n<title>" + xml_text(layer.name) +
             "</title>\n");
        for (const PlanFill& fill : layer.fills)
            sink(page.fill(fill));
        for (const PlanPath& path : layer.paths)
            sink(page.path(path));
        for (const PlanDot& dot : layer.dots)
            sink(page.dot(dot));
        for (const PlanText& text : layer.texts)
            sink(page.text(text));
        sink("</g>\n");
    }
    sink("</svg>\n");
}

Result<ExportReport> write_svg(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto plan = plan_of(job, run);
    if (!plan) return plan.error();
    write_plan_svg(*plan, "Plume Lattice, seen from above at 1:" + number(plan->scale), sink);
    return plan->report;
}

}  // namespace plume
