#include "core/geometry/parts/fill_gaps.hpp"

#include <Eigen/IterativeLinearSolvers>
#include <Eigen/SparseCholesky>
#include <Eigen/SparseCore>
#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

#include "core/geometry/parts/address_list.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/geometry/points/lattice_links.hpp"

namespace plume {
namespace {

using Matrix = Eigen::SparseMatrix<double>;
// In the order of the addresses the factor of a row is exact, and that of long narrow gaps nearly so: without
// it a gap of n points in a row takes n rounds.
using Factor = Eigen::IncompleteCholesky<double, Eigen::Lower, Eigen::NaturalOrdering<int>>;

// Of grids and rows a whole factor is quick and not large; of blocks it fills up, and beyond so many gaps it
// takes seconds that nobody could cancel.
using WholeFactor = Eigen::SimplicialLDLT<Matrix>;
constexpr std::size_t most_gaps_of_whole_factor = 250'000;

// Shares of the right side.
constexpr double wanted_rest = 1e-12, bearable_rest = 1e-9;
constexpr int most_rounds = 50'000;

PointLattice without_gaps(const PointLattice& lattice) {
    PointLattice::Parts parts;
    const Shape shape = shape_of(lattice);
    parts.arrangement = shape.arrangement;
    parts.counts = shape.counts;
    parts.closed = shape.closed;
    parts.x = lattice.x();
    parts.y = lattice.y();
    parts.z = lattice.z();
    parts.fields = lattice.fields();
    Result<PointLattice> made = PointLattice::make(std::move(parts));
    assert(made);
    return *std::move(made);
}

// One equation a gap: the sum of its differences to its neighbours is 0.
struct Equations {
    std::vector<std::size_t> gaps;               // addresses, in the order of the unknowns
    std::vector<Eigen::Triplet<double>> matrix;  // of unknown and unknown
    struct Known {
        int unknown;
        std::size_t address;
    };
    std::vector<Known> known;  // neighbours that are there
};

Equations equations_of(const PointLattice& lattice, const PointLattice& whole) {
    Equations equations;
    std::vector<int> number(lattice.address_count(), -1);
    for (std::size_t index = 0; index < number.size(); ++index) {
        if (lattice.present(index)) continue;
        number[index] = static_cast<int>(equations.gaps.size());
        equations.gaps.push_back(index);
    }
    const auto pull = [&](std::size_t gap, std::size_t other) {
        if (number[gap] < 0) return;
        equations.matrix.emplace_back(number[gap], number[gap], 1.0);
        if (number[other] < 0)
            equations.known.push_back({number[gap], other});
        else
            equations.matrix.emplace_back(number[gap], number[other], -1.0);
    };
    for_each_link(whole, [&](std::size_t from, std::size_t to) {
        pull(from, to);
        pull(to, from);
    });
    return equations;
}

class Filling {
public:
    Filling(const PointLattice& lattice, const PointLattice& whole, const Run& run)
        : lattice_(lattice), equations_(equations_of(lattice, whole)), run_(run) {
        const auto size = static_cast<Eigen::Index>(equations_.gaps.size());
        matrix_.resize(size, size);
        matrix_.setFromTriplets(equations_.matrix.begin(), equations_.matrix.end());
        if (has_whole_factor(lattice))
            whole_factor_.emplace(matrix_);
        else
            factor_.compute(matrix_);
        columns_to_fill_ = static_cast<double>(3 + lattice.fields().size());
    }

