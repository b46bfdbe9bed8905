#include "core/milling/flat_cutting.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/milling/milling_paths.hpp"
#include "core/milling/near_lines.hpp"

namespace plume {
namespace {

constexpr std::size_t most_moves = 5'000'000;
constexpr double true_to = 0.01;  // of arcs, mm

FlatPoint between(FlatPoint from, FlatPoint to, double share) {
    return {std::lerp(from.x, to.x, share), std::lerp(from.y, to.y, share)};
}

// One cut without lifting: `lead`, where there is one, then its places. What falls off lies at the left of
// closed ones.
struct Cut {
    std::vector<FlatPoint> places;
    bool closed = false, mark = false;
    std::optional<FlatPoint> lead = {};
    std::optional<std::size_t> ring = {};  // of the sheet, that it goes along

    FlatPoint begin() const { return lead.value_or(places.front()); }
    FlatPoint end() const { return closed ? places.front() : places.back(); }
};

double side(const std::vector<FlatPoint>& loop, std::size_t at) {
    return length_of({loop[at], loop[(at + 1) % loop.size()]});
}
// Its longest sides, the longest first.
std::vector<std::size_t> longest_sides(const std::vector<FlatPoint>& loop) {
    constexpr std::size_t most = 8;
    std::vector<std::size_t> sides(loop.size());
    std::iota(sides.begin(), sides.end(), std::size_t{0});
    const auto kept = sides.begin() + static_cast<std::ptrdiff_t>(std::min(most, sides.size()));
    std::ranges::partial_sort(sides, kept, [&](std::size_t one, std::size_t other) {
        const double a = side(loop, one), b = side(loop, other);
        return std::abs(a - b) > 1e-9 * (a + b) ? a > b : one < other;
    });
    sides.erase(kept, sides.end());
    return sides;
}
// The places of a loop from the middle of a side on, or from its end where it is short.
std::vector<FlatPoint> from_side(const std::vector<FlatPoint>& loop, std::size_t at, double long_enough) {
    std::vector<FlatPoint> turned;
    if (side(loop, at) > long_enough) turned.push_back(between(loop[at], loop[(at + 1) % loop.size()], 0.5));
    for (std::size_t next = 1; next <= loop.size(); ++next)
        turned.push_back(loop[(at + next) % loop.size()]);
    return turned;
}

bool crossing(const FlatEdge& one, const FlatEdge& other) {
    const auto turn = [](const FlatEdge& piece, FlatPoint place) {
        return (piece.to.x - piece.from.x) * (place.y - piece.from.y) -
               (piece.to.y - piece.from.y) * (place.x - piece.from.x);
    };
    const auto parts = [&](const FlatEdge& piece, const FlatEdge& by) {
        return (turn(by, piece.from) > 0) != (turn(by, piece.to) > 0) && turn(by, piece.from) != 0 &&
               turn(by, piece.to) != 0;
    };
    return parts(one, other) && parts(other, one);
}

// Where all closed cuts of a sheet run.
class AllLoops {
public:
    explicit AllLoops(const std::vector<Cut>& cuts) : AllLoops(edges_of(cuts)) {}

    // Cuts nest: what an even number of them is around falls off.
    bool fall_off_at(FlatPoint place) const {
        std::vector<std::uint32_t> around;
        strips_.find_around(place, around);
        return around.size() % 2 == 0;
    }
    bool cross(const FlatEdge& way) const {
        std::vector<NearPiece> near;
        pieces_.find(between(way.from, way.to, 0.5), length_of(way) / 2, near);
        return std::ranges::any_of(
            near, [&](const NearPiece& one) { return crossing(way, pieces_.piece(one.piece)); });
    }

private:
    explicit AllLoops(const std::vector<FlatEdge>& edges) : pieces_(edges), strips_(edges) {}
    static std::vector<FlatEdge> edges_of(const std::vector<Cut>& cuts) {
        std::vector<FlatEdge> edges;
        for (std::uint32_t line = 0; line < cuts.size(); ++line)
            add_edges(edges, cuts[line].places, true, line);
        return edges;
    }

    NearPieces pieces_;
    LineStrips strips_;
};

// The cuts of one sheet.
class SheetCuts {
public:
    SheetCuts(const FlatSheet& sheet, const FlatTool& tool, FlatCuts& made)
        : sheet_(sheet), tool_(tool), made_(made) {}

