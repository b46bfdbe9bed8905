#include "core/milling/milling_paths.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geometry/levels/mesh_levels.hpp"
#include "core/geometry/meshes/mesh_borders.hpp"
#include "core/milling/surface_ways.hpp"

namespace plume {
namespace {

constexpr std::size_t most_moves = 5'000'000;
constexpr std::size_t most_lines = 1'000'000;
// Places that are looked at, at least.
constexpr double most_looks = 30e6;

using Runs = std::vector<TipRun>;

struct Rectangle {
    Vec3 low, high;
    Vec3 middle() const { return (low + high) * 0.5; }
};
// As far as the axis of the cutter may go.
Rectangle reach_over(const Mesh& form, double radius) {
    const Box bounds = form.bounds();
    return {{bounds.low.x - radius, bounds.low.y - radius, bounds.low.z},
            {bounds.high.x + radius, bounds.high.y + radius, bounds.high.z}};
}

Error too_many_lines(const char* slot = "apart") {
    return about_slot(
        Error{ErrorCode::over_budget, "", "makes more paths than can be kept", "Type a larger distance."},
        slot);
}

// Of lines in plan, on all threads: the runs of each.
Result<std::vector<Runs>> runs_along(const SurfaceWays& ways, const std::vector<std::array<Vec3, 2>>& lines,
                                     const Run& run) {
    std::vector<Runs> runs(lines.size());
    const bool done = parallel_blocks(lines.size(), 4, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t line = begin; line < end; ++line)
            runs[line] = ways.along(lines[line][0], lines[line][1]);
    });
    if (!done) return cancelled_error();
    return runs;
}

// Evenly, no further apart than that, from one side of the form to the other, and on as far as the cutter
// reaches.
Result<std::vector<std::array<Vec3, 2>>> parallels(const Mesh& form, double radius, double angle,
                                                   double apart, const char* slot = "apart") {
    const Rectangle over = reach_over(form, 0);
    const Vec3 along{std::cos(angle), std::sin(angle), 0}, across{-along.y, along.x, 0};
    double low_along = std::numeric_limits<double>::infinity(), low_across = low_along;
    double high_along = -low_along, high_across = -low_along;
    for (const double x : {over.low.x, over.high.x})
        for (const double y : {over.low.y, over.high.y}) {
            const double a = x * along.x + y * along.y, b = x * across.x + y * across.y;
            low_along = std::min(low_along, a - radius);
            high_along = std::max(high_along, a + radius);
            low_across = std::min(low_across, b);
            high_across = std::max(high_across, b);
        }
    const double bays = std::max(1.0, std::ceil((high_across - low_across) / apart - 1e-9));
    const double looks = bays * (high_along - low_along) / (radius / 2);
    if (!(bays < static_cast<double>(most_lines)) || looks > most_looks) return too_many_lines(slot);
    const double between = (high_across - low_across) / bays,
                 beyond = between > 0 ? std::floor(radius / between) : 0;
    std::vector<std::array<Vec3, 2>> lines;
    for (double line = -beyond; line <= bays + beyond; ++line) {
        const double at = low_across + between * line;
        lines.push_back({along * low_along + across * at, along * high_along + across * at});
    }
    return lines;
}

void turn_round(Runs& runs) {
    std::ranges::reverse(runs);
    for (TipRun& run : runs)
        std::ranges::reverse(run);
}

// Moves of runs one after the other, with what leads from one to the next.
class PathWriter {
public:
    PathWriter(const MillingJob& job, ToolPath& path) : job_(job), path_(path) {}

