#include "core/growth/face_acts.hpp"

#include <algorithm>
#include <array>
#include <boost/container/small_vector.hpp>
#include <cmath>

namespace plume {
namespace {

using Type = FaceAct::Type;

// Most faces are cut into a few pieces: what is needed for those takes no memory of its own.
using Shares = boost::container::small_vector<double, 16>;
using Vertices = boost::container::small_vector<std::uint32_t, 64>;

// More pieces of one face than there are numbers for parts.
constexpr double most_pieces = 2e9;

// Corners inset by a length: where the sides, moved inwards by it, meet. Empty where they do not, or where a
// side would be turned round.
std::vector<Vec3> corners_inset_by_length(const FaceNet& net, std::span<const FaceCorner> face, double by) {
    const std::size_t count = face.size();
    const Vec3 normal = unit_or_zero(area_vector(net, face));
    std::vector<Vec3> inwards(count), along(count), inset(count);
    for (std::size_t at = 0; at < count; ++at) {
        along[at] = unit_or_zero(net.places[face[(at + 1) % count].vertex] - net.places[face[at].vertex]);
        inwards[at] = unit_or_zero(cross(normal, along[at]));
    }
    for (std::size_t at = 0; at < count; ++at) {
        const Vec3 before = inwards[(at + count - 1) % count], after = inwards[at];
        const double opening = 1 + dot(before, after);
        if (!(opening > 1e-9)) return {};
        inset[at] = net.places[face[at].vertex] + (before + after) * (by / opening);
    }
    for (std::size_t at = 0; at < count; ++at) {
        const Vec3 side = inset[(at + 1) % count] - inset[at];
        if (!(dot(side, along[at]) > 1e-9 * by)) return {};
    }
    return inset;
}

std::vector<Vec3> corners_inset_by_share(const FaceNet& net, std::span<const FaceCorner> face, double share) {
    const Vec3 middle = middle_of(net, face);
    std::vector<Vec3> inset;
    for (const FaceCorner& corner : face) {
        const Vec3 place = net.places[corner.vertex];
        inset.push_back(place + (middle - place) * share);
    }
    return inset;
}

// Plans -------------------------------------------------------------------------------------------------

FacePlan refused(FacePlan plan, FaceRefusal why) {
    plan.refused = why;
    return plan;
}

std::size_t whole(double number) {
    return static_cast<std::size_t>(number);
}

FacePlan plan_split(FacePlan plan, std::size_t corners) {
    FaceDoing& doing = plan.doing;
    doing.along = std::round(doing.along);
    doing.across = std::round(doing.across);
    if (!(doing.along >= 1 && doing.across >= 1)) return refused(plan, FaceRefusal::no_number);
    if (!(doing.along * doing.across <= most_pieces)) {
        plan.counts.pieces = whole(std::min(doing.along * doing.across, 1e18));
        return plan;
    }
    if (corners == 3) {
        plan.otherwise = doing.along != doing.across;
        doing.along = doing.across = std::max(doing.along, doing.across);
    }
    if (!(doing.along * doing.across <= most_pieces)) {
        plan.counts.pieces = whole(doing.along * doing.across);
        return plan;
    }
    const std::size_t n = whole(doing.along), m = whole(doing.across);
    if (corners == 4)
        plan.counts = {(n + 1) * (m + 1) - 4, n * (m - 1) + (n - 1) * m, n * m, 4 * n * m};
    else if (corners == 3)
        plan.counts = {(n + 1) * (n + 2) / 2 - 3, 3 * n * (n - 1) / 2, n * n, 3 * n * n};
    else {
        plan.otherwise = true;
        plan.counts = {corners + 1, corners, corners, 4 * corners};
    }
    return plan;
}

FacePlan plan_cut(FacePlan plan, const FaceNet& net, std::span<const FaceCorner> face) {
    if (face.size() != 4) return refused(plan, FaceRefusal::corners);
    FaceDoing& doing = plan.doing;
    if (doing.absolute) {
        const auto side = [&](std::size_t at) {
            return length(net.places[face[(at + 1) % 4].vertex] - net.places[face[at].vertex]);
        };
        doing.number /= 0.5 * (doing.cut_along ? side(0) + side(2) : side(1) + side(3));
        doing.absolute = false;
    }
    if (!(doing.number > 1e-6 && doing.number < 1 - 1e-6)) return refused(plan, FaceRefusal::outside);
    plan.counts = {2, 1, 2, 8};
    return plan;
}

FacePlan plan_inset(FacePlan plan, const FaceNet& net, std::span<const FaceCorner> face) {
    const double by = plan.doing.number;
    const std::size_t count = face.size();
    if (!(by > 0) || (!plan.doing.absolute && !(by < 1))) return refused(plan, FaceRefusal::too_narrow);
    if (plan.doing.absolute && corners_inset_by_length(net, face, by).empty())
        return refused(plan, FaceRefusal::too_narrow);
    plan.counts = {count, 2 * count, count + 1, 5 * count};
    return plan;
}

FacePlan plan_raised(FacePlan plan, std::size_t count) {
    const FaceDoing& doing = plan.doing;
    if (doing.number == 0 && doing.tapered == 1) return refused(plan, FaceRefusal::flat);
    if (!(doing.tapered >= 0)) return refused(plan, FaceRefusal::no_number);
    plan.counts = doing.tapered > 0 ? FaceCounts{count, 2 * count, count + 1, 5 * count}
                                    : FaceCounts{1, count, count, 3 * count};
    return plan;
}

// Making ------------------------------------------------------------------------------------------------

// Writes vertices, edges and pieces where there is room for them.
class Maker {
public:
    Maker(FaceNet& net, std::span<const FaceCorner> face, const FaceRoom& room)
        : net_(net), face_(face), room_(room), vertex_(room.vertex), edge_(room.edge) {}