    Result<std::vector<Cut>> make(const Run& run) {
        for (std::size_t ring = 0; ring < sheet_.rings.size(); ++ring) {
            if (run.cancelled()) return cancelled_error();
            add_loops(ring);
        }
        choose_beginnings();
        for (const OpenCut& open : sheet_.open)
            cuts_.push_back({open.places});
        return std::move(cuts_);
    }

private:
    void add_loops(std::size_t at) {
        const CutRing& ring = sheet_.rings[at];
        auto loops = loops_beside(ring, tool_.kerf);
        if (loops.empty() && made_.too_narrow++ == 0) made_.first_too_narrow = ring.outline.corners().front();
        for (std::vector<FlatPoint>& loop : loops) {
            // Loops that close off what lies between the arms of a part turn the other way.
            const bool anticlockwise = signed_area(loop) > 0;
            const bool falls_out = anticlockwise == ring.is_hole();
            if (falls_out != anticlockwise) std::ranges::reverse(loop);
            Cut cut;
            cut.closed = true;
            cut.ring = at;
            cut.places = std::move(loop);
            cuts_.push_back(std::move(cut));
        }
    }

    // In the middle of a long side, where there is room beside it.
    void choose_beginnings() {
        const AllLoops loops(cuts_);
        for (Cut& cut : cuts_) {
            begin_well(cut, loops);
            if (tool_.lead_in > 0 && !cut.lead) ++made_.begun_on_line;
        }
    }
    void begin_well(Cut& cut, const AllLoops& loops) const {
        const std::vector<FlatPoint> loop = cut.places;
        const std::vector<std::size_t> sides = longest_sides(loop);
        constexpr int shortest = 3;  // an eighth of what is wished for
        for (int halved = 0; halved <= shortest && tool_.lead_in > 0; ++halved)
            for (const std::size_t at : sides) {
                cut.places = from_side(loop, at, 2 * tool_.lead_in);
                cut.lead = lead_of(cut, tool_.lead_in / (1 << halved), loops);
                if (cut.lead) return;
            }
        cut.places = from_side(loop, sides.front(), 2 * tool_.lead_in);
    }
    // At 45 degrees towards the line, out of what falls off; nothing without room.
    std::optional<FlatPoint> lead_of(const Cut& cut, double length, const AllLoops& loops) const {
        const FlatPoint first = cut.places[0], next = cut.places[1];
        const double along = length_of({first, next}), reach = length * std::sqrt(0.5) / along,
                     x = reach * (next.x - first.x), y = reach * (next.y - first.y);
        const FlatPoint lead{first.x - x - y, first.y - y + x};
        const bool on_sheet = lead.x >= 0 && lead.y >= 0 && lead.x <= sheet_.width && lead.y <= sheet_.depth;
        if (on_sheet && loops.fall_off_at(lead) && !loops.cross({lead, first})) return lead;
        return {};
    }

    const FlatSheet& sheet_;
    const FlatTool& tool_;
    FlatCuts& made_;
    std::vector<Cut> cuts_;
};

// Cuts in the order they are made: a ring waits for what is within it.
class CutOrder {
public:
    CutOrder(const FlatSheet& sheet, const std::vector<Cut>& cuts)
        : sheet_(sheet), cuts_(cuts), waits_for_(sheet.rings.size(), 0), loops_(sheet.rings.size()) {}

    // From `at`; it ends there.
    std::vector<std::size_t> order(FlatPoint& at) {
        for (const CutRing& ring : sheet_.rings)
            if (ring.within) ++waits_for_[*ring.within];
        for (const OpenCut& open : sheet_.open)
            if (open.within) ++waits_for_[*open.within];
        for (std::size_t cut = 0; cut < cuts_.size(); ++cut) {
            if (cuts_[cut].ring)
                loops_[*cuts_[cut].ring].push_back(cut);
            else
                open_.add(cuts_[cut].begin(), cut);
        }
        for (std::size_t ring = 0; ring < waits_for_.size(); ++ring)
            if (waits_for_[ring] == 0) begin(ring);
        std::vector<std::size_t> order;
        for (auto next = open_.nearest(at); next; next = open_.nearest(at)) {
            open_.remove(cuts_[*next].begin(), *next);
            order.push_back(*next);
            at = cuts_[*next].end();
            finish(*next);
        }
        return order;
    }

private:
    void begin(std::size_t ring) {
        for (const std::size_t loop : loops_[ring])
            open_.add(cuts_[loop].begin(), loop);
        if (loops_[ring].empty()) let_go(sheet_.rings[ring].within);
    }
    void finish(std::size_t cut) {
        if (const auto ring = cuts_[cut].ring) {
            std::erase(loops_[*ring], cut);
            if (loops_[*ring].empty()) let_go(sheet_.rings[*ring].within);
        } else {
            let_go(sheet_.open[cut - (cuts_.size() - sheet_.open.size())].within);
        }
    }
    void let_go(std::optional<std::size_t> ring) {
        if (ring && --waits_for_[*ring] == 0) begin(*ring);
    }