    void use_tool(std::uint32_t tool, const SurfaceWays& ways, double lift) {
        lift_off();
        tool_ = tool;
        ways_ = &ways;
        lift_ = lift;
    }
    Status add(const TipRun& run, double at_least = -std::numeric_limits<double>::infinity()) {
        if (!leads_over(run.front(), at_least)) {
            lift_off();
            rapid({run.front().x, run.front().y, job_.safe});
            line(run.front(), job_.plunge_feed);
        }
        for (std::size_t place = 1; place < run.size(); ++place)
            line(run[place], job_.feed);
        if (path_.moves.size() > most_moves)
            return Error{ErrorCode::over_budget, "", "makes more than five million moves",
                         "Choose a larger distance between paths, or a smaller form."};
        return Done{};
    }
    void lift_off() {
        if (path_.moves.empty() || at().z >= job_.safe) return;
        rapid({at().x, at().y, job_.safe});
    }

private:
    Vec3 at() const { return path_.moves.empty() ? path_.start : path_.moves.back().to; }
    void rapid(Vec3 to) { push({ToolMove::Form::rapid, to}); }
    void line(Vec3 to, double feed) {
        ToolMove move{ToolMove::Form::line, to};
        move.feed = feed;
        push(move);
    }
    void push(ToolMove move) {
        move.tool = tool_;
        if (length(move.to - at()) > 0) path_.moves.push_back(move);
    }
    // To a run that begins nearby, over the form, without lifting off.
    bool leads_over(Vec3 to, double at_least) {
        const double apart = std::hypot(to.x - at().x, to.y - at().y);
        if (path_.moves.empty() || at().z >= job_.safe || apart > 2 * ways_->cutter().radius) return false;
        const Runs between = ways_->along(at(), to);
        const double near = 1e-6 + 2 * job_.within;
        if (between.size() != 1) return false;
        TipRun way = between.front();
        for (Vec3& place : way)
            place.z = std::max(place.z + lift_, at_least);
        if (length(way.front() - at()) > near || length(way.back() - to) > near) return false;
        for (const Vec3 place : way)
            line(place, job_.feed);
        line(to, job_.feed);
        return true;
    }

    const MillingJob& job_;
    ToolPath& path_;
    const SurfaceWays* ways_ = nullptr;
    std::uint32_t tool_ = 0;
    double lift_ = 0;
};

// --- roughing

// What of a run lies below the level above, no deeper than the level itself.
Runs clipped(const TipRun& run, double above, double level) {
    Runs pieces;
    TipRun piece;
    const auto close = [&] {
        if (piece.size() > 1) pieces.push_back(thinned(piece, 1e-9));
        piece.clear();
    };
    const auto push = [&](Vec3 place) { piece.push_back({place.x, place.y, std::max(place.z, level)}); };
    for (std::size_t at = 0; at < run.size(); ++at) {
        const Vec3 place = run[at];
        if (at > 0) {
            const Vec3 before = run[at - 1];
            // Where it passes one of the two, from the first to the last.
            std::vector<double> shares;
            for (const double height : {above, level})
                if ((before.z < height) != (place.z < height))
                    shares.push_back((height - before.z) / (place.z - before.z));
            std::ranges::sort(shares);
            for (const double share : shares) {
                const Vec3 on = before + (place - before) * share;
                const bool at_top = std::abs(on.z - above) <= std::abs(on.z - level);
                push(on);
                if (at_top && place.z >= before.z) close();
            }
        }
        if (place.z < above) push(place);
    }
    close();
    return pieces;
}