    // Over a face of four corners, cut at these shares along and across, 0 and 1 among them.
    void grid(const Shares& along, const Shares& across) {
        const std::size_t n = along.size() - 1, m = across.size() - 1;
        Vertices vertices((n + 1) * (m + 1));
        const auto vertex = [&](std::size_t i, std::size_t j) -> std::uint32_t& {
            return vertices[j * (n + 1) + i];
        };
        for (std::size_t j = 0; j <= m; ++j)
            for (std::size_t i = 0; i <= n; ++i)
                vertex(i, j) = grid_vertex(along[i], across[j]);
        const std::size_t level = edge_, upright = edge_ + n * (m - 1);
        for (std::size_t j = 1; j < m; ++j)
            for (std::size_t i = 0; i < n; ++i)
                add_edge(vertex(i, j), vertex(i + 1, j));
        for (std::size_t j = 0; j < m; ++j)
            for (std::size_t i = 1; i < n; ++i)
                add_edge(vertex(i, j), vertex(i, j + 1));
        // The edges below and to the left of a cell, forwards.
        const auto below = [&](std::size_t i, std::size_t j) { return whole_edge(level + (j - 1) * n + i); };
        const auto left = [&](std::size_t i, std::size_t j) {
            return whole_edge(upright + j * (n - 1) + i - 1);
        };
        for (std::size_t j = 0; j < m; ++j)
            for (std::size_t i = 0; i < n; ++i) {
                const double i0 = along[i], i1 = along[i + 1], j0 = across[j], j1 = across[j + 1];
                corner(vertex(i, j), j == 0 ? side(0).part(i0, i1) : below(i, j));
                corner(vertex(i + 1, j), i + 1 == n ? side(1).part(j0, j1) : left(i + 1, j));
                corner(vertex(i + 1, j + 1),
                       j + 1 == m ? side(2).part(1 - i1, 1 - i0) : reversed(below(i, j + 1)));
                corner(vertex(i, j + 1), i == 0 ? side(3).part(1 - j1, 1 - j0) : reversed(left(i, j)));
                end_piece({PiecePlace::anywhere, static_cast<std::uint32_t>(j * n + i),
                           static_cast<std::uint32_t>(n * m), static_cast<std::uint32_t>(i),
                           static_cast<std::uint32_t>(j)});
            }
    }

