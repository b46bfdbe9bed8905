#include "core/milling/flat_rehearsal.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/levels/line_strips.hpp"
#include "core/milling/near_lines.hpp"

namespace plume {
namespace {

constexpr double true_to = 0.01;             // of arcs, mm
constexpr std::size_t most_looks = 400'000;  // along all outlines, or all cuts
constexpr auto never = std::numeric_limits<std::size_t>::max();

// A piece of what a move does.
struct Trace {
    FlatPiece piece;
    std::size_t move = 0;
    FlatDeed deed = FlatDeed::travels;

    double length() const { return std::hypot(piece.to.x - piece.from.x, piece.to.y - piece.from.y); }
    FlatPoint at(double share) const {
        return {std::lerp(piece.from.x, piece.to.x, share), std::lerp(piece.from.y, piece.to.y, share)};
    }
};

double length_of(const std::vector<FlatPiece>& pieces) {
    double length = 0;
    for (const FlatPiece& piece : pieces)
        length += Trace{piece}.length();
    return length;
}

void add_pieces(std::vector<FlatPiece>& pieces, const std::vector<FlatPoint>& places, bool closed) {
    for (std::size_t at = 0; at + (closed ? 0 : 1) < places.size(); ++at)
        pieces.push_back({places[at], places[(at + 1) % places.size()]});
}

// Calls back along a piece, its middle places and how much of it each stands for.
template <class Each>
void along(const FlatPiece& piece, double apart, const Each& each) {
    const Trace trace{piece};
    const double whole = trace.length();
    const int looks = std::max(1, static_cast<int>(std::ceil(whole / apart)));
    for (int look = 0; look < looks; ++look)
        each(trace.at((look + 0.5) / looks), whole / looks);
}

double apart_for(double length, double finest) {
    return std::max(finest, length / static_cast<double>(most_looks));
}

// One sheet against what was done to it.
class SheetLook {
public:
    SheetLook(const FlatSheet& sheet, const FlatRehearsalJob& job, const ToolPath& path,
              const std::vector<Trace>& traces)
        : sheet_(sheet),
          job_(job),
          path_(path),
          traces_(traces),
          through_(those(FlatDeed::cuts)),
          marks_(those(FlatDeed::marks)),
          cut_pieces_(pieces_of(through_)),
          mark_pieces_(pieces_of(marks_)),
          rings_(ring_edges(sheet)),
          outlines_(outline_pieces()),
          best_cuts_(best_pieces()),
          open_(open_pieces()) {}

    Status look(FlatRehearsal& made, std::size_t number, const Run& run) {
        look_for_uncut(made, number);
        if (run.cancelled()) return cancelled_error();
        look_for_unmarked(made);
        look_for_bites(made);
        if (run.cancelled()) return cancelled_error();
        look_for_loose_cuts(made);
        return Done{};
    }

private:
    std::vector<Trace> those(FlatDeed deed) const {
        std::vector<Trace> some;
        for (const Trace& trace : traces_)
            if (trace.deed == deed) some.push_back(trace);
        return some;
    }
    static NearPieces pieces_of(const std::vector<Trace>& traces) {
        std::vector<FlatPiece> pieces;
        for (const Trace& trace : traces)
            pieces.push_back(trace.piece);
        return NearPieces(std::move(pieces));
    }
    static std::vector<FlatEdge> ring_edges(const FlatSheet& sheet) {
        std::vector<FlatEdge> edges;
        for (std::uint32_t ring = 0; ring < sheet.rings.size(); ++ring) {
            const std::vector<FlatPoint>& corners = sheet.rings[ring].outline.corners();
            for (std::size_t at = 0; at < corners.size(); ++at)
                edges.push_back({corners[at], corners[(at + 1) % corners.size()], ring});
        }
        return edges;
    }
    NearPieces outline_pieces() const {
        std::vector<FlatPiece> pieces;
        for (const CutRing& ring : sheet_.rings)
            add_pieces(pieces, ring.outline.corners(), true);
        return NearPieces(std::move(pieces));
    }
    // Where a cut that wastes nothing and bites nothing goes along.
    NearPieces best_pieces() const {
        std::vector<FlatPiece> pieces;
        for (const CutRing& ring : sheet_.rings) {
            if (job_.kerf <= 0) {
                add_pieces(pieces, ring.outline.corners(), true);
                continue;
            }
            const auto loops = offset_loops(ring.outline, ring.is_hole() ? -job_.kerf / 2 : job_.kerf / 2,
                                            OffsetCorners::round);
            if (!loops) continue;
            for (const std::vector<FlatPoint>& loop : *loops)
                add_pieces(pieces, loop, true);
        }
        return NearPieces(std::move(pieces));
    }
    NearPieces open_pieces() const {
        std::vector<FlatPiece> pieces;
        for (const OpenCut& open : sheet_.open)
            add_pieces(pieces, open.places, false);
        return NearPieces(std::move(pieces));
    }
    double finest() const { return std::max(1.0, job_.kerf / 2); }
    std::uint32_t line_of(const Trace& trace) const { return path_.moves[trace.move].line; }