Status rough(const MillingJob& job, const Roughing& roughing, const SurfaceWays& ways, PathWriter& writer,
             const Run& run) {
    const auto lines =
        parallels(*job.form, roughing.cutter.radius, job.angle_rad, roughing.apart, "rough_apart");
    if (!lines) return lines.error();
    auto runs = runs_along(ways, *lines, run);
    if (!runs) return runs.error();
    double lowest = 0;
    for (Runs& of_line : *runs)
        for (TipRun& way : of_line)
            for (Vec3& place : way) {
                place.z += roughing.allowance;
                lowest = std::min(lowest, place.z);
            }
    const double levels = std::ceil(-lowest / roughing.step_down - 1e-9);
    if (!(levels < 10'000))
        return about_slot(Error{ErrorCode::over_budget, "", "makes more than ten thousand levels",
                                "Type a larger step down."},
                          "step_down");
    double above = 0;
    for (int level = 1; level <= static_cast<int>(levels); ++level) {
        const double height = -roughing.step_down * level;
        bool back = false;
        for (const Runs& of_line : *runs) {
            if (run.cancelled()) return cancelled_error();
            Runs pieces;
            for (const TipRun& way : of_line)
                for (TipRun& piece : clipped(way, above, height))
                    pieces.push_back(std::move(piece));
            if (std::exchange(back, !back)) turn_round(pieces);
            for (const TipRun& piece : pieces)
                if (Status added = writer.add(piece, height); !added) return added;
        }
        above = height;
    }
    return Done{};
}

// --- finishing

Result<Runs> parallel_ways(const MillingJob& job, const SurfaceWays& ways, const Run& run) {
    const auto lines = parallels(*job.form, job.cutter.radius, job.angle_rad, job.apart);
    if (!lines) return lines.error();
    auto runs = runs_along(ways, *lines, run);
    if (!runs) return runs.error();
    Runs all;
    bool back = false;
    for (Runs& of_line : *runs) {
        if (std::exchange(back, !back)) turn_round(of_line);
        std::ranges::move(of_line, std::back_inserter(all));
    }
    return all;
}

// From the middle outwards, by the distance between paths at each turn.
Result<Runs> spiral_way(const MillingJob& job, const SurfaceWays& ways, const Run& run) {
    const Rectangle reach = reach_over(*job.form, job.cutter.radius);
    const Vec3 middle = reach.middle();
    const double furthest = std::hypot(reach.high.x - middle.x, reach.high.y - middle.y);
    const double turns = furthest / job.apart;
    if (!(turns < 10'000)) return too_many_lines();
    std::vector<std::array<Vec3, 2>> lines;
    Vec3 before{middle.x, middle.y, 0};
    for (double angle = 0; angle < 2 * std::numbers::pi * turns;) {
        const double radius = job.apart * angle / (2 * std::numbers::pi);
        // Chords that are true to a fortieth of the distance.
        const double step =
            2 * std::acos(std::clamp(1 - job.apart / 40 / std::max(radius, job.apart / 2), -1.0, 1.0));
        angle += step;
        const double next = job.apart * angle / (2 * std::numbers::pi);
        const Vec3 place{middle.x + next * std::cos(angle), middle.y + next * std::sin(angle), 0};
        lines.push_back({before, place});
        before = place;
    }
    if (lines.size() > most_lines) return too_many_lines();
    auto runs = runs_along(ways, lines, run);
    if (!runs) return runs.error();
    Runs all;
    for (Runs& of_line : *runs)
        for (TipRun& piece : of_line)
            add_run(std::move(piece), all);
    return all;
}

// Heights of the tip over a grid, as a mesh; places that are not reached are left out.
Result<Mesh> tip_mesh(const MillingJob& job, const SurfaceWays& ways, const Run& run) {
    const Rectangle reach = reach_over(*job.form, job.cutter.radius);
    const double spacing = std::max(job.cutter.radius / 4, job.apart / 4);
    const double columns = std::ceil((reach.high.x - reach.low.x) / spacing),
                 rows = std::ceil((reach.high.y - reach.low.y) / spacing);
    if (!(columns * rows < 5'000'000)) return too_many_lines();
    const auto count_x = static_cast<std::size_t>(columns) + 1, count_y = static_cast<std::size_t>(rows) + 1;
    Mesh::Parts parts;
    Doubles x(count_x * count_y), y(x.size()), z(x.size());
    const bool done = parallel_blocks(x.size(), 1024, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            x[at] = reach.low.x + static_cast<double>(at % count_x) * spacing;
            y[at] = reach.low.y + static_cast<double>(at / count_x) * spacing;
            z[at] = ways.tip_at(x[at], y[at]).value_or(std::numeric_limits<double>::quiet_NaN());
        }
    });
    if (!done) return cancelled_error();
    for (std::size_t row = 0; row + 1 < count_y; ++row)
        for (std::size_t column = 0; column + 1 < count_x; ++column) {
            const auto corner = static_cast<std::uint32_t>(row * count_x + column);
            const auto above = static_cast<std::uint32_t>(corner + count_x);
            const std::array quad{corner, corner + 1, above + 1, above};
            if (std::ranges::any_of(quad, [&](std::uint32_t at) { return std::isnan(z[at]); })) continue;
            parts.corners.insert(parts.corners.end(), quad.begin(), quad.end());
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return Mesh::make(std::move(parts));
}

// A place of a line between looks, moved uphill or downhill to where the tip is at the level.
Vec3 onto_level(const SurfaceWays& ways, Vec3 place, double level, double furthest) {
    const double step = 1e-3 * ways.cutter().radius;
    const Vec3 begin = place;
    for (int round = 0; round < 4; ++round) {
        const auto here = ways.tip_at(place.x, place.y), east = ways.tip_at(place.x + step, place.y),
                   north = ways.tip_at(place.x, place.y + step);
        if (!here || !east || !north) return begin;
        const double rise_x = (*east - *here) / step, rise_y = (*north - *here) / step;
        const double steep = rise_x * rise_x + rise_y * rise_y;
        if (!(steep > 1e-6) || std::abs(*here - level) < 1e-6) break;
        place.x += (level - *here) * rise_x / steep;
        place.y += (level - *here) * rise_y / steep;
    }
    return std::hypot(place.x - begin.x, place.y - begin.y) <= furthest ? place : begin;
}

// Level by level from above; each line is followed with the tip where it may be, the level or higher.
Result<Runs> contour_ways(const MillingJob& job, const SurfaceWays& ways, const Run& run) {
    const auto mesh = tip_mesh(job, ways, run);
    if (!mesh) return mesh.error();
    if (mesh->face_count() == 0) return Runs();
    double lowest = 0;
    for (const std::uint32_t corner : mesh->parts().corners)
        lowest = std::min(lowest, mesh->z()[corner]);
    const double count = std::floor(-lowest / job.apart);
    if (!(count < static_cast<double>(most_lines))) return too_many_lines();
    std::vector<double> heights;
    for (double level = count; level >= 0; --level)
        heights.push_back(-level * job.apart);
    const auto lines = mesh_levels(*mesh, mesh->z().span(), heights, run);
    if (!lines) return lines.error();
    std::vector<Runs> of_line(lines->count());
    const bool done = parallel_blocks(lines->count(), 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t line = begin; line < end; ++line) {
            const std::span<const Vec3> found = lines->line(line);
            std::vector<Vec3> places(found.begin(), found.end());
            if (lines->closed[line] != 0) places.push_back(places.front());
            if (places.size() < 2) continue;
            for (Vec3& place : places)
                place = onto_level(ways, place, heights[lines->level[line]], job.cutter.radius / 2);
            of_line[line] = ways.along(thinned(places, job.within / 4));
            for (TipRun& way : of_line[line])
                for (Vec3& place : way)
                    place.z = std::max(place.z, heights[lines->level[line]]);
        }
    });
    if (!done) return cancelled_error();
    Runs all;
    for (std::size_t line = of_line.size(); line-- > 0;)
        std::ranges::move(of_line[line], std::back_inserter(all));
    return all;
}

Result<Runs> ways_inside(const MillingJob& job, const SurfaceWays& ways, const Run& run) {
    switch (job.way) {
        case MillingWay::contours:
            return contour_ways(job, ways, run);
        case MillingWay::spiral:
            return spiral_way(job, ways, run);
        case MillingWay::parallel:
            break;
    }
    return parallel_ways(job, ways, run);
}

// Ways that end at a rim leave corners between them there: last it is gone along.
Result<Runs> finishing_ways(const MillingJob& job, const SurfaceWays& ways, const Run& run) {
    auto runs = ways_inside(job, ways, run);
    if (!runs) return runs;
    for (const std::vector<std::uint32_t>& border : border_ways(*job.form)) {
        if (run.cancelled()) return cancelled_error();
        std::vector<Vec3> places;
        for (const std::uint32_t vertex : border)
            places.push_back(job.form->vertex(vertex));
        std::ranges::move(ways.along(places), std::back_inserter(*runs));
    }
    return runs;
}

}  // namespace

