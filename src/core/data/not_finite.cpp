#include "core/data/not_finite.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/base/parallel.hpp"
#include "core/data/on_points.hpp"

namespace plume {
namespace {

class Search {
public:
    explicit Search(SeenColumns& seen) : seen_(seen) {}

    std::vector<std::string> take() { return std::move(sentences_); }

    void look(const PointLattice& lattice) {
        const auto there = [&](std::size_t index) { return lattice.present(index); };
        const auto named = [&](std::size_t index) {
            const Address at = lattice.address(index);
            std::string text = "at i " + std::to_string(at.i) + ", j " + std::to_string(at.j);
            return lattice.counts()[2] > 1 ? text + ", k " + std::to_string(at.k) : text;
        };
        look(std::array<const Column*, 3>{&lattice.x(), &lattice.y(), &lattice.z()}, "point", there, named);
        look(lattice.fields(), there, named);
    }
    // Vertices, poles.
    template <class Item>
    void look(const Item& item, const std::string& what) {
        const auto there = [](std::size_t) { return true; };
        const auto named = [&](std::size_t index) { return what + " " + std::to_string(index); };
        look(std::array<const Column*, 3>{&item.x(), &item.y(), &item.z()}, what, there, named);
        look(item.fields(), there, named);
    }
    // Bodies, faces.
    void look_at(const std::vector<Field>& fields, const std::string& what) {
        look(
            fields, [](std::size_t) { return true; },
            [&](std::size_t index) { return what + " " + std::to_string(index); });
    }
    void look(const Mesh& mesh) {
        look(mesh, "vertex");
        look_at(mesh.face_fields(), "face");
    }
    void look(const Quantity& number) {
        if (!std::isfinite(number.value)) sentences_.emplace_back("The number is not finite.");
    }

private:
    bool fresh_and_odd(const Column& column) {
        return seen_.insert(column.data()).second && !all_finite(column);
    }

    // One sentence about what `odd` says of the addresses that are there.
    template <class Odd, class There, class Named>
    void say(std::size_t size, Odd odd, There there, Named named, const std::string& one,
             const std::string& many) {
        std::size_t count = 0, first = 0;
        for (std::size_t index = size; index-- > 0;)
            if (there(index) && odd(index)) {
                ++count;
                first = index;
            }
        if (count == 0) return;
        sentences_.push_back(grouped_text(static_cast<std::int64_t>(count)) + (count == 1 ? one : many) +
                             (count == 1 ? ", " : ", the first ") + named(first) + ".");
    }
    template <class There, class Named>
    void look(const std::array<const Column*, 3>& axes, const std::string& what, There there, Named named) {
        bool any = false;
        for (const Column* axis : axes)
            any = fresh_and_odd(*axis) || any;
        if (!any) return;
        const auto odd = [&](std::size_t index) {
            return std::ranges::any_of(axes,
                                       [&](const Column* axis) { return !std::isfinite((*axis)[index]); });
        };
        say(axes[0]->size(), odd, there, named, " " + what + " has coordinates that are not finite",
            " " + (what == "vertex" ? "vertices" : what + "s") + " have coordinates that are not finite");
    }
    template <class There, class Named>
    void look(const std::vector<Field>& fields, There there, Named named) {
        for (const Field& field : fields) {
            if (!fresh_and_odd(field.values)) continue;
            const auto odd = [&](std::size_t index) { return !std::isfinite(field.values[index]); };
            say(field.values.size(), odd, there, named, " number of ‘" + field.name + "’ is not finite",
                " numbers of ‘" + field.name + "’ are not finite");
        }
    }

    SeenColumns& seen_;
    std::vector<std::string> sentences_;
};

}  // namespace

bool all_finite(const Column& column) {
    constexpr std::size_t lanes = 8;
    std::vector<std::uint8_t> odd(column.size() / usual_block + 1, 0);
    parallel_blocks(column.size(), usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        // Infinite and not a number times nothing is not nothing; sums tell without a branch, and several
        // side by side do not wait for each other.
        std::array<double, lanes> sums{};
        const double* const values = column.data();
        std::size_t index = begin;
        for (; index + lanes <= end; index += lanes)
            for (std::size_t lane = 0; lane < lanes; ++lane)
                sums[lane] += values[index + lane] * 0;
        for (; index < end; ++index)
            sums[0] += values[index] * 0;
        odd[begin / usual_block] = std::ranges::all_of(sums, [](double sum) { return sum == 0; }) ? 0 : 1;
    });
    return std::ranges::none_of(odd, [](std::uint8_t mark) { return mark != 0; });
}

void FiniteRange::include(const Column& column) {
    for (const double number : column.span())
        if (std::isfinite(number)) {
            least = std::min(least, number);
            most = std::max(most, number);
        }
}

std::vector<std::string> not_finite_sentences(const Value& value, SeenColumns& seen) {
    Search search(seen);
    std::visit(Overloaded{[&](const PointLattice& lattice) { search.look(lattice); },
                          [&](const OnPoints auto& item) { search.look(item.points); },
                          [](const Attractors&) {},  // refuse such numbers when they are made
                          [&](const Mesh& mesh) { search.look(mesh); },
                          [&](const SurfaceSet& set) {
                              for (const SplinePatch& patch : set.patches)
                                  search.look(patch, "pole");
                          },
                          [&](const CurveSet& set) {
                              for (const SplineCurve& curve : set.curves)
                                  search.look(curve, "pole");
                          },
                          [&](const Placements& item) { search.look(item.origins()); },
                          [&](const SolidSet& set) {
                              search.look_at(set.fields, "body");
                              for (const Body& body : set.bodies) {
                                  if (!body.exact()) search.look(body.mesh());
                                  for (const SplinePatch& patch : body.patches())
                                      search.look(patch, "pole");
                              }
                          },
                          [&](const BarFrame& frame) {
                              search.look(frame.nodes());
                              search.look_at(frame.fields(), "member");
                          },
                          [&](const Quantity& number) { search.look(number); }, [](const Delivery&) {}},
               value);
    return search.take();
}

}  // namespace plume