    // Of a line what no trace comes near, and the move at which it is done whole: never, if it is not.
    struct Covered {
        double missed = 0, too_tight = 0;
        FlatPoint first_missed;
        std::size_t done_at = never;
    };
    // Without `best` no place is too tight.
    Covered covered(const std::vector<FlatPiece>& pieces, const NearPieces& by,
                    const std::vector<Trace>& traces, double reach, const NearPieces* best) const {
        Covered covered;
        std::size_t last = 0;
        bool any = false;
        std::vector<NearPiece> near;
        const double apart = apart_for(length_of(pieces), finest());
        for (const FlatPiece& piece : pieces)
            along(piece, apart, [&](FlatPoint place, double length) {
                by.find(place, reach, near);
                std::size_t first = never;
                for (const NearPiece& one : near)
                    first = std::min(first, traces[one.piece].move);
                if (first == never && best) {
                    const auto nearest = best->nearest(place);
                    if (!nearest || nearest->distance > reach) {
                        covered.too_tight += length;
                        return;
                    }
                }
                if (first == never && covered.missed == 0) covered.first_missed = place;
                if (first == never) covered.missed += length;
                any = any || first != never;
                last = std::max(last, first);
            });
        if (any) covered.done_at = last;
        return covered;
    }

    void look_for_uncut(FlatRehearsal& made, std::size_t number) {
        const auto count = [&](const Covered& line) {
            if (made.uncut == 0 && line.missed > 0) {
                made.first_uncut = line.first_missed;
                made.first_uncut_sheet = number;
            }
            made.uncut += line.missed;
            made.too_tight += line.too_tight;
        };
        for (const CutRing& ring : sheet_.rings) {
            std::vector<FlatPiece> pieces;
            add_pieces(pieces, ring.outline.corners(), true);
            const Covered line =
                covered(pieces, cut_pieces_, through_, job_.kerf / 2 + job_.within, &best_cuts_);
            ring_done_.push_back(line.done_at);
            count(line);
        }
        for (const OpenCut& open : sheet_.open) {
            std::vector<FlatPiece> pieces;
            add_pieces(pieces, open.places, false);
            count(covered(pieces, cut_pieces_, through_, job_.within, nullptr));
        }
    }

    void look_for_unmarked(FlatRehearsal& made) const {
        for (const FlatLine& mark : sheet_.marks) {
            std::vector<FlatPiece> pieces;
            add_pieces(pieces, mark.places, mark.closed);
            made.unmarked += covered(pieces, mark_pieces_, marks_, job_.within, nullptr).missed;
        }
    }

    // How far a cut's middle keeps off what is kept, less than nothing within it.
    double clearance(FlatPoint place, std::vector<std::uint32_t>& around) const {
        const auto nearest = outlines_.nearest(place);
        if (!nearest) return std::numeric_limits<double>::infinity();
        rings_.find_around(place, around);
        return around.size() % 2 == 1 ? -nearest->distance : nearest->distance;
    }
    bool on_open_cut(FlatPoint place) const {
        const auto nearest = open_.nearest(place);
        return nearest && nearest->distance <= job_.within;
    }
    double beyond_rim(FlatPoint place) const {
        return std::max({-place.x, -place.y, place.x - sheet_.width, place.y - sheet_.depth});
    }

    void look_for_bites(FlatRehearsal& made) const {
        double whole = 0;
        for (const Trace& trace : traces_)
            whole += trace.length();
        const double apart = apart_for(whole, finest());
        std::vector<std::uint32_t> around;
        for (const Trace& trace : traces_)
            if (trace.deed >= FlatDeed::cuts_part_way)
                along(trace.piece, apart, [&](FlatPoint place, double length) {
                    const double beyond = beyond_rim(place);
                    if (beyond > job_.within) {
                        if (made.off_sheet == 0) made.first_off_sheet = line_of(trace);
                        made.off_sheet = std::max(made.off_sheet, beyond);
                    }
                    const double bite = job_.kerf / 2 - clearance(place, around);
                    if (bite <= job_.within || on_open_cut(place)) return;
                    if (made.bitten == 0) made.first_bite = line_of(trace);
                    made.bitten += length;
                    made.deepest_bite = std::max(made.deepest_bite, bite);
                });
    }