Result<MilledPaths> milling_paths(const MillingJob& job, const Run& run) {
    if (job.clamps && job.clamps->face_count() > 0 && job.clamps->bounds().high.z >= job.safe)
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of " + short_text(job.safe) + " mm is not above the clamps, which reach " +
                                    short_text(job.clamps->bounds().high.z) + " mm above the board",
                                "Type a larger one."},
                          "safe");
    MilledPaths made;
    made.path.start = {0, 0, job.safe};
    PathWriter writer(job, made.path);
    std::optional<SurfaceWays> rough_ways;
    if (job.roughing) {
        rough_ways.emplace(*job.form, job.clamps, job.clearance, job.roughing->cutter, job.within);
        made.cutters.push_back(job.roughing->cutter);
        writer.use_tool(0, *rough_ways, job.roughing->allowance);
        if (Status done = rough(job, *job.roughing, *rough_ways, writer, run); !done) return done.error();
    }
    const SurfaceWays ways(*job.form, job.clamps, job.clearance, job.cutter, job.within);
    made.cutters.push_back(job.cutter);
    writer.use_tool(static_cast<std::uint32_t>(made.cutters.size() - 1), ways, 0);
    const auto runs = finishing_ways(job, ways, run);
    if (!runs) return runs.error();
    for (const TipRun& way : *runs)
        if (Status added = writer.add(way); !added) return added.error();
    writer.lift_off();
    if (made.path.moves.empty())
        return Error{ErrorCode::empty_input, "", "gives the cutter nothing to reach",
                     "Choose a thinner cutter, or a form that is seen from that side."};
    return made;
}

}  // namespace plume