    // A column of the lattice with its gaps filled.
    Result<Column> column(const Column& old) {
        Eigen::VectorXd right = Eigen::VectorXd::Zero(matrix_.rows());
        for (const Equations::Known& known : equations_.known) {
            if (!std::isfinite(old[known.address]))
                return Error{ErrorCode::not_finite, "The point " + address_text(lattice_, known.address),
                             "beside a gap has a number that is not finite",
                             "Mend the numbers it comes from."};
            right[known.unknown] += old[known.address];
        }
        const Result<Eigen::VectorXd> values =
            whole_factor_ ? checked(whole_factor_->solve(right), right) : solved(right);
        if (!values) return values.error();
        ++columns_filled_;
        Doubles filled(old.span().begin(), old.span().end());
        for (std::size_t at = 0; at < equations_.gaps.size(); ++at)
            filled[equations_.gaps[at]] = (*values)[static_cast<Eigen::Index>(at)];
        return Column(std::move(filled));
    }

private:
    Result<Eigen::VectorXd> checked(Eigen::VectorXd values, const Eigen::VectorXd& right) const {
        if (run_.cancelled()) return cancelled_error();
        const double whole = right.norm(), rest = (right - matrix_ * values).norm();
        if (std::isfinite(whole) && rest <= bearable_rest * whole) return values;
        return not_converged();
    }

    static Error not_converged() {
        return {ErrorCode::not_converged, "Points",
                "have gaps that cannot be filled between numbers so large",
                "Bring the numbers of the points beside the gaps below 1e100."};
    }

    // Of all columns: each goes as far as its rest has still to shrink.
    void report(double share_of_rest) const {
        const double gone = std::log(std::max(share_of_rest, wanted_rest)) / std::log(wanted_rest);
        run_.report((columns_filled_ + std::clamp(gone, 0.0, 1.0)) / columns_to_fill_);
    }

    // Preconditioned conjugate gradients, in rounds of our own: a library's cannot be cancelled but by
    // beginning anew from time to time, and each time it forgets the directions it has been along.
    Result<Eigen::VectorXd> solved(const Eigen::VectorXd& right) {
        const double whole = right.norm();
        Eigen::VectorXd values = Eigen::VectorXd::Zero(right.size()), rest = right;
        Eigen::VectorXd pulled = factor_.solve(rest), along = pulled;
        double weight = rest.dot(pulled);
        for (int round = 0; rest.norm() > wanted_rest * whole && round < most_rounds; ++round) {
            if (run_.cancelled()) return cancelled_error();
            report(rest.norm() / whole);
            const Eigen::VectorXd change = matrix_ * along;
            const double step = weight / along.dot(change);
            values += step * along;
            rest -= step * change;
            pulled = factor_.solve(rest);
            const double before = std::exchange(weight, rest.dot(pulled));
            along = pulled + (weight / before) * along;
        }
        if (std::isfinite(whole) && rest.norm() <= bearable_rest * whole) return values;
        return not_converged();
    }

    const PointLattice& lattice_;
    Equations equations_;
    const Run& run_;
    Matrix matrix_;
    Factor factor_;
    std::optional<WholeFactor> whole_factor_;
    double columns_filled_ = 0, columns_to_fill_ = 1;
};

}  // namespace

bool has_whole_factor(const PointLattice& lattice) {
    return lattice.counts()[2] == 1 &&
           lattice.address_count() - lattice.point_count() <= most_gaps_of_whole_factor;
}

Result<PointLattice> filled(const PointLattice& lattice, const Run& run) {
    if (!lattice.has_gaps()) return lattice;
    assert(lattice.point_count() > 0);
    if (lattice.arrangement() == Arrangement::scatter)
        return Error{ErrorCode::wrong_kind, "Points", "are a scatter, whose gaps have no neighbours",
                     "Let them close up instead."};
    const PointLattice whole = without_gaps(lattice);
    Filling filling(lattice, whole, run);
    std::vector<Column> columns;
    for (const Column* column : {&lattice.x(), &lattice.y(), &lattice.z()}) {
        auto made = filling.column(*column);
        if (!made) return made.error();
        columns.push_back(*std::move(made));
    }
    PointLattice result = whole.moved(columns[0], columns[1], columns[2]);
    for (const Field& field : lattice.fields()) {
        auto made = filling.column(field.values);
        if (!made) return made.error();
        result = result.with_field({field.name, *std::move(made), field.dimension});
    }
    return result;
}

}  // namespace plume
