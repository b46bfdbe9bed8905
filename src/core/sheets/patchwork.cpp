#include "core/sheets/patchwork.hpp"

#include <cmath>
#include <complex>
#include <map>
#include <numbers>

#include "core/base/text.hpp"

namespace plume {
namespace {

using Place = std::complex<double>;
// Of the disc: nearer than this two places are one. With most_patches they stand a thousand times as far
// apart.
constexpr double same_place = 1e-9;

// A move of the disc: z to (a z + b) / (conj(b) z + conj(a)).
struct Move {
    Place a{1, 0}, b{0, 0};
    Place operator()(Place z) const { return (a * z + b) / (std::conj(b) * z + std::conj(a)); }
    Move then_first(const Move& first) const {
        const Move both{a * first.a + b * std::conj(first.b), a * first.b + b * std::conj(first.a)};
        const double size = std::sqrt(std::norm(both.a) - std::norm(both.b));
        return {both.a / size, both.b / size};
    }
};

Move turned(double angle) {
    return {std::polar(1.0, angle / 2), {0, 0}};
}
// By that far from the middle along X, as the disc measures it.
Move shifted(double far) {
    return {{std::cosh(far / 2), 0}, {std::sinh(far / 2), 0}};
}

// Numbers of places, told apart by where they are.
class Places {
public:
    // Its number, and whether it is new.
    std::pair<std::uint32_t, bool> number_of(Place at) {
        const auto [x, y] = cell_of(at);
        for (std::int64_t i = x - 1; i <= x + 1; ++i)
            for (std::int64_t j = y - 1; j <= y + 1; ++j)
                if (const auto found = cells_.find({i, j});
                    found != cells_.end() && std::abs(at_[found->second] - at) < same_place)
                    return {found->second, false};
        const auto number = static_cast<std::uint32_t>(at_.size());
        cells_.emplace(Cell{x, y}, number);
        at_.push_back(at);
        return {number, true};
    }
    const std::vector<Place>& all() const { return at_; }

private:
    // As wide as two places that are one may be apart, so that neighbours have them.
    using Cell = std::pair<std::int64_t, std::int64_t>;
    static Cell cell_of(Place at) {
        return {std::llround(at.real() / (2 * same_place)), std::llround(at.imag() / (2 * same_place))};
    }
    std::map<Cell, std::uint32_t> cells_;
    std::vector<Place> at_;
};

Status room_for(std::size_t sides, std::size_t around) {
    if (sides < 3 || around < 3)
        return Error{ErrorCode::out_of_range, "", "has fewer than three sides or polygons at a vertex",
                     "Sew at least three of at least three sides."};
    if (2 * (sides + around) >= sides * around)
        return Error{ErrorCode::out_of_range, "",
                     std::to_string(around) + " polygons of " + std::to_string(sides) +
                         " sides at a vertex lie flat or close up",
                     "Sew more of them at each vertex, as 7 triangles, 5 squares or 4 pentagons."};
    return Done{};
}

}  // namespace

Result<Patchwork> patchwork(std::size_t sides, std::size_t around, std::size_t rings, const Run& run) {
    if (Status room = room_for(sides, around); !room) return room.error();
    const double pi = std::numbers::pi, half_side = pi / static_cast<double>(sides),
                 half_corner = pi / static_cast<double>(around);
    // From the middle of a polygon to its corners and to the middles of its sides.
    const double to_corner = std::acosh(1 / (std::tan(half_side) * std::tan(half_corner)));
    const double to_side = std::acosh(std::cos(half_corner) / std::sin(half_side));
    const Place corner{std::tanh(to_corner / 2), 0};
    Patchwork made;
    Places middles, corners;
    std::vector<Move> moves{Move{}};
    (void)middles.number_of({0, 0});
    std::vector<std::vector<std::uint32_t>> faces_at;
    // Of a polygon whose middle was not there yet.
    const auto sew = [&](const Move& move, std::size_t ring) {
        std::vector<std::uint32_t> face;
        for (std::size_t side = 0; side < sides; ++side)
            face.push_back(
                corners.number_of(move(turned(2 * half_side * static_cast<double>(side))(corner))).first);
        made.faces.push_back(std::move(face));
        made.ring.push_back(static_cast<std::uint32_t>(ring));
    };
    sew(moves[0], 0);
    std::size_t begin = 0;
    for (std::size_t ring = 1; ring <= rings; ++ring) {
        const std::size_t end = moves.size();
        // All that touch a corner of the ring before: the polygons about it, one across a side after the
        // other.
        for (std::size_t face = begin; face < end; ++face) {
            if (run.cancelled()) return cancelled_error();
            for (std::size_t side = 0; side < sides; ++side) {
                Move about = moves[face].then_first(turned(2 * half_side * static_cast<double>(side)));
                for (std::size_t one = 1; one < around; ++one) {
                    // Across the side that begins at the corner on the X axis, which stays the same corner.
                    about = about.then_first(turned(half_side))
                                .then_first(shifted(2 * to_side))
                                .then_first(turned(pi + half_side));
                    if (!middles.number_of(about({0, 0})).second) continue;
                    if (moves.size() >= most_patches)
                        return Error{ErrorCode::over_budget, "",
                                     "would have more than " + std::to_string(most_patches) + " polygons",
                                     "Sew fewer rings."};
                    moves.push_back(about);
                    sew(about, ring);
                }
            }
        }
        begin = end;
        run.report(static_cast<double>(ring) / static_cast<double>(rings));
    }
    for (const Place at : corners.all())
        made.at.push_back({at.real(), at.imag(), 0});
    return made;
}

}  // namespace plume
