#pragma once
// PointLattice: N points together with their arrangement.
//
// Layout. Addresses (i, j, k) run over counts[0] x counts[1] x counts[2]; the flat index is
// i + counts[0] * (j + counts[1] * k): i runs fastest. x, y, z and every field hold one double per address,
// in that order (structure of arrays). A gap is an address without a point: its entries in the columns are
// kept but mean nothing. Removing points makes gaps, so neighbours stay known.
//
// A closed direction joins its last point to its first and never repeats the seam: n points, n bays. An
// open one has n points and n - 1 bays.
//
// Immutable and cheap to copy (columns are shared); safe to read from any number of threads.

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "core/base/error.hpp"
#include "core/data/box.hpp"
#include "core/data/column.hpp"

namespace plume {

enum class Arrangement { row, grid, triangular, hexagonal, polar, block, scatter };
std::string_view plain_name(Arrangement arrangement);

struct Address {
    std::size_t i = 0, j = 0, k = 0;
    bool operator==(const Address&) const = default;
};

class PointLattice {
public:
    // Raw material; `present` is empty when there are no gaps, else 1 or 0 per address.
    struct Parts {
        Arrangement arrangement = Arrangement::grid;
        std::array<std::size_t, 3> counts{0, 1, 1};
        std::array<bool, 3> closed{false, false, false};
        Column x, y, z;
        std::vector<std::uint8_t> present;
        std::vector<Field> fields;
    };

    // Checks that counts, columns and fields agree and that field names differ; broken_invariant otherwise.
    static Result<PointLattice> make(Parts parts);

    Arrangement arrangement() const { return arrangement_; }
    const std::array<std::size_t, 3>& counts() const { return counts_; }
    bool closed(int direction) const { return closed_[static_cast<std::size_t>(direction)]; }
    std::size_t bays(int direction) const;

    std::size_t address_count() const { return x_.size(); }
    std::size_t point_count() const { return point_count_; }
    bool has_gaps() const { return present_ != nullptr; }
    bool present(std::size_t index) const { return !present_ || (*present_)[index] != 0; }

    Address address(std::size_t index) const;
    std::size_t index(Address address) const {
        return address.i + counts_[0] * (address.j + counts_[1] * address.k);
    }

    const Column& x() const { return x_; }
    const Column& y() const { return y_; }
    const Column& z() const { return z_; }
    Vec3 point(std::size_t index) const { return {x_[index], y_[index], z_[index]}; }
    Box bounds() const;  // of the finite points that are present; one pass

    const std::vector<Field>& fields() const { return fields_; }
    const Field* field(std::string_view name) const;

    // The same arrangement with other coordinates or one more field (a field of that name is replaced).
    // The columns have to have one entry per address.
    PointLattice moved(Column x, Column y, Column z) const;
    PointLattice with_field(Field field) const;

    // Whether a number per point of `other` can be read as a number per point of this.
    bool same_arrangement(const PointLattice& other) const;

private:
    PointLattice() = default;

    Arrangement arrangement_ = Arrangement::grid;
    std::array<std::size_t, 3> counts_{};
    std::array<bool, 3> closed_{};
    Column x_, y_, z_;
    std::shared_ptr<const std::vector<std::uint8_t>> present_;
    std::vector<Field> fields_;
    std::size_t point_count_ = 0;
};

// "25 × 17 points, 24 × 16 bays", "12 points in a row"; says which directions are closed and the gaps.
std::string arrangement_text(const PointLattice& lattice);

}  // namespace plume
