// Any text as a table of points, as addresses and as a drawn response: each is read or refused with a
// sentence, and what is read keeps its promises.

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <string_view>

#include "core/assets/point_table.hpp"
#include "core/geometry/numbers/response_curve.hpp"
#include "core/geometry/parts/address_list.hpp"
#include "fuzz/demand.hpp"

namespace {

using namespace plume;

void read_table(std::string_view text) {
    const auto table = read_point_table(text, {}, Run());
    if (!table) return demand(!sentence(table.error()).empty());
    const PointLattice& points = table->points;
    demand(points.point_count() > 0 && points.x().size() == points.point_count());
    for (std::size_t index = 0; index < points.point_count(); ++index)
        demand(is_finite(points.point(index)));
    demand(table->bad_row_count == 0 || !bad_rows_text(*table).empty());
}

void read_addresses(std::string_view text) {
    PointLattice::Parts parts;
    parts.counts = {5, 4, 1};
    parts.x = parts.y = parts.z = Column(Doubles(20, 0.0));
    parts.present.assign(20, 1);
    parts.present[7] = 0;
    const PointLattice lattice = *PointLattice::make(std::move(parts));
    const auto named = named_addresses(text, lattice);
    if (!named) return demand(!named.error().mend.empty());
    demand(named->mask.size() == 20 && named->mask[7] == 0);
    const Listing listing{[&](std::size_t entry) { return address_text(lattice, entry); },
                          [&](std::string_view list) { return named_addresses(list, lattice); }};
    const auto turned = with_turned_over(text, 19, listing);
    demand(turned.ok() &&
           (turned->empty() || named_addresses(*turned, lattice)->mask[19] != named->mask[19]));
}

void read_curve(std::string_view text) {
    const auto curve = read_response(text);
    if (!curve) return demand(!curve.error().mend.empty());
    double least = 1, most = 0;
    for (const ResponseKnot& knot : curve->knots()) {
        least = std::min(least, knot.answer);
        most = std::max(most, knot.answer);
    }
    for (int at = -2; at <= 66; ++at) {
        const double answer = (*curve)(at / 64.0);
        demand(answer >= least - 1e-9 && answer <= most + 1e-9);
    }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    read_table(text);
    read_addresses(text);
    read_curve(text);
    return 0;
}