    // Over a face of three corners, n pieces a side. Vertex (i, j) stands i steps from the first corner
    // towards the second and j towards the third.
    void triangles(std::size_t n) {
        const auto start_of_row = [n](std::size_t j) { return j * (n + 1) - j * (j - 1) / 2; };
        Vertices vertices((n + 1) * (n + 2) / 2);
        const auto vertex = [&](std::size_t i, std::size_t j) -> std::uint32_t& {
            return vertices[start_of_row(j) + i];
        };
        for (std::size_t j = 0; j <= n; ++j)
            for (std::size_t i = 0; i + j <= n; ++i)
                vertex(i, j) = triangle_vertex(i, j, n);
        // Edges in rows: forwards towards the second corner, towards the third, and from the one to the
        // other.
        const auto rows_before = [n](std::size_t row) { return row * n - row * (row + 1) / 2; };
        const std::size_t each = n * (n - 1) / 2, level = edge_, upright = level + each,
                          slant = upright + each;
        for (std::size_t j = 1; j < n; ++j)
            for (std::size_t i = 0; i + j < n; ++i)
                add_edge(vertex(i, j), vertex(i + 1, j));
        for (std::size_t i = 1; i < n; ++i)
            for (std::size_t j = 0; i + j < n; ++j)
                add_edge(vertex(i, j), vertex(i, j + 1));
        for (std::size_t j = 0; j + 1 < n; ++j)
            for (std::size_t i = 0; i + j + 1 < n; ++i)
                add_edge(vertex(i + 1, j), vertex(i, j + 1));
        // Rows 1, 2, ... have n - 1, n - 2, ... edges.
        const auto below = [&](std::size_t i, std::size_t j) {
            return whole_edge(level + rows_before(j - 1) + i);
        };
        const auto left = [&](std::size_t i, std::size_t j) {
            return whole_edge(upright + rows_before(i - 1) + j);
        };
        const auto across = [&](std::size_t i, std::size_t j) {
            return whole_edge(slant + rows_before(j) + i);
        };
        const double step = 1.0 / static_cast<double>(n);
        const auto part = [&](std::size_t which, std::size_t from) {
            return side(which).part(static_cast<double>(from) * step, static_cast<double>(from + 1) * step);
        };
        std::uint32_t number = 0;
        const auto end = [&](std::size_t i, std::size_t j) {
            end_piece({PiecePlace::anywhere, number++, static_cast<std::uint32_t>(n * n),
                       static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(j)});
        };
        for (std::size_t j = 0; j < n; ++j)
            for (std::size_t i = 0; i + j < n; ++i) {
                corner(vertex(i, j), j == 0 ? part(0, i) : below(i, j));
                corner(vertex(i + 1, j), i + j + 1 == n ? part(1, j) : across(i, j));
                corner(vertex(i, j + 1), i == 0 ? part(2, n - 1 - j) : reversed(left(i, j)));
                end(i, j);
                if (i + j + 1 == n) continue;
                corner(vertex(i + 1, j), left(i + 1, j));
                corner(vertex(i + 1, j + 1), reversed(below(i, j + 1)));
                corner(vertex(i, j + 1), reversed(across(i, j)));
                end(i, j);
            }
    }

    // A piece for each corner, around the middle.
    void corner_pieces() {
        const std::size_t count = face_.size();
        const std::uint32_t middle = add_vertex(middle_of(net_, face_));
        mix_all(middle);
        const std::size_t first_vertex = vertex_, first_edge = edge_;
        for (std::size_t at = 0; at < count; ++at)
            vertex_on(side(at), 0.5);
        for (std::size_t at = 0; at < count; ++at)
            add_edge(static_cast<std::uint32_t>(first_vertex + at), middle);
        for (std::size_t at = 0; at < count; ++at) {
            const std::size_t before = (at + count - 1) % count;
            corner(face_[at].vertex, side(at).part(0, 0.5));
            corner(static_cast<std::uint32_t>(first_vertex + at), whole_edge(first_edge + at));
            corner(middle, reversed(whole_edge(first_edge + before)));
            corner(static_cast<std::uint32_t>(first_vertex + before), side(before).part(0.5, 1));
            end_piece({PiecePlace::anywhere, static_cast<std::uint32_t>(at),
                       static_cast<std::uint32_t>(count), static_cast<std::uint32_t>(at), 0});
        }
    }

