#include "core/growth/face_crowd.hpp"

#include "core/base/parallel.hpp"

namespace plume {
namespace {

// Calls use(column of one, the same column of the other) for all columns that have an entry a face.
template <class Use>
void for_each_column(FaceCrowd& a, const FaceCrowd& b, const Use& use) {
    use(a.names, b.names);
    use(a.lines, b.lines);
    use(a.rows, b.rows);
    use(a.numbers, b.numbers);
    use(a.siblings, b.siblings);
    use(a.i, b.i);
    use(a.j, b.j);
    use(a.places, b.places);
    use(a.identities, b.identities);
    for (std::size_t value = 0; value < a.values.size(); ++value)
        use(a.values[value], b.values[value]);
}

}  // namespace

FaceCrowd crowd_of(std::size_t count, std::size_t values) {
    FaceCrowd crowd;
    crowd.values.resize(values);
    for_each_column(crowd, crowd, [count](auto& column, const auto&) { column.resize(count); });
    return crowd;
}

FaceCrowd gathered(const FaceCrowd& crowd, const std::vector<std::uint32_t>& kept) {
    FaceCrowd made = crowd_of(0, crowd.values.size());
    append(made, crowd, kept);
    return made;
}

void append(FaceCrowd& crowd, const FaceCrowd& more, const std::vector<std::uint32_t>& which) {
    for_each_column(crowd, more, [&which](auto& column, const auto& from) {
        const std::size_t first = column.size();
        column.resize(first + which.size());
        for (std::size_t at = 0; at < which.size(); ++at)
            column[first + at] = from[which[at]];
    });
    for (const std::uint32_t face : which)
        crowd.shape.add(more.shape.face(face));
}

}  // namespace plume
