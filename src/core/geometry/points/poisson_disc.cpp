#include "core/geometry/points/poisson_disc.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/base/noise.hpp"
#include "core/base/numbers.hpp"

namespace plume {
namespace {

// A stream of numbers in 0..1.
class Throws {
public:
    explicit Throws(std::uint64_t seed) : state_(random_bits(seed)) {}
    double next() {
        state_ += 0x9e3779b97f4a7c15U;
        return static_cast<double>(random_bits(state_) >> 11U) * 0x1p-53;
    }

private:
    std::uint64_t state_;
};

class Filling {
public:
    Filling(const Outline& outline, double spacing, std::uint64_t seed)
        : outline_(outline), spacing_(spacing), cell_(spacing / std::numbers::sqrt2), throws_(seed) {
        columns_ = static_cast<std::size_t>((outline.high().x - outline.low().x) / cell_) + 1;
        rows_ = static_cast<std::size_t>((outline.high().y - outline.low().y) / cell_) + 1;
        cells_.assign(columns_ * rows_, none);
    }

    bool fill(const Run& run) {
        const std::size_t darts = std::clamp<std::size_t>(cells_.size() / 2, 2000, 200'000);
        for (std::size_t dart = 0; dart < darts; ++dart) {
            const FlatPoint low = outline_.low(), high = outline_.high();
            const FlatPoint at{std::lerp(low.x, high.x, throws_.next()),
                               std::lerp(low.y, high.y, throws_.next())};
            if (!fits(at)) continue;
            add(at);
            if (!spread(run)) return false;
        }
        return !run.cancelled();
    }
    std::vector<FlatPoint> take() { return std::move(points_); }

private:
    static constexpr std::uint32_t none = 0xffffffffU;
    static constexpr int attempts = 30;  // around each point, as Bridson advises

    std::size_t column_of(double x) const { return static_cast<std::size_t>((x - outline_.low().x) / cell_); }
    std::size_t row_of(double y) const { return static_cast<std::size_t>((y - outline_.low().y) / cell_); }

    bool fits(FlatPoint at) const {
        if (!outline_.contains(at)) return false;
        const std::size_t column = column_of(at.x), row = row_of(at.y);
        for (std::size_t r = row < 2 ? 0 : row - 2; r <= std::min(row + 2, rows_ - 1); ++r)
            for (std::size_t c = column < 2 ? 0 : column - 2; c <= std::min(column + 2, columns_ - 1); ++c) {
                const std::uint32_t there = cells_[c + columns_ * r];
                if (there == none) continue;
                const double dx = points_[there].x - at.x, dy = points_[there].y - at.y;
                if (dx * dx + dy * dy < spacing_ * spacing_) return false;
            }
        return true;
    }

    void add(FlatPoint at) {
        const auto number = static_cast<std::uint32_t>(points_.size());
        cells_[column_of(at.x) + columns_ * row_of(at.y)] = number;
        points_.push_back(at);
        active_.push_back(number);
    }

    // Until no point has room around it.
    bool spread(const Run& run) {
        for (std::size_t round = 0; !active_.empty(); ++round) {
            if ((round & 0x3ffU) == 0 && run.cancelled()) return false;
            const auto pick = static_cast<std::size_t>(throws_.next() * static_cast<double>(active_.size()));
            const FlatPoint from = points_[active_[pick]];
            bool found = false;
            for (int attempt = 0; attempt < attempts && !found; ++attempt) {
                // Evenly over the ring from one to two spacings.
                const double angle = 2 * std::numbers::pi * throws_.next();
                const double radius = spacing_ * std::sqrt(1 + 3 * throws_.next());
                const FlatPoint at{from.x + radius * std::cos(angle), from.y + radius * std::sin(angle)};
                found = fits(at);
                if (found) add(at);
            }
            if (found) continue;
            active_[pick] = active_.back();
            active_.pop_back();
        }
        return true;
    }

    const Outline& outline_;
    double spacing_, cell_;
    Throws throws_;
    std::size_t columns_ = 0, rows_ = 0;
    std::vector<std::uint32_t> cells_, active_;
    std::vector<FlatPoint> points_;
};

}  // namespace

double poisson_estimate(const Outline& outline, double spacing) {
    return 0.7 * outline.area() / (std::numbers::pi / 4 * spacing * spacing) + 1;
}

Result<std::vector<FlatPoint>> poisson_points(const Outline& outline, double spacing, std::uint64_t seed,
                                              const Run& run) {
    const double size = std::hypot(outline.high().x - outline.low().x, outline.high().y - outline.low().y);
    if (spacing > size)
        return Error{ErrorCode::out_of_range, "Spacing",
                     "is " + short_text(spacing) + ", larger than the outline, which is " + short_text(size) +
                         " across",
                     "Type a smaller spacing, or draw a larger outline."};
    Filling filling(outline, spacing, seed);
    if (!filling.fill(run)) return cancelled_error();
    return filling.take();
}

}  // namespace plume
