#include "core/geometry/meshes/packing.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

#include "core/geometry/meshes/nesting_library.hpp"

namespace plume {
namespace {

using ClipperLib::cInt;
using Item = libnest2d::Item;
using Placer = libnest2d::NfpPlacer;

constexpr double units_a_sheet = 1e8;
// Where so many outlines of about one size in a row do not fit, none of that size is tried on a sheet any
// more.
constexpr int most_misses = 12;
constexpr double least_of_a_size = 0.8;
// How long the library looks for a place along a rim, beginning at its corners. Its usual 0.65 takes twice as
// long for as many sheets.
constexpr float search_effort = 0.1F;

// Whole numbers on the free part of a sheet, in which outlines with half the spacing around them may touch.
class Scale {
public:
    explicit Scale(const StockSheet& sheet)
        : unit_(std::max(sheet.width, sheet.length) / units_a_sheet),
          corner_(sheet.margin - sheet.spacing / 2),
          width_(sheet.width - 2 * corner_),
          length_(sheet.length - 2 * corner_),
          around_(whole(sheet.spacing / 2)) {}

    cInt whole(double length) const { return std::llround(length / unit_); }
    double length(double units) const { return units * unit_; }
    double corner() const { return corner_; }
    cInt around() const { return around_; }
    // With what a row of outlines that fit exactly may come to by rounding.
    libnest2d::Box free() const {
        constexpr cInt rounding = 64;
        return libnest2d::Box({0, 0}, {whole(width_) + rounding, whole(length_) + rounding});
    }

private:
    double unit_, corner_, width_, length_;
    cInt around_;
};

// Clockwise and closed, as the library wants it; convex, with half the spacing around it.
Item item_of(const std::vector<FlatPoint>& outline, const Scale& scale) {
    ClipperLib::Path path;
    for (const FlatPoint corner : outline)
        path.emplace_back(scale.whole(corner.x), scale.whole(corner.y));
    ClipperLib::ClipperOffset offset;
    offset.AddPath(path, ClipperLib::jtMiter, ClipperLib::etClosedPolygon);
    ClipperLib::Paths grown;
    offset.Execute(grown, static_cast<double>(scale.around()));
    if (grown.empty()) grown.push_back(path);  // without any area
    libnest2d::PathImpl all;
    for (const ClipperLib::Path& loop : grown)
        all.insert(all.end(), loop.begin(), loop.end());
    all.push_back(all.front());
    return Item(libnest2d::PolygonImpl(libnest2d::shapelike::convexHull(all)));
}

double angle_of(const Item& item) {
    const libnest2d::Radians angle = item.rotation();
    return angle.operator double();
}

// A pile grows about the middle of a sheet, as long as it would fit, and is moved into the corner in the end.
Placer::Config settings(std::span<const double> turns_rad) {
    Placer::Config settings;
    settings.rotations.clear();
    for (const double turn : turns_rad)
        settings.rotations.emplace_back(turn);
    settings.accuracy = search_effort;
    settings.starting_point = Placer::Config::Alignment::CENTER;
    settings.alignment = Placer::Config::Alignment::BOTTOM_LEFT;
    return settings;
}

bool within(const libnest2d::Box& box, const libnest2d::Box& free) {
    return box.minCorner().X >= free.minCorner().X && box.minCorner().Y >= free.minCorner().Y &&
           box.maxCorner().X <= free.maxCorner().X && box.maxCorner().Y <= free.maxCorner().Y;
}

// Beyond what rounding makes of shapes that touch.
bool overlap(const Item& one, const Item& other) {
    const libnest2d::Box a = one.boundingBox(), b = other.boundingBox();
    if (a.maxCorner().X <= b.minCorner().X || b.maxCorner().X <= a.minCorner().X ||
        a.maxCorner().Y <= b.minCorner().Y || b.maxCorner().Y <= a.minCorner().Y)
        return false;
    ClipperLib::Clipper clipper;
    clipper.AddPath(one.transformedShape().Contour, ClipperLib::ptSubject, true);
    clipper.AddPath(other.transformedShape().Contour, ClipperLib::ptClip, true);
    ClipperLib::Paths common;
    clipper.Execute(ClipperLib::ctIntersection, common);
    double area = 0;
    for (const ClipperLib::Path& loop : common)
        area += std::abs(ClipperLib::Area(loop));
    const double side = std::sqrt(std::min(one.area(), other.area()));
    constexpr double hair = 8;  // units
    return area > hair * side;
}

// One sheet, and what lies on it.
class Sheet {
public:
    Sheet(const libnest2d::Box& free, const Placer::Config& settings) : free_(free), placer_(free) {
        placer_.configure(settings);
    }

    bool has_room_for(const Item& item) const {
        return placer_.filledArea() + item.area() <= libnest2d::shapelike::area(free_);
    }
    // Whether it lies there now, clear of everything else.
    bool take(Item& item) {
        const Item before = item;
        try {
            if (placer_.pack(item)) {
                if (clear(item)) {
                    items_.push_back(&item);
                    return true;
                }
                placer_.unpackLast();
            }
        } catch (const std::exception&) {
            // Shapes the library cannot put together: it lies on another sheet.
        }
        item.translation(before.translation());
        item.rotation(before.rotation());
        return false;
    }
    // Moves the pile into the corner of the sheet; whether everything lies on it.
    bool align() {
        placer_.clearItems();
        return !items_.empty() && std::ranges::all_of(items_, [&](const Item* item) {
            return within(item->boundingBox(), free_);
        });
    }

private:
    bool clear(const Item& item) const {
        return std::ranges::none_of(items_, [&](const Item* other) { return overlap(item, *other); });
    }

