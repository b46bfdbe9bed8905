#include "core/milling/flat_rehearsal.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/milling/rehearsal_words.hpp"
#include "core/milling/sheet_look.hpp"

namespace plume {
namespace {

constexpr double true_to = 0.01;  // of arcs, mm

bool goes_sideways(Vec3 from, const ToolMove& move) {
    return move.form == ToolMove::Form::arc || from.x != move.to.x || from.y != move.to.y;
}

// All that is to be cut or marked.
double lengths_of_lines(std::span<const FlatSheet> sheets) {
    std::vector<FlatEdge> edges;
    for (const FlatSheet& sheet : sheets) {
        for (const CutRing& ring : sheet.rings)
            add_edges(edges, ring.outline.corners(), true);
        for (const OpenCut& open : sheet.open)
            add_edges(edges, open.places, false);
        for (const FlatLine& mark : sheet.marks)
            add_edges(edges, mark.places, mark.closed);
    }
    double length = 0;
    for (const FlatEdge& edge : edges)
        length += length_of(edge);
    return length;
}

std::string length_text(double length) {
    return length < 1000 ? short_text(length, 3) + " mm" : short_text(length / 1000, 4) + " m";
}
std::string in_line(std::uint32_t line) {
    return line > 0 ? ", the first in line " + std::to_string(line) : std::string();
}

}  // namespace

std::vector<FlatDeed> deeds_of(const ToolPath& path, const FlatRehearsalJob& job) {
    std::vector<FlatDeed> deeds(path.moves.size(), FlatDeed::travels);
    const auto given = [](const ToolMove& move) { return given_a_length(move.strength, move.feed); };
    const auto burns = [](const ToolMove& move) { return move.on && move.form != ToolMove::Form::rapid; };
    double most = 0;
    if (job.beam)
        for (const ToolMove& move : path.moves)
            if (burns(move)) most = std::max(most, given(move));
    constexpr double through = 1e-3;
    Vec3 at = path.start;
    for (std::size_t move = 0; move < path.moves.size(); ++move) {
        const ToolMove& made = path.moves[move];
        if (job.beam) {
            if (burns(made)) deeds[move] = only_marks(given(made), most) ? FlatDeed::marks : FlatDeed::cuts;
        } else if (std::max(at.z, made.to.z) < -through && made.form != ToolMove::Form::rapid) {
            const double depth = -std::max(at.z, made.to.z);
            deeds[move] = depth >= job.thickness - through    ? FlatDeed::cuts
                          : depth <= job.mark_depth + through ? FlatDeed::marks
                                                              : FlatDeed::cuts_part_way;
        }
        at = made.to;
    }
    return deeds;
}

bool FlatRehearsal::as_wished() const {
    return uncut == 0 && unmarked == 0 && bitten == 0 && off_sheet == 0 && loose_cuts == 0 &&
           rapid_cuts == 0 && missing_sheets == 0;
}

std::string FlatRehearsal::summary() const {
    std::vector<std::string> parts{duration_text(path.minutes * 60),
                                   count_text(sheet_count, "sheet", "sheets")};
    if (as_wished()) parts.emplace_back("as drawn");
    if (uncut > 0) parts.push_back(length_text(uncut) + " uncut");
    if (unmarked > 0) parts.push_back(length_text(unmarked) + " unmarked");
    if (bitten > 0) parts.push_back("cuts " + mm_text(deepest_bite) + " into parts");
    if (off_sheet > 0) parts.push_back("leaves the sheet by " + mm_text(off_sheet));
    if (loose_cuts > 0) parts.push_back(count_text(loose_cuts, "cut", "cuts") + " in what is loose");
    if (rapid_cuts > 0) parts.push_back(count_text(rapid_cuts, "rapid move cuts", "rapid moves cut"));
    if (missing_sheets > 0)
        parts.push_back(count_text(missing_sheets, "sheet", "sheets") + " more than there are");
    return with_dots(parts);
}

std::vector<std::string> FlatRehearsal::details() const {
    std::vector<std::string> lines;
    if (uncut > 0)
        lines.push_back("uncut first about X " + short_text(first_uncut.x, 5) + " Y " +
                        short_text(first_uncut.y, 5) + " mm on sheet " +
                        std::to_string(first_uncut_sheet + 1));
    if (bitten > 0) lines.push_back("cuts into parts along " + length_text(bitten) + in_line(first_bite));
    if (loose_cuts > 0) lines.push_back("cuts within what was cut loose before" + in_line(first_loose_cut));
    if (off_sheet > 0) lines.push_back("cuts off the sheet" + in_line(first_off_sheet));
    if (rapid_cuts > 0) lines.push_back("rapid moves that cut" + in_line(first_rapid_cut));
    if (too_tight > 0)
        lines.push_back(length_text(too_tight) +
                        " of outlines in corners and openings too tight for the cut");
    lines.push_back(length_text(cut) + " of cuts" +
                    (marked > 0 ? ", " + length_text(marked) + " marked" : "") + ", " +
                    length_text(travelled) + " between");
    lines.push_back("begun " + count_text(begun, "time", "times") + ", " +
                    count_text(move_count, "move", "moves"));
    if (waited_s > 0) lines.push_back(duration_text(waited_s) + " of waiting");
    return lines;
}

Result<FlatRehearsal> flat_rehearsed(const ToolPath& path, const FlatRehearsalJob& job, const Run& run) {
    FlatRehearsal made;
    made.path = figures_of(path, job.speeds);
    made.move_count = path.moves.size();
    const std::vector<FlatDeed> deeds = deeds_of(path, job);
    std::vector<std::vector<Trace>> traces(job.sheets.size());
    Vec3 at = path.start;
    FlatDeed before = FlatDeed::travels;
    for (std::size_t number = 0; number < path.moves.size(); ++number) {
        const ToolMove& move = path.moves[number];
        const double length = plume::length_of(at, move);
        (deeds[number] >= FlatDeed::cuts_part_way ? made.cut
         : deeds[number] == FlatDeed::marks       ? made.marked
                                                  : made.travelled) += length;
        made.waited_s += move.wait_s;
        if (before == FlatDeed::travels && deeds[number] != FlatDeed::travels) ++made.begun;
        before = deeds[number];
        const bool rapid = move.form == ToolMove::Form::rapid;
        const bool cuts_anyway =
            rapid && (job.beam ? move.on : goes_sideways(at, move) && std::min(at.z, move.to.z) < 0);
        if (cuts_anyway && made.rapid_cuts++ == 0) made.first_rapid_cut = move.line;
        made.sheet_count = std::max<std::size_t>(made.sheet_count, move.sheet + 1);
        if (deeds[number] != FlatDeed::travels && move.sheet < traces.size())
            for (const Vec3 to : places_along(at, move, true_to)) {
                traces[move.sheet].push_back({{{at.x, at.y}, {to.x, to.y}}, number, deeds[number]});
                at = to;
            }
        at = move.to;
    }
    if (made.sheet_count > job.sheets.size()) made.missing_sheets = made.sheet_count - job.sheets.size();
    const double outlines_apart = looks_apart(lengths_of_lines(job.sheets), job.kerf),
                 traces_apart = looks_apart(made.cut + made.marked, job.kerf);
    for (std::size_t sheet = 0; sheet < job.sheets.size(); ++sheet) {
        run.report(static_cast<double>(sheet) / static_cast<double>(job.sheets.size()));
        SheetLook look(job.sheets[sheet], sheet, job, path, traces[sheet]);
        if (Status done = look.look(made, outlines_apart, traces_apart, run); !done) return done.error();
    }
    return made;
}

}  // namespace plume