    // A face of the same corners elsewhere, joined to this one by a piece at each side.
    void ring(const std::vector<Vec3>& places, double towards_middle, PiecePlace within,
              PiecePlace at_sides) {
        const std::size_t count = face_.size(), first_vertex = vertex_, first_edge = edge_;
        const auto vertex = [&](std::size_t at) {
            return static_cast<std::uint32_t>(first_vertex + at % count);
        };
        for (std::size_t at = 0; at < count; ++at)
            mix_towards_middle(add_vertex(places[at]), at, towards_middle);
        for (std::size_t at = 0; at < count; ++at)
            add_edge(face_[at].vertex, vertex(at));
        for (std::size_t at = 0; at < count; ++at)
            add_edge(vertex(at), vertex(at + 1));
        const auto spoke = [&](std::size_t at) { return whole_edge(first_edge + at % count); };
        const auto rim = [&](std::size_t at) { return whole_edge(first_edge + count + at); };
        for (std::size_t at = 0; at < count; ++at) {
            corner(face_[at].vertex, side(at));
            corner(face_[(at + 1) % count].vertex, spoke(at + 1));
            corner(vertex(at + 1), reversed(rim(at)));
            corner(vertex(at), reversed(spoke(at)));
            end_piece({at_sides, static_cast<std::uint32_t>(at), static_cast<std::uint32_t>(count),
                       static_cast<std::uint32_t>(at), 0});
        }
        for (std::size_t at = 0; at < count; ++at)
            corner(vertex(at), rim(at));
        end_piece({within, 0, 1, 0, 0});
    }

    // A triangle from each side to a point.
    void fan(Vec3 place) {
        const std::size_t count = face_.size(), first_edge = edge_;
        const std::uint32_t top = add_vertex(place);
        mix_all(top);
        for (std::size_t at = 0; at < count; ++at)
            add_edge(face_[at].vertex, top);
        for (std::size_t at = 0; at < count; ++at) {
            corner(face_[at].vertex, side(at));
            corner(face_[(at + 1) % count].vertex, whole_edge(first_edge + (at + 1) % count));
            corner(top, reversed(whole_edge(first_edge + at)));
            end_piece({PiecePlace::beside, static_cast<std::uint32_t>(at), static_cast<std::uint32_t>(count),
                       static_cast<std::uint32_t>(at), 0});
        }
    }

private:
    const FaceSide& side(std::size_t at) const { return face_[at].side; }
    static FaceSide whole_edge(std::size_t edge) { return {static_cast<std::uint32_t>(edge), 0, 1}; }
    static FaceSide reversed(const FaceSide& side) { return {side.edge, side.to, side.from}; }

    std::uint32_t add_vertex(Vec3 place) {
        net_.places[vertex_] = place;
        return static_cast<std::uint32_t>(vertex_++);
    }
    std::uint32_t vertex_on(const FaceSide& side, double at) {
        const double share = side.share(at);
        net_.on_edge[vertex_] = side.edge;
        net_.shares[vertex_] = share;
        const FaceNet::Edge ends = net_.edges[side.edge];
        for (Doubles& column : net_.numbers)
            column[vertex_] = column[ends.a] + (column[ends.b] - column[ends.a]) * share;
        return add_vertex(net_.place_on(side.edge, share));
    }
    void add_edge(std::uint32_t a, std::uint32_t b) { net_.edges[edge_++] = {a, b}; }
    void corner(std::uint32_t vertex, const FaceSide& side) { room_.corners[corner_++] = {vertex, side}; }
    void end_piece(FacePiece piece) {
        piece.corner_end = static_cast<std::uint32_t>(corner_);
        room_.pieces[piece_++] = piece;
    }

    std::uint32_t grid_vertex(double u, double v) {
        const bool u_ends = u == 0 || u == 1, v_ends = v == 0 || v == 1;
        if (u_ends && v_ends) return face_[v == 0 ? (u == 0 ? 0 : 1) : (u == 0 ? 3 : 2)].vertex;
        if (v_ends) return v == 0 ? vertex_on(side(0), u) : vertex_on(side(2), 1 - u);
        if (u_ends) return u == 1 ? vertex_on(side(1), v) : vertex_on(side(3), 1 - v);
        const std::array<double, 4> weights{(1 - u) * (1 - v), u * (1 - v), u * v, (1 - u) * v};
        return mixed_vertex(weights);
    }
    std::uint32_t triangle_vertex(std::size_t i, std::size_t j, std::size_t n) {
        if (i == 0 && j == 0) return face_[0].vertex;
        if (i == n) return face_[1].vertex;
        if (j == n) return face_[2].vertex;
        const double step = 1.0 / static_cast<double>(n);
        const double u = static_cast<double>(i) * step, v = static_cast<double>(j) * step;
        if (j == 0) return vertex_on(side(0), u);
        if (i == 0) return vertex_on(side(2), static_cast<double>(n - j) * step);
        if (i + j == n) return vertex_on(side(1), v);
        return mixed_vertex(std::array<double, 3>{1 - u - v, u, v});
    }