    // What is within a ring after that was cut whole. The way around it ends a little later.
    void look_for_loose_cuts(FlatRehearsal& made) const {
        std::vector<std::uint32_t> around;
        std::size_t last = never;
        for (const Trace& trace : traces_) {
            if (trace.deed == FlatDeed::travels || trace.move == last) continue;
            const FlatPoint middle = trace.at(0.5);
            rings_.find_around(middle, around);
            const bool loose = std::ranges::any_of(around, [&](std::uint32_t ring) {
                return trace.move > ring_done_[ring] && is_well_within(middle, ring);
            });
            if (!loose) continue;
            last = trace.move;
            if (made.loose_cuts++ == 0) made.first_loose_cut = line_of(trace);
        }
    }
    bool is_well_within(FlatPoint place, std::uint32_t ring) const {
        const std::vector<FlatPoint>& corners = sheet_.rings[ring].outline.corners();
        const double away = job_.kerf + job_.within;
        if (outlines_.nearest(place)->distance > away) return true;
        for (std::size_t at = 0; at < corners.size(); ++at)
            if (distance(place, {corners[at], corners[(at + 1) % corners.size()]}) <= away) return false;
        return true;
    }

    const FlatSheet& sheet_;
    const FlatRehearsalJob& job_;
    const ToolPath& path_;
    const std::vector<Trace>& traces_;
    std::vector<Trace> through_, marks_;
    NearPieces cut_pieces_, mark_pieces_;
    LineStrips rings_;
    NearPieces outlines_, best_cuts_, open_;
    std::vector<std::size_t> ring_done_;
};

bool goes_sideways(Vec3 from, const ToolMove& move) {
    return move.form == ToolMove::Form::arc || from.x != move.to.x || from.y != move.to.y;
}

std::string mm(double length) {
    return short_text(length, 2) + " mm";
}
std::string metres(double length) {
    return short_text(length / 1000, 4) + " m";
}
std::string in_line(std::uint32_t line) {
    return line > 0 ? ", the first in line " + std::to_string(line) : std::string();
}

}  // namespace

std::vector<FlatDeed> deeds_of(const ToolPath& path, const FlatRehearsalJob& job) {
    std::vector<FlatDeed> deeds(path.moves.size(), FlatDeed::travels);
    const auto given = [](const ToolMove& move) { return std::max(move.strength, 1.0) / move.feed; };
    const auto burns = [](const ToolMove& move) { return move.on && move.form != ToolMove::Form::rapid; };
    double most = 0;
    if (job.beam)
        for (const ToolMove& move : path.moves)
            if (burns(move)) most = std::max(most, given(move));
    constexpr double as_much = 0.9, through = 1e-3;
    Vec3 at = path.start;
    for (std::size_t move = 0; move < path.moves.size(); ++move) {
        const ToolMove& made = path.moves[move];
        if (job.beam) {
            if (burns(made)) deeds[move] = given(made) >= as_much * most ? FlatDeed::cuts : FlatDeed::marks;
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
    if (uncut > 0) parts.push_back(metres(uncut) + " uncut");
    if (unmarked > 0) parts.push_back(metres(unmarked) + " unmarked");
    if (bitten > 0) parts.push_back("cuts " + mm(deepest_bite) + " into parts");
    if (off_sheet > 0) parts.push_back("leaves the sheet by " + mm(off_sheet));
    if (loose_cuts > 0) parts.push_back(count_text(loose_cuts, "cut", "cuts") + " in what is loose");
    if (rapid_cuts > 0) parts.push_back(count_text(rapid_cuts, "rapid move cuts", "rapid moves cut"));
    if (missing_sheets > 0)
        parts.push_back(count_text(missing_sheets, "sheet", "sheets") + " more than there are");
    std::string text;
    for (const std::string& part : parts)
        text += (text.empty() ? "" : " · ") + part;
    return text;
}

std::vector<std::string> FlatRehearsal::details() const {
    std::vector<std::string> lines;
    if (uncut > 0)
        lines.push_back("uncut first about X " + short_text(first_uncut.x, 5) + " Y " +
                        short_text(first_uncut.y, 5) + " mm on sheet " +
                        std::to_string(first_uncut_sheet + 1));
    if (bitten > 0) lines.push_back("cuts into parts along " + metres(bitten) + in_line(first_bite));
    if (loose_cuts > 0) lines.push_back("cuts within what was cut loose before" + in_line(first_loose_cut));
    if (off_sheet > 0) lines.push_back("cuts off the sheet" + in_line(first_off_sheet));
    if (rapid_cuts > 0) lines.push_back("rapid moves that cut" + in_line(first_rapid_cut));
    if (too_tight > 0)
        lines.push_back(metres(too_tight) + " of outlines in corners and openings too tight for the cut");
    lines.push_back(metres(cut) + " of cuts" + (marked > 0 ? ", " + metres(marked) + " marked" : "") + ", " +
                    metres(travelled) + " between");
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
    for (std::size_t sheet = 0; sheet < job.sheets.size(); ++sheet) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(sheet) / static_cast<double>(job.sheets.size()));
        SheetLook look(job.sheets[sheet], job, path, traces[sheet]);
        if (Status done = look.look(made, sheet, run); !done) return done.error();
    }
    return made;
}

}  // namespace plume
