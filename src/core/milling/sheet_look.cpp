#include "core/milling/sheet_look.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/parallel_results.hpp"

namespace plume {
namespace {

constexpr std::size_t most_looks = 400'000;
constexpr auto never = std::numeric_limits<std::size_t>::max();

FlatPoint at(const FlatEdge& piece, double share) {
    return {std::lerp(piece.from.x, piece.to.x, share), std::lerp(piece.from.y, piece.to.y, share)};
}

// Calls back along a piece, its middle places and how much of it each stands for.
template <class Each>
void look_along(const FlatEdge& piece, double apart, const Each& each) {
    const double whole = length_of(piece);
    const double wanted = std::ceil(whole / apart);
    // Once where lengths are beyond numbers.
    const int looks = wanted > 1 && wanted <= static_cast<double>(most_looks) ? static_cast<int>(wanted) : 1;
    for (int look = 0; look < looks; ++look)
        each(at(piece, (look + 0.5) / looks), whole / looks);
}

std::vector<Trace> those(const std::vector<Trace>& traces, FlatDeed deed) {
    std::vector<Trace> some;
    for (const Trace& trace : traces)
        if (trace.deed == deed) some.push_back(trace);
    return some;
}
NearPieces pieces_of(const std::vector<Trace>& traces) {
    std::vector<FlatEdge> pieces;
    pieces.reserve(traces.size());
    for (const Trace& trace : traces)
        pieces.push_back(trace.piece);
    return NearPieces(std::move(pieces));
}
NearPieces open_pieces(const FlatSheet& sheet) {
    std::vector<FlatEdge> pieces;
    for (const OpenCut& open : sheet.open)
        add_edges(pieces, open.places, false);
    return NearPieces(std::move(pieces));
}
NearPieces best_pieces(const FlatSheet& sheet, double kerf) {
    std::vector<FlatEdge> pieces;
    for (const CutRing& ring : sheet.rings)
        for (const std::vector<FlatPoint>& loop : loops_beside(ring, kerf))
            add_edges(pieces, loop, true);
    return NearPieces(std::move(pieces));
}

}  // namespace

double looks_apart(double whole_length, double kerf) {
    return std::max({1.0, kerf / 2, whole_length / static_cast<double>(most_looks)});
}

// A line by its pieces.
struct SheetLook::Along {
    std::vector<FlatEdge> pieces;
    Along(const std::vector<FlatPoint>& places, bool closed) { add_edges(pieces, places, closed); }
};

// Of a line what no trace comes near, and the move at which it is done whole: never, if it is not.
struct SheetLook::Covered {
    double missed = 0, too_tight = 0;
    FlatPoint first_missed;
    std::size_t done_at = never;
};

struct SheetLook::Bitten {
    double length = 0, deepest = 0, off_sheet = 0;
};

SheetLook::SheetLook(const FlatSheet& sheet, std::size_t number, const FlatRehearsalJob& job,
                     const ToolPath& path, const std::vector<Trace>& traces)
    : sheet_(sheet),
      number_(number),
      job_(job),
      path_(path),
      traces_(traces),
      through_(those(traces, FlatDeed::cuts)),
      marks_(those(traces, FlatDeed::marks)),
      cut_pieces_(pieces_of(through_)),
      mark_pieces_(pieces_of(marks_)),
      open_(open_pieces(sheet)),
      kept_(sheet.rings) {}

Status SheetLook::look(FlatRehearsal& made, double outlines_apart, double traces_apart, const Run& run) {
    if (Status done = look_for_uncut(made, outlines_apart, run); !done) return done;
    if (Status done = look_for_unmarked(made, outlines_apart, run); !done) return done;
    if (Status done = look_for_bites(made, traces_apart, run); !done) return done;
    return look_for_loose_cuts(made, traces_apart, run);
}

// Without `best` no place is too tight.
SheetLook::Covered SheetLook::covered(const Along& line, const NearPieces& by,
                                      const std::vector<Trace>& traces, double reach, const NearPieces* best,
                                      double apart) const {
    Covered covered;
    std::size_t last = 0;
    bool any = false;
    std::vector<NearPiece> near;
    for (const FlatEdge& piece : line.pieces)
        look_along(piece, apart, [&](FlatPoint place, double length) {
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

Result<std::vector<SheetLook::Covered>> SheetLook::all_covered(const std::vector<Along>& lines,
                                                               const NearPieces& by,
                                                               const std::vector<Trace>& traces, double reach,
                                                               const NearPieces* best, double apart,
                                                               const Run& run) const {
    return parallel_results<Covered>(lines.size(), run, [&](std::size_t line) -> Result<Covered> {
        return covered(lines[line], by, traces, reach, best, apart);
    });
}

Status SheetLook::look_for_uncut(FlatRehearsal& made, double apart, const Run& run) {
    std::vector<Along> outlines, open;
    for (const CutRing& ring : sheet_.rings)
        outlines.emplace_back(ring.outline.corners(), true);
    for (const OpenCut& cut : sheet_.open)
        open.emplace_back(cut.places, false);
    const NearPieces best = best_pieces(sheet_, job_.kerf);
    const auto rings =
        all_covered(outlines, cut_pieces_, through_, job_.kerf / 2 + job_.within, &best, apart, run);
    if (!rings) return rings.error();
    const auto others = all_covered(open, cut_pieces_, through_, job_.within, nullptr, apart, run);
    if (!others) return others.error();
    for (const Covered& ring : *rings)
        ring_done_.push_back(ring.done_at);
    for (const auto* lines : {&*rings, &*others})
        for (const Covered& line : *lines) {
            if (made.uncut == 0 && line.missed > 0) {
                made.first_uncut = line.first_missed;
                made.first_uncut_sheet = number_;
            }
            made.uncut += line.missed;
            made.too_tight += line.too_tight;
        }
    return Done{};
}

Status SheetLook::look_for_unmarked(FlatRehearsal& made, double apart, const Run& run) const {
    std::vector<Along> lines;
    for (const FlatLine& mark : sheet_.marks)
        lines.emplace_back(mark.places, mark.closed);
    const auto marks = all_covered(lines, mark_pieces_, marks_, job_.within, nullptr, apart, run);
    if (!marks) return marks.error();
    for (const Covered& mark : *marks)
        made.unmarked += mark.missed;
    return Done{};
}

SheetLook::Bitten SheetLook::bitten(const Trace& trace, double apart) const {
    Bitten bitten;
    look_along(trace.piece, apart, [&](FlatPoint place, double length) {
        bitten.off_sheet =
            std::max({bitten.off_sheet, -place.x, -place.y, place.x - sheet_.width, place.y - sheet_.depth});
        const double bite = job_.kerf / 2 - kept_.clearance(place);
        if (bite <= job_.within) return;
        const auto nearest = open_.nearest(place);
        if (nearest && nearest->distance <= job_.within) return;
        bitten.length += length;
        bitten.deepest = std::max(bitten.deepest, bite);
    });
    return bitten;
}

Status SheetLook::look_for_bites(FlatRehearsal& made, double apart, const Run& run) const {
    std::vector<Bitten> all(traces_.size());
    constexpr std::size_t block = 512;
    const bool done = parallel_blocks(traces_.size(), block, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t trace = begin; trace < end; ++trace)
            if (traces_[trace].deed >= FlatDeed::cuts_part_way) all[trace] = bitten(traces_[trace], apart);
    });
    if (!done) return cancelled_error();
    for (std::size_t trace = 0; trace < all.size(); ++trace) {
        if (all[trace].off_sheet > job_.within) {
            if (made.off_sheet == 0) made.first_off_sheet = line_of(traces_[trace]);
            made.off_sheet = std::max(made.off_sheet, all[trace].off_sheet);
        }
        if (all[trace].length == 0) continue;
        if (made.bitten == 0) made.first_bite = line_of(traces_[trace]);
        made.bitten += all[trace].length;
        made.deepest_bite = std::max(made.deepest_bite, all[trace].deepest);
    }
    return Done{};
}

// At the beginning of each cut, and along it a little less often than bites are looked for.
Status SheetLook::look_for_loose_cuts(FlatRehearsal& made, double apart, const Run& run) const {
    constexpr double seldom = 10;
    double passed = 0;
    std::size_t last = never;
    for (std::size_t at = 0; at < traces_.size(); ++at) {
        const Trace& trace = traces_[at];
        const bool begins = at == 0 || traces_[at - 1].piece.to.x != trace.piece.from.x ||
                            traces_[at - 1].piece.to.y != trace.piece.from.y;
        passed += length_of(trace.piece);
        if (trace.move == last || (!begins && passed < seldom * apart)) continue;
        if (run.cancelled()) return cancelled_error();
        passed = 0;
        if (!is_loose(trace)) continue;
        last = trace.move;
        if (made.loose_cuts++ == 0) made.first_loose_cut = line_of(trace);
    }
    return Done{};
}

// Within a ring after that was cut whole. The way around it ends a little later.
bool SheetLook::is_loose(const Trace& trace) const {
    const FlatPoint middle = at(trace.piece, 0.5);
    return std::ranges::any_of(kept_.rings_around(middle), [&](std::uint32_t ring) {
        return trace.move > ring_done_[ring] && is_well_within(middle, ring);
    });
}

bool SheetLook::is_well_within(FlatPoint place, std::uint32_t ring) const {
    const std::vector<FlatPoint>& corners = sheet_.rings[ring].outline.corners();
    const double away = job_.kerf + job_.within;
    if (kept_.distance_from_outlines(place) > away) return true;
    for (std::size_t corner = 0; corner < corners.size(); ++corner)
        if (distance(place, {corners[corner], corners[(corner + 1) % corners.size()]}) <= away) return false;
    return true;
}

}  // namespace plume