    libnest2d::Box free_;
    Placer placer_;
    std::vector<const Item*> items_;
};

// The first of the angles by which an outline fits a rectangle.
std::optional<double> fitting_turn(const std::vector<FlatPoint>& outline, std::span<const double> turns_rad,
                                   double width, double length) {
    for (const double turn : turns_rad) {
        const FlatExtent extent = extent_of(outline, turn);
        constexpr double hair = 1e-7;
        if (extent.width <= width * (1 + hair) && extent.length <= length * (1 + hair)) return turn;
    }
    return {};
}

class SheetPacking {
public:
    SheetPacking(const std::vector<std::vector<FlatPoint>>& outlines, std::span<const double> turns_rad,
                 const StockSheet& sheet, const Run& run)
        : scale_(sheet), free_(scale_.free()), settings_(settings(turns_rad)), run_(run) {
        made_.laid.resize(outlines.size());
        items_.reserve(outlines.size());
        for (std::size_t at = 0; at < outlines.size(); ++at) {
            const auto turn = fitting_turn(outlines[at], turns_rad, sheet.width - 2 * sheet.margin,
                                           sheet.length - 2 * sheet.margin);
            if (!turn) continue;
            items_.push_back(item_of(outlines[at], scale_));
            items_.back().rotation(libnest2d::Radians(*turn));
            outline_of_.push_back(at);
        }
        left_.resize(items_.size());
        std::iota(left_.begin(), left_.end(), std::size_t{0});
        std::ranges::stable_sort(left_, std::ranges::greater(),
                                 [&](std::size_t at) { return items_[at].area(); });
    }

    Result<Packing> make() {
        while (!left_.empty())
            if (Status filled = fill_next_sheet(); !filled) return filled.error();
        return std::move(made_);
    }

private:
    Status fill_next_sheet() {
        Sheet sheet(free_, settings_);
        std::vector<std::size_t> taken, rest;
        int misses = 0;
        double size = 0;
        for (const std::size_t at : left_) {
            if (run_.cancelled()) return cancelled_error();
            Item& item = items_[at];
            if (item.area() < least_of_a_size * size || size == 0) {
                size = item.area();
                misses = 0;
            }
            if (misses < most_misses && sheet.has_room_for(item)) {
                if (sheet.take(item)) {
                    misses = 0;
                    taken.push_back(at);
                    run_.report(static_cast<double>(laid_ + taken.size()) /
                                static_cast<double>(items_.size()));
                    continue;
                }
                ++misses;
            }
            rest.push_back(at);
        }
        if (sheet.align())
            left_ = std::move(rest);
        else
            taken = {lay_alone()};
        for (const std::size_t at : taken)
            note(at);
        laid_ += taken.size();
        ++made_.sheet_count;
        return Done{};
    }

    // What the library makes nothing of lies alone, in the corner of a sheet that it fits.
    std::size_t lay_alone() {
        const std::size_t first = left_.front();
        left_.erase(left_.begin());
        const libnest2d::Box box = items_[first].boundingBox();
        items_[first].translate(free_.minCorner() - box.minCorner());
        return first;
    }

    void note(std::size_t at) {
        const Item& item = items_[at];
        const auto move = item.translation();
        made_.laid[outline_of_[at]] = {made_.sheet_count,
                                       angle_of(item),
                                       {scale_.corner() + scale_.length(static_cast<double>(move.X)),
                                        scale_.corner() + scale_.length(static_cast<double>(move.Y))}};
    }

    Scale scale_;
    libnest2d::Box free_;
    Placer::Config settings_;
    const Run& run_;
    std::vector<Item> items_;  // of the outlines that fit a sheet
    std::vector<std::size_t> outline_of_;
    std::vector<std::size_t> left_;  // items that are to be laid, the largest first
    std::size_t laid_ = 0;
    Packing made_;
};

}  // namespace

FlatPoint LaidOutline::place(FlatPoint point) const {
    const double across = std::cos(turn_rad), along = std::sin(turn_rad);
    return {point.x * across - point.y * along + move.x, point.x * along + point.y * across + move.y};
}

FlatExtent extent_of(const std::vector<FlatPoint>& outline, double turn_rad) {
    const LaidOutline turned{0, turn_rad, {}};
    std::vector<FlatPoint> places(outline.size());
    std::ranges::transform(outline, places.begin(), [&](FlatPoint corner) { return turned.place(corner); });
    const auto [left, right] = std::ranges::minmax(places, {}, &FlatPoint::x);
    const auto [below, above] = std::ranges::minmax(places, {}, &FlatPoint::y);
    return {right.x - left.x, above.y - below.y};
}

Result<Packing> packed(const std::vector<std::vector<FlatPoint>>& outlines, std::span<const double> turns_rad,
                       const StockSheet& sheet, const Run& run) {
    // Further apart than a sheet is large is as good as on sheets of their own.
    StockSheet within_reach = sheet;
    within_reach.spacing = std::min(sheet.spacing, sheet.width + sheet.length);
    return SheetPacking(outlines, turns_rad, within_reach, run).make();
}

}  // namespace plume
