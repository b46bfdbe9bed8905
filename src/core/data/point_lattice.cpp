#include "core/data/point_lattice.hpp"

#include <algorithm>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"

namespace plume {
namespace {

Error broken(std::string message) {
    return {ErrorCode::broken_invariant, "A lattice", std::move(message), ""};
}

// The product of the counts, or nothing when it does not fit.
std::optional<std::size_t> address_count_of(const std::array<std::size_t, 3>& counts) {
    std::size_t total = 1;
    for (const std::size_t count : counts)
        if (__builtin_mul_overflow(total, count, &total)) return {};
    return total;
}

std::string times_text(const std::array<std::size_t, 3>& numbers, int directions) {
    std::string text;
    for (int direction = 0; direction < directions; ++direction) {
        if (direction > 0) text += " × ";
        text += grouped_text(static_cast<std::int64_t>(numbers[static_cast<std::size_t>(direction)]));
    }
    return text;
}

}  // namespace

std::string_view plain_name(Arrangement arrangement) {
    static constexpr std::array<std::string_view, 7> names{"row",   "grid",  "triangular", "hexagonal",
                                                           "polar", "block", "scatter"};
    return names[static_cast<std::size_t>(arrangement)];
}

Result<PointLattice> PointLattice::make(Parts parts) {
    const auto total = address_count_of(parts.counts);
    if (!total) return broken("has more addresses than can be counted");
    for (const Column* column : {&parts.x, &parts.y, &parts.z})
        if (column->size() != *total) return broken("needs one coordinate per address");
    std::set<std::string_view> names;
    for (const Field& field : parts.fields) {
        if (field.values.size() != *total)
            return broken("needs one number of ‘" + field.name + "’ per address");
        if (!names.insert(field.name).second) return broken("has two fields called ‘" + field.name + "’");
    }
    if (!parts.present.empty() && parts.present.size() != *total)
        return broken("needs one gap mark per address");

    PointLattice lattice;
    lattice.arrangement_ = parts.arrangement;
    lattice.counts_ = parts.counts;
    lattice.closed_ = parts.closed;
    lattice.x_ = std::move(parts.x);
    lattice.y_ = std::move(parts.y);
    lattice.z_ = std::move(parts.z);
    lattice.fields_ = std::move(parts.fields);
    const auto gaps = std::count(parts.present.begin(), parts.present.end(), std::uint8_t{0});
    lattice.point_count_ = *total - static_cast<std::size_t>(gaps);
    if (gaps > 0)
        lattice.present_ = std::make_shared<const std::vector<std::uint8_t>>(std::move(parts.present));
    return lattice;
}

std::size_t PointLattice::bays(int direction) const {
    const std::size_t count = counts_[static_cast<std::size_t>(direction)];
    return closed(direction) || count == 0 ? count : count - 1;
}

Address PointLattice::address(std::size_t index) const {
    const std::size_t row = index / counts_[0];
    return {index % counts_[0], row % counts_[1], row / counts_[1]};
}

Box PointLattice::bounds() const {
    std::vector<Box> blocks(address_count() / usual_block + 1);
    parallel_blocks(address_count(), usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t index = begin; index < end; ++index)
            if (present(index)) blocks[begin / usual_block].include(point(index));
    });
    Box box;
    for (const Box& block : blocks)
        box.include(block);
    return box;
}

const Field* PointLattice::field(std::string_view name) const {
    const auto found = std::ranges::find(fields_, name, &Field::name);
    return found == fields_.end() ? nullptr : &*found;
}

PointLattice PointLattice::moved(Column x, Column y, Column z) const {
    assert(x.size() == address_count() && y.size() == address_count() && z.size() == address_count());
    PointLattice result = *this;
    result.x_ = std::move(x);
    result.y_ = std::move(y);
    result.z_ = std::move(z);
    return result;
}

PointLattice PointLattice::with_field(Field field) const {
    assert(field.values.size() == address_count());
    PointLattice result = *this;
    const auto found = std::ranges::find(result.fields_, field.name, &Field::name);
    if (found == result.fields_.end())
        result.fields_.push_back(std::move(field));
    else
        *found = std::move(field);
    return result;
}

bool PointLattice::same_arrangement(const PointLattice& other) const {
    return arrangement_ == other.arrangement_ && counts_ == other.counts_ && closed_ == other.closed_;
}

std::string arrangement_text(const PointLattice& lattice) {
    const int directions =
        lattice.arrangement() == Arrangement::block                                                  ? 3
        : lattice.arrangement() == Arrangement::row || lattice.arrangement() == Arrangement::scatter ? 1
                                                                                                     : 2;
    std::string text =
        times_text(lattice.counts(), directions) + (lattice.address_count() == 1 ? " point" : " points");
    const std::array<std::size_t, 3> bays{lattice.bays(0), lattice.bays(1), lattice.bays(2)};
    const bool one_bay = directions == 1 && bays[0] == 1;
    // A single point has none to tell of.
    if (lattice.arrangement() != Arrangement::scatter && lattice.address_count() > 1)
        text += ", " + times_text(bays, directions) + (one_bay ? " bay" : " bays");
    if (lattice.closed(0) && lattice.closed(1))
        text += ", closed both ways";
    else if (lattice.closed(0))
        text += ", closed along i";
    else if (lattice.closed(1))
        text += ", closed along j";
    if (const std::size_t gaps = lattice.address_count() - lattice.point_count(); gaps > 0)
        text += ", " + grouped_text(static_cast<std::int64_t>(gaps)) + (gaps == 1 ? " gap" : " gaps");
    return text;
}

}  // namespace plume
