// A sheet that grows ring by ring, or row by row from a line.

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/sheets/ring_pattern.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/formula_support.hpp"
#include "core/steps/sheets/brought_sheet.hpp"

namespace plume {
namespace {

constexpr std::size_t most_rings = 10'000;
// More than this a formula cannot have meant.
constexpr double most_stitches = 1e7;
// Around a centre, where it lies flat.
constexpr double first_ring = 6;
// Of the height of a triangle, by how much a ring is farther out than the one before at the most.
constexpr double outwards_share = 0.995;
// Of an edge: no ring is smaller.
constexpr double least_radius = 0.4;
// Between the two sides of a seam, in radians.
constexpr double seam_gap = 0.2;

// A line and its length.
struct MeasuredLine {
    explicit MeasuredLine(const SplineCurve& of) : curve(of), length(of) {}
    SplineCurve curve;
    CurveLength length;
};

// What it begins with: a line, or nothing around a centre.
struct Beginning {
    bool closed = true;
    std::optional<MeasuredLine> line;
    std::size_t on_line = 0;  // stitches
    bool centre() const { return !line; }
    // How many stitches a ring has where it lies flat, or is as long as its line.
    double flat_count(std::size_t ring) const {
        return centre() ? first_ring * static_cast<double>(ring) : static_cast<double>(on_line);
    }
};

Vec3 across_line(const std::string& towards, Vec3 along) {
    if (towards == "up") return {0, 0, 1};
    if (towards == "down") return {0, 0, -1};
    const Vec3 beside = unit_or_zero(cross(along, {0, 0, 1}));
    return dot(beside, beside) > 0 ? beside : Vec3{1, 0, 0};
}

// How often edges go into the line.
Result<double> bays_of(const Inputs& in, const CurveLength& line) {
    const double bays = std::round(line.total() / in.number("edge"));
    if (bays >= 3 && bays <= most_stitches) return bays;
    return about_slot(
        Error{ErrorCode::out_of_range, "",
              bays > most_stitches ? "would go more than ten million times into the line"
                                   : "are longer than a third of the line, which is " +
                                         quantity_text({line.total(), a_length}, in.units()) + " long",
              bays > most_stitches ? "Type a larger length." : "Type a smaller length."},
        "edge");
}

Result<Beginning> beginning(const Inputs& in) {
    Beginning begun;
    if (in.word("from") == "centre") {
        begun.closed = in.word("seam") == "closed";
        return begun;
    }
    const auto line = only_curve(in, "line");
    if (!line) return line.error();
    begun.line.emplace(*line);
    const auto bays = bays_of(in, begun.line->length);
    if (!bays) return bays.error();
    begun.closed = line->closed();
    begun.on_line = static_cast<std::size_t>(*bays) + (begun.closed ? 0 : 1);
    return begun;
}

FormulaSite rings_site_of(const Beginning& begun, std::size_t rings) {
    FormulaSite site;
    site.domain.directions[0] = {rings, 1, static_cast<double>(rings), false};
    site.direction_names = {"ring", "", ""};
    Doubles numbers, flat;
    for (std::size_t ring = 1; ring <= rings; ++ring) {
        numbers.push_back(static_cast<double>(ring));
        flat.push_back(begun.flat_count(ring));
    }
    add_numbers(site, "ring", std::move(numbers), plain_number, "number of the ring, from 1 on");
    add_numbers(site, "flat", std::move(flat), plain_number,
                begun.centre() ? "stitches with which it lies flat: 6, 12, 18 …" : "stitches of the line");
    site.inputs.push_back({"rings", plain_number, static_cast<double>(rings), "how many rings there are"});
    site.results.push_back({"", "the last line is the number of stitches", true});
    return site;
}

Result<FormulaSite> rings_site(const Inputs& in) {
    const auto begun = beginning(in);
    if (!begun) return begun.error();
    return rings_site_of(*begun, in.count("rings"));
}

// Of rings from 1 on, before they are rounded.
Result<Doubles> wanted_counts(const Inputs& in, const Beginning& begun, const Run& run) {
    const std::string& rule = in.word("counts");
    if (rule == "formula")
        return numbers_by_formula(in, rings_site_of(begun, in.count("rings")), plain_number, run);
    Doubles counts;
    double so_many = begun.flat_count(1);
    for (std::size_t ring = 1; ring <= in.count("rings"); ++ring) {
        if (rule == "factor") {
            // Around a centre the first ring is as it lies flat.
            const double times = static_cast<double>(begun.centre() ? ring - 1 : ring);
            counts.push_back(begun.flat_count(ring) * std::pow(in.number("factor"), times));
            continue;
        }
        if (ring > 1 || !begun.centre()) so_many += std::floor(so_many / in.number("every"));
        counts.push_back(so_many);
    }
    return counts;
}

// The slot of a rule has its name.
Result<RingPattern> pattern_of(const Inputs& in, const Beginning& begun, const Run& run) {
    const auto counts = wanted_counts(in, begun, run);
    if (!counts) return counts.error();
    RingPattern pattern{{}, begun.closed, begun.centre()};
    if (!begun.centre()) pattern.counts.push_back(begun.on_line);
    for (std::size_t ring = 0; ring < counts->size(); ++ring) {
        const double count = (*counts)[ring];
        if (!std::isfinite(count) || count < 0 || count > most_stitches)
            return about_slot(Error{ErrorCode::out_of_range, "",
                                    "would give ring " + std::to_string(ring + 1) + " " +
                                        short_text(count, 4) + " stitches",
                                    "Let it have at least 3 and at most ten million."},
                              in.word("counts"));
        // An open ring has a stitch more than it has edges.
        pattern.counts.push_back(static_cast<std::size_t>(std::llround(count)) +
                                 (begun.centre() && !begun.closed ? 1 : 0));
    }
    return pattern;
}

// In lengths of an edge. Around a centre: rings as large as they want to be, as far as they are no farther
// from each other than they may be; the rest goes down, so that no ring is where another is.
std::vector<Vec3> around_centre(const RingSheet& sheet, const RingPattern& pattern) {
    const double height = std::sqrt(0.75), most = outwards_share * height;
    std::vector<double> radii{0}, depths{0};
    for (const std::size_t count : pattern.counts) {
        const double before = radii.back(), wanted = static_cast<double>(count) / (2 * std::numbers::pi);
        radii.push_back(std::max(std::clamp(wanted, before - most, before + most), least_radius));
        const double out = std::min(std::abs(radii.back() - before), most);
        depths.push_back(depths.back() - std::sqrt(height * height - out * out));
    }
    const double turn = 2 * std::numbers::pi - (pattern.closed ? 0 : seam_gap);
    std::vector<Vec3> places;
    for (std::size_t vertex = 0; vertex < sheet.ring.size(); ++vertex) {
        const double angle = sheet.share[vertex] * turn, radius = radii[sheet.ring[vertex]];
        places.push_back({radius * std::cos(angle), radius * std::sin(angle), depths[sheet.ring[vertex]]});
    }
    return places;
}

// Rows one after the other across the line, from the places of its stitches on.
std::vector<Vec3> from_line(const RingSheet& sheet, const Beginning& begun, const Inputs& in) {
    const std::size_t count = begun.on_line, bays = begun.closed ? count : count - 1;
    const auto& [curve, measure] = *begun.line;
    std::vector<Vec3> on_line, across;
    for (std::size_t at = 0; at < count; ++at) {
        const double so_far =
            std::min(measure.total(), measure.total() / static_cast<double>(bays) * static_cast<double>(at));
        const CurvePoint point = evaluate(curve, measure.parameter_at(so_far));
        on_line.push_back(point.position);
        across.push_back(across_line(in.word("towards"), point.along));
    }
    std::vector<Vec3> places;
    for (std::size_t vertex = 0; vertex < sheet.ring.size(); ++vertex) {
        const double at = sheet.share[vertex] * static_cast<double>(bays);
        const std::size_t before = std::min(static_cast<std::size_t>(at), bays - 1),
                          next = (before + 1) % count;
        const double beyond = at - static_cast<double>(before);
        const auto between = [&](const std::vector<Vec3>& of) {
            return of[before] * (1 - beyond) + of[next] * beyond;
        };
        places.push_back(between(on_line) * (1 / in.number("edge")) +
                         unit_or_zero(between(across)) *
                             (std::sqrt(0.75) * static_cast<double>(sheet.ring[vertex])));
    }
    return places;
}

void add_fields(const RingSheet& sheet, Mesh::Parts& parts) {
    Doubles ring, stitch, angle;
    for (std::size_t vertex = 0; vertex < sheet.ring.size(); ++vertex) {
        ring.push_back(sheet.ring[vertex]);
        stitch.push_back(sheet.stitch[vertex]);
        angle.push_back(2 * std::numbers::pi * sheet.share[vertex]);
    }
    parts.fields = {{"ring", Column(std::move(ring)), plain_number},
                    {"stitch", Column(std::move(stitch)), plain_number},
                    {"angle", Column(std::move(angle)), an_angle}};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto begun = beginning(in);
    if (!begun) return begun.error();
    const auto pattern = pattern_of(in, *begun, run);
    if (!pattern) return pattern.error();
    const auto sheet = ring_sheet(*pattern);
    if (!sheet) return about_slot(sheet.error(), in.word("counts"));
    SheetToBring bring;
    bring.from_slot = "line";
    add_faces(bring.parts, sheet->triangles);
    add_fields(*sheet, bring.parts);
    bring.triangles = sheet->triangles;
    bring.vertex_count = sheet->ring.size();
    bring.rest = [](std::uint32_t, std::uint32_t) { return 1.0; };
    if (begun->centre()) {
        bring.from = around_centre(*sheet, *pattern);
    } else {
        // Edges on the line are as long as it has room for.
        bring.from = from_line(*sheet, *begun, in);
        bring.held.assign(bring.from.size(), 0);
        std::fill_n(bring.held.begin(), begun->on_line, char{1});
    }
    return brought(std::move(bring), in, run);
}

Estimate estimate(const Inputs& in) {
    const auto begun = beginning(in);
    const auto counts = begun ? wanted_counts(in, *begun, Run()) : Result<Doubles>(begun.error());
    if (!counts) return {};
    double vertices = begun->flat_count(1), most = 1;
    for (std::size_t ring = 0; ring < counts->size(); ++ring) {
        vertices += (*counts)[ring];
        most = std::max(most, (*counts)[ring] / begun->flat_count(ring + 1));
    }
    return brought_estimate(vertices, most);
}

}  // namespace

StepKind grow_sheet() {
    SlotSpec rings = count_slot("rings", "Rings", "8", 1);
    rings.most = most_rings;
    SlotSpec factor = number_slot("factor", "Times", "1.1");
    factor.least = 0;
    factor.above_least = true;
    return {
        .key = "sheet.grow",
        .verb = "Grow a sheet",
        .synonyms = "frill ruffle crochet hyperbolic coral kale rings stitches growing disc tube dome collar",
        .sentence =
            "Grow a sheet from {from}[more&from=centre|, {seam},][from=line| {line}, {towards},] by {rings} "
            "rings, "
            "{counts}[counts=factor| {factor} times what lies flat][counts=every| every {every}]"
            "[counts=formula| {formula}], " +
            std::string(brought_text),
        .slots = with_brought_slots(
            {choice_slot("from", "From",
                         {{"centre", "a centre", "rings around the origin"},
                          {"line", "the line", "rows from a curve on, which stays where it is"}}),
             choice_slot("seam", "Seam",
                         {{"closed", "closed all round", ""}, {"open", "open along a seam", ""}}),
             reference_slot("line", "Line", {Kind::curves}),
             choice_slot("towards", "Towards",
                         {{"up", "upwards", ""},
                          {"down", "downwards", ""},
                          {"out", "outwards", "level, to the right of where it leads"}}),
             rings,
             choice_slot("counts", "Stitches",
                         {{"factor", "each with", "1: flat, or a tube; more: it frills; less: it closes"},
                          {"every", "with one stitch more after", "as it is crocheted"},
                          {"formula", "with stitches by", "ring by ring"}}),
             factor, count_slot("every", "Every", "4", 1),
             formula_slot("formula", formula_label, "flat * (1 + 0.05 * ring)")}),
        .results = {Kind::mesh},
        .result_name = "sheet",
        .help =
            "A sheet of triangles with equal edges, made ring by ring. How many stitches a ring has says "
            "what "
            "becomes of it: as many as lie flat and it is a disc, or a tube over a closed line; more, and "
            "there "
            "is no room for them but in folds, as in corals and kale; fewer, and it closes to a dome. It "
            "grows "
            "from where it lies, pushes itself aside and never goes through itself, until its edges are as "
            "alike as asked. ‘ring’, ‘stitch’ and ‘angle’ are numbers of its vertices.",
        .drawn_plain = true,
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(rings_site)}},
    };
}

}  // namespace plume