    const FlatSheet& sheet_;
    const std::vector<Cut>& cuts_;
    std::vector<std::size_t> waits_for_;
    std::vector<std::vector<std::size_t>> loops_;  // of each ring, those that are not cut yet
    OpenPlaces open_;
};

// Marks from the nearest end on, one after the other.
std::vector<Cut> ordered_marks(const std::vector<FlatLine>& marks, FlatPoint& at) {
    OpenPlaces open;
    for (std::size_t mark = 0; mark < marks.size(); ++mark) {
        open.add(marks[mark].places.front(), 2 * mark);
        if (!marks[mark].closed) open.add(marks[mark].places.back(), 2 * mark + 1);
    }
    std::vector<Cut> ordered;
    for (auto next = open.nearest(at); next; next = open.nearest(at)) {
        const std::size_t mark = *next / 2;
        Cut& cut = ordered.emplace_back(Cut{marks[mark].places, marks[mark].closed, true});
        open.remove(cut.places.front(), 2 * mark);
        if (!cut.closed) open.remove(cut.places.back(), 2 * mark + 1);
        if (*next % 2 == 1) std::ranges::reverse(cut.places);
        at = cut.end();
    }
    return ordered;
}

class PathWriter {
public:
    PathWriter(const FlatTool& tool, ToolPath& path) : tool_(tool), path_(path) {
        if (!tool_.beam) path_.start = {0, 0, tool_.safe};
    }

    void begin_sheet(std::uint32_t sheet) {
        sheet_ = sheet;
        at_ = {};
        if (!tool_.beam) lift();
    }
    // Where the sheet can be changed.
    void go_home() { travel({0, 0}); }

    void make(const Cut& cut) {
        travel(cut.begin());
        if (tool_.beam)
            burn(cut);
        else
            cut_down(cut);
    }

private:
    double height() const { return tool_.beam ? 0 : tool_.safe; }
    ToolMove& add(ToolMove::Form form, FlatPoint to, double z) {
        ToolMove& move = path_.moves.emplace_back();
        move.form = form;
        move.to = {to.x, to.y, z};
        move.sheet = sheet_;
        at_ = to;
        return move;
    }
    void travel(FlatPoint to) { add(ToolMove::Form::rapid, to, height()); }
    void lift() { add(ToolMove::Form::rapid, at_, height()); }

    void burn(const Cut& cut) {
        const std::size_t first = path_.moves.size();
        follow(cut, 0);
        for (std::size_t move = first; move < path_.moves.size(); ++move) {
            path_.moves[move].on = true;
            path_.moves[move].strength = cut.mark ? tool_.mark_power : tool_.power;
        }
        if (!cut.mark) path_.moves[first].wait_s = tool_.pierce_s;
    }

    // Level by level, each from where the one before ended: open cuts go there and back.
    void cut_down(const Cut& cut) {
        const double depth = cut.mark ? tool_.mark_depth : tool_.depth;
        const int levels =
            cut.mark ? 1 : std::max(1, static_cast<int>(std::ceil(depth / tool_.step_down - 1e-9)));
        Cut level = cut;
        for (int at = 1; at <= levels; ++at) {
            const double z = -depth * at / levels;
            add(ToolMove::Form::line, at_, z).feed = tool_.plunge_feed;
            follow(level, z);
            level.lead.reset();
            if (!level.closed) std::ranges::reverse(level.places);
        }
        lift();
    }
    void follow(const Cut& cut, double z) {
        const double feed = cut.mark ? tool_.mark_feed : tool_.feed;
        for (std::size_t at = cut.lead ? 0 : 1; at < cut.places.size(); ++at)
            add(ToolMove::Form::line, cut.places[at], z).feed = feed;
        if (cut.closed) add(ToolMove::Form::line, cut.places.front(), z).feed = feed;
    }

    const FlatTool& tool_;
    ToolPath& path_;
    std::uint32_t sheet_ = 0;
    FlatPoint at_;
};

}  // namespace

Result<FlatCuts> flat_cuts(std::span<const FlatSheet> sheets, const FlatTool& tool, const Run& run) {
    FlatCuts made;
    PathWriter writer(tool, made.path);
    bool any = false;
    for (std::uint32_t at = 0; at < sheets.size(); ++at) {
        const auto cuts = SheetCuts(sheets[at], tool, made).make(run);
        if (!cuts) return cuts.error();
        if (cuts->empty() && sheets[at].marks.empty()) continue;
        any = true;
        writer.begin_sheet(at);
        FlatPoint place;
        for (const Cut& mark : ordered_marks(sheets[at].marks, place))
            writer.make(mark);
        for (const std::size_t cut : CutOrder(sheets[at], *cuts).order(place)) {
            writer.make((*cuts)[cut]);
            if (made.path.moves.size() > most_moves)
                return Error{ErrorCode::over_budget, "", "would need more than five million moves",
                             "Cut it into several files."};
        }
        writer.go_home();
        run.report(static_cast<double>(at + 1) / static_cast<double>(sheets.size()));
    }
    if (!any)
        return Error{ErrorCode::empty_input, "",
                     "leave nothing to be cut: all openings are narrower than a cut",
                     "Choose a thinner cutter."};
    made.path = with_arcs(made.path, true_to);
    return made;
}

}  // namespace plume