    // The corners of the face in these shares.
    std::uint32_t mixed_vertex(std::span<const double> weights) {
        Vec3 place;
        for (std::size_t at = 0; at < weights.size(); ++at)
            place = place + net_.places[face_[at].vertex] * weights[at];
        for (Doubles& column : net_.numbers) {
            column[vertex_] = 0;
            for (std::size_t at = 0; at < weights.size(); ++at)
                column[vertex_] += column[face_[at].vertex] * weights[at];
        }
        return add_vertex(place);
    }
    void mix_all(std::uint32_t vertex) { mix_towards_middle(vertex, 0, 1); }
    // Numbers of a corner, by this share those of all corners in the mean.
    void mix_towards_middle(std::uint32_t vertex, std::size_t corner, double share) {
        for (Doubles& column : net_.numbers) {
            double mean = 0;
            for (const FaceCorner& each : face_)
                mean += column[each.vertex] / static_cast<double>(face_.size());
            const double own = column[face_[corner].vertex];
            column[vertex] = own + (mean - own) * share;
        }
    }

    FaceNet& net_;
    std::span<const FaceCorner> face_;
    FaceRoom room_;
    std::size_t vertex_, edge_, corner_ = 0, piece_ = 0;
};

Shares even_shares(double count) {
    Shares shares;
    for (double at = 0; at < count; ++at)
        shares.push_back(at / count);
    shares.push_back(1);
    return shares;
}

void raise(Maker& maker, const FaceNet& net, std::span<const FaceCorner> face, const FaceDoing& doing) {
    const Vec3 middle = middle_of(net, face), up = unit_or_zero(area_vector(net, face)) * doing.number;
    if (doing.tapered == 0) return maker.fan(middle + up);
    std::vector<Vec3> top;
    for (const FaceCorner& corner : face)
        top.push_back(middle + (net.places[corner.vertex] - middle) * doing.tapered + up);
    maker.ring(top, 1 - doing.tapered, PiecePlace::above, PiecePlace::beside);
}

}  // namespace

FacePlan plan_for(const FaceNet& net, std::span<const FaceCorner> face, Vec3 area, const FaceDoing& doing) {
    FacePlan plan{doing, {}, {}, false};
    if (!std::isfinite(doing.along) || !std::isfinite(doing.across) || !std::isfinite(doing.number) ||
        !std::isfinite(doing.tapered))
        return refused(plan, FaceRefusal::no_number);
    const double size = length(area);
    if (!(size > 0 && std::isfinite(size))) return refused(plan, FaceRefusal::flat);
    switch (doing.type) {
        case Type::split:
            return plan_split(plan, face.size());
        case Type::cut:
            return plan_cut(plan, net, face);
        case Type::inset:
            return plan_inset(plan, net, face);
        default:
            return plan_raised(plan, face.size());
    }
}

void carry_out(FaceNet& net, std::span<const FaceCorner> face, const FacePlan& plan, const FaceRoom& room) {
    const FaceDoing& doing = plan.doing;
    Maker maker(net, face, room);
    switch (doing.type) {
        case Type::split:
            if (face.size() == 4)
                maker.grid(even_shares(doing.along), even_shares(doing.across));
            else if (face.size() == 3)
                maker.triangles(whole(doing.along));
            else
                maker.corner_pieces();
            return;
        case Type::cut: {
            const Shares cut{0, doing.number, 1}, ends{0, 1};
            return doing.cut_along ? maker.grid(cut, ends) : maker.grid(ends, cut);
        }
        case Type::inset:
            return maker.ring(doing.absolute ? corners_inset_by_length(net, face, doing.number)
                                             : corners_inset_by_share(net, face, doing.number),
                              doing.absolute ? 0 : doing.number, PiecePlace::inside, PiecePlace::around);
        case Type::raised:
            return raise(maker, net, face, doing);
    }
}

}  // namespace plume
