#include "core/handoff/sheet_picture.hpp"

#include <algorithm>
#include <cmath>

#include "core/handoff/stock_picture.hpp"
#include "core/picture/own_colours.hpp"

namespace plume {
namespace {

constexpr double metre = 1e-3;  // a millimetre
constexpr Rgb sheet_colour{0.90F, 0.83F, 0.70F}, to_do_colour{0.72F, 0.66F, 0.55F},
    cut_colour{0.05F, 0.42F, 0.40F}, mark_colour{0.38F, 0.30F, 0.62F}, way_colour{0.90F, 0.60F, 0.42F};
// Of all sheets' diagonal: shorter strokes of one kind are drawn as one.
constexpr double shortest_share = 1.0 / 6000;
constexpr double lifted_share = 0.001;  // of the same: lines, off the sheet

void push(Drawable& drawable, Vec3 at, float colour) {
    const Vec3 place = at * metre;
    drawable.bounds.include(place);
    drawable.vertices.push_back({static_cast<float>(place.x), static_cast<float>(place.y),
                                 static_cast<float>(place.z), 0, 0, 1, colour});
}
void add_line(Drawable& drawable, Vec3 from, Vec3 to, float colour) {
    for (const Vec3 at : {from, to}) {
        drawable.edges.push_back(static_cast<std::uint32_t>(drawable.vertices.size()));
        push(drawable, at, colour);
    }
}
std::shared_ptr<Drawable> new_lines(LineRole role) {
    auto drawable = std::make_shared<Drawable>();
    drawable->lines_are = role;
    return drawable;
}

float colour_of(FlatDeed deed) {
    return own_colour_coordinate(deed == FlatDeed::marks ? mark_colour : cut_colour);
}

}  // namespace

SheetPicture::SheetPicture(const ToolPath& path, std::vector<FlatSheet> sheets, const FlatRehearsalJob& job)
    : sheets_(std::move(sheets)), kerf_(job.kerf) {
    lay_out();
    add_strokes(path, job);
    drawn_sheets_ = drawn_sheets();
}

// From left to right in rows downwards, all together about as wide as a view is.
void SheetPicture::lay_out() {
    constexpr double apart_share = 0.06, view_aspect = 1.0;
    double width = 0, depth = 0;
    for (const FlatSheet& sheet : sheets_) {
        width = std::max(width, sheet.width);
        depth = std::max(depth, sheet.depth);
    }
    const double apart = apart_share * std::max(width, depth), count = static_cast<double>(sheets_.size());
    width += apart;
    depth += apart;
    const double columns =
        std::clamp(std::round(std::sqrt(count * view_aspect * depth / width)), 1.0, std::max(count, 1.0));
    // One more, for what goes on sheets that there are not.
    for (std::size_t at = 0; at <= sheets_.size(); ++at) {
        const double number = static_cast<double>(at), row = std::floor(number / columns);
        corners_.push_back({(number - row * columns) * width, -row * depth});
    }
    diagonal_ = std::hypot(columns * width, std::ceil(count / columns) * depth);
}

Vec3 SheetPicture::placed(Vec3 at, std::uint32_t sheet) const {
    const FlatPoint corner = corners_[std::min<std::size_t>(sheet, corners_.size() - 1)];
    return {at.x + corner.x, at.y + corner.y, lifted_share * diagonal_};
}

void SheetPicture::add_strokes(const ToolPath& path, const FlatRehearsalJob& job) {
    deeds_ = deeds_of(path, job);
    Vec3 at = path.start;
    std::uint32_t sheet = 0;
    for (std::size_t move = 0; move < path.moves.size(); ++move) {
        const ToolMove& made = path.moves[move];
        // Another sheet begins at its own corner.
        if (made.sheet != sheet) at = {};
        sheet = made.sheet;
        for (const Vec3 to : places_along(at, made, diagonal_ * shortest_share / 4)) {
            const Vec3 from = placed(at, sheet), end = placed(to, sheet);
            at = to;
            if (!strokes_.empty() && strokes_.back().deed == deeds_[move] &&
                path.moves[strokes_.back().move].sheet == sheet &&
                length(end - strokes_.back().from) < diagonal_ * shortest_share) {
                strokes_.back().to = end;
                strokes_.back().move = move;
            } else if (from.x != end.x || from.y != end.y) {
                strokes_.push_back({from, end, move, deeds_[move]});
            }
        }
    }
}

std::shared_ptr<const Drawable> SheetPicture::drawn_sheets() const {
    auto drawable = std::make_shared<Drawable>();
    const float colour = own_colour_coordinate(sheet_colour);
    for (std::uint32_t at = 0; at < sheets_.size(); ++at) {
        const auto first = static_cast<std::uint32_t>(drawable->vertices.size());
        const FlatSheet& sheet = sheets_[at];
        for (const Vec3 corner : {Vec3{0, 0, 0}, Vec3{sheet.width, 0, 0}, Vec3{sheet.width, sheet.depth, 0},
                                  Vec3{0, sheet.depth, 0}}) {
            Vec3 place = placed(corner, at);
            place.z = 0;
            push(*drawable, place, colour);
        }
        for (const std::uint32_t corner : {0U, 1U, 2U, 0U, 2U, 3U})
            drawable->triangles.push_back(first + corner);
        for (std::uint32_t side = 0; side < 4; ++side) {
            drawable->edges.push_back(first + side);
            drawable->edges.push_back(first + (side + 1) % 4);
        }
    }
    return drawable;
}

std::vector<std::shared_ptr<const Drawable>> SheetPicture::drawn(const ToolPath& path, std::size_t done,
                                                                 double share) const {
    const auto to_do = new_lines(LineRole::lines), cuts = new_lines(LineRole::lines),
               ways = new_lines(LineRole::arrows);
    for (const Stroke& stroke : strokes_) {
        const bool is_done = stroke.move < done;
        if (stroke.deed == FlatDeed::travels) {
            if (is_done) add_line(*ways, stroke.from, stroke.to, own_colour_coordinate(way_colour));
        } else if (is_done) {
            add_line(*cuts, stroke.from, stroke.to, colour_of(stroke.deed));
        } else {
            add_line(*to_do, stroke.from, stroke.to, own_colour_coordinate(to_do_colour));
        }
    }
    std::vector<std::shared_ptr<const Drawable>> all{drawn_sheets_, to_do, ways, cuts};
    if (done >= path.moves.size()) return all;
    const ToolMove& now = path.moves[done];
    const bool another = done == 0 || path.moves[done - 1].sheet != now.sheet;
    Vec3 at = another ? (done == 0 ? path.start : Vec3{}) : path.moves[done - 1].to;
    for (const Vec3 to : places_until(at, now, share, diagonal_ * shortest_share / 4)) {
        if (deeds_[done] != FlatDeed::travels)
            add_line(*cuts, placed(at, now.sheet), placed(to, now.sheet), colour_of(deeds_[done]));
        at = to;
    }
    // Wide enough to be seen.
    constexpr double widest_share = 0.004, length_share = 0.06;
    all.push_back(drawn_cutter(Cutter::flat(std::max(kerf_ / 2, widest_share * diagonal_)),
                               placed(at, now.sheet), length_share * diagonal_));
    return all;
}

std::vector<ColourMeaning> SheetPicture::colours() {
    return {{to_do_colour, "to be done"},
            {cut_colour, "cut"},
            {mark_colour, "marked"},
            {way_colour, "ways between"}};
}

}  // namespace plume
