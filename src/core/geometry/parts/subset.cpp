#include "core/geometry/parts/subset.hpp"

#include <algorithm>

#include "core/data/gathered.hpp"

namespace plume {
namespace {

PointLattice::Parts parts_of(const PointLattice& lattice) {
    PointLattice::Parts parts;
    parts.arrangement = lattice.arrangement();
    parts.counts = lattice.counts();
    for (int d = 0; d < 3; ++d)
        parts.closed[static_cast<std::size_t>(d)] = lattice.closed(d);
    parts.x = lattice.x();
    parts.y = lattice.y();
    parts.z = lattice.z();
    parts.fields = lattice.fields();
    return parts;
}

PointLattice made(PointLattice::Parts parts) {
    Result<PointLattice> lattice = PointLattice::make(std::move(parts));
    assert(lattice);
    return *std::move(lattice);
}

// Per direction, which numbers still have a point.
std::array<std::vector<std::uint8_t>, 3> inhabited(const PointLattice& lattice) {
    std::array<std::vector<std::uint8_t>, 3> marks;
    for (std::size_t d = 0; d < 3; ++d)
        marks[d].assign(lattice.counts()[d], 0);
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        if (!lattice.present(index)) continue;
        const Address at = lattice.address(index);
        marks[0][at.i] = marks[1][at.j] = marks[2][at.k] = 1;
    }
    return marks;
}

}  // namespace

PointLattice with_gaps(const PointLattice& lattice, const std::vector<std::uint8_t>& mask) {
    PointLattice::Parts parts = parts_of(lattice);
    parts.present = mask;
    for (std::size_t index = 0; index < mask.size(); ++index)
        if (!lattice.present(index)) parts.present[index] = 0;
    return made(std::move(parts));
}

PointLattice closed_up(const PointLattice& lattice) {
    if (!lattice.has_gaps()) return lattice;
    std::vector<std::size_t> kept;
    for (std::size_t index = 0; index < lattice.address_count(); ++index)
        if (lattice.present(index)) kept.push_back(index);
    PointLattice::Parts parts = parts_of(lattice);
    parts.x = gathered(lattice.x(), kept);
    parts.y = gathered(lattice.y(), kept);
    parts.z = gathered(lattice.z(), kept);
    parts.fields = gathered(lattice.fields(), kept);

    const auto marks = inhabited(lattice);
    std::array<std::size_t, 3> counts{};
    for (std::size_t d = 0; d < 3; ++d) {
        counts[d] = static_cast<std::size_t>(std::ranges::count(marks[d], 1));
        if (counts[d] < lattice.counts()[d]) parts.closed[d] = false;
    }
    parts.counts = counts;
    if (counts[0] * counts[1] * counts[2] != kept.size()) {
        parts.counts = {kept.size(), 1, 1};
        parts.closed = {false, false, false};
        if (parts.arrangement != Arrangement::row) parts.arrangement = Arrangement::scatter;
    }
    return made(std::move(parts));
}

Shape shape_of(const PointLattice& lattice) {
    return {
        lattice.arrangement(), lattice.counts(), {lattice.closed(0), lattice.closed(1), lattice.closed(2)}};
}

PointLattice points_at(const Shape& shape, std::span<const Vec3> places) {
    Doubles x(places.size()), y(places.size()), z(places.size());
    for (std::size_t at = 0; at < places.size(); ++at) {
        x[at] = places[at].x;
        y[at] = places[at].y;
        z[at] = places[at].z;
    }
    PointLattice::Parts parts;
    parts.arrangement = shape.arrangement;
    parts.counts = shape.counts;
    parts.closed = shape.closed;
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return made(std::move(parts));
}

FinitePoints finite_points(const PointLattice& lattice) {
    FinitePoints finite;
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        if (!lattice.present(index) || !is_finite(lattice.point(index))) continue;
        finite.places.push_back(lattice.point(index));
        finite.addresses.push_back(index);
    }
    return finite;
}

namespace {

// Every column through `taken`, with gaps where `there` says so.
template <class Taken, class There>
PointLattice made_of(const PointLattice& lattice, const Shape& shape, std::size_t count, Taken taken,
                     There there) {
    PointLattice::Parts parts;
    parts.arrangement = shape.arrangement;
    parts.counts = shape.counts;
    parts.closed = shape.closed;
    parts.x = taken(lattice.x());
    parts.y = taken(lattice.y());
    parts.z = taken(lattice.z());
    for (const Field& field : lattice.fields())
        parts.fields.push_back({field.name, taken(field.values), field.dimension});
    parts.present.resize(count);
    for (std::size_t at = 0; at < count; ++at)
        parts.present[at] = there(at) ? 1 : 0;
    return made(std::move(parts));
}

}  // namespace

PointLattice rearranged(const PointLattice& lattice, const Shape& shape,
                        const std::vector<std::size_t>& from) {
    const auto taken = [&](const Column& column) {
        Doubles values(from.size());
        for (std::size_t at = 0; at < from.size(); ++at)
            values[at] = from[at] == no_address ? 0 : column[from[at]];
        return values;
    };
    return made_of(lattice, shape, from.size(), taken,
                   [&](std::size_t at) { return from[at] != no_address && lattice.present(from[at]); });
}

PointLattice blended(const PointLattice& lattice, const Shape& shape, const Blends& blends) {
    const std::size_t count = blends.first.size() - 1;
    const auto taken = [&](const Column& column) {
        Doubles values(count);
        for (std::size_t at = 0; at < count; ++at) {
            double sum = 0;
            for (std::size_t part = blends.first[at]; part < blends.first[at + 1]; ++part)
                sum += blends.weights[part] * column[blends.from[part]];
            values[at] = sum;
        }
        return values;
    };
    return made_of(lattice, shape, count, taken, [&](std::size_t at) {
        bool whole = blends.first[at] < blends.first[at + 1];
        for (std::size_t part = blends.first[at]; part < blends.first[at + 1]; ++part)
            whole = whole && lattice.present(blends.from[part]);
        return whole;
    });
}

PointLattice left_over(const PointLattice& whole, const PointLattice& part) {
    assert(whole.same_arrangement(part));
    std::vector<std::uint8_t> mask(whole.address_count());
    for (std::size_t index = 0; index < mask.size(); ++index)
        mask[index] = part.present(index) ? 0 : 1;
    return with_gaps(whole, mask);
}

}  // namespace plume
