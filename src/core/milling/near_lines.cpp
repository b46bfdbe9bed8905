#include "core/milling/near_lines.hpp"

#include <algorithm>
#include <boost/geometry.hpp>
#include <boost/geometry/index/rtree.hpp>
#include <cmath>

namespace plume {
namespace {

namespace geo = boost::geometry;
using Point = geo::model::point<double, 2, geo::cs::cartesian>;
using Segment = geo::model::segment<Point>;
using Square = geo::model::box<Point>;
using Packing = geo::index::rstar<16>;

Point point_of(FlatPoint place) {
    return {place.x, place.y};
}

}  // namespace

double length_of(const FlatEdge& piece) {
    return std::hypot(piece.to.x - piece.from.x, piece.to.y - piece.from.y);
}

double distance(FlatPoint place, const FlatEdge& piece) {
    const double x = piece.to.x - piece.from.x, y = piece.to.y - piece.from.y, to_x = place.x - piece.from.x,
                 to_y = place.y - piece.from.y, whole = x * x + y * y;
    const double share = whole > 0 ? std::clamp((to_x * x + to_y * y) / whole, 0.0, 1.0) : 0;
    return std::hypot(to_x - share * x, to_y - share * y);
}

struct NearPieces::Tree {
    using Entry = std::pair<Segment, std::size_t>;
    std::vector<FlatEdge> pieces;
    geo::index::rtree<Entry, Packing> tree;
};

NearPieces::NearPieces(std::vector<FlatEdge> pieces) : tree_(std::make_unique<Tree>()) {
    std::vector<Tree::Entry> entries;
    entries.reserve(pieces.size());
    for (std::size_t at = 0; at < pieces.size(); ++at)
        entries.emplace_back(Segment(point_of(pieces[at].from), point_of(pieces[at].to)), at);
    tree_->pieces = std::move(pieces);
    tree_->tree = geo::index::rtree<Tree::Entry, Packing>(entries);
}
NearPieces::~NearPieces() = default;
NearPieces::NearPieces(NearPieces&&) noexcept = default;

const FlatEdge& NearPieces::piece(std::size_t number) const {
    return tree_->pieces[number];
}

void NearPieces::find(FlatPoint place, double reach, std::vector<NearPiece>& found) const {
    found.clear();
    const Square around(point_of({place.x - reach, place.y - reach}),
                        point_of({place.x + reach, place.y + reach}));
    for (auto entry = tree_->tree.qbegin(geo::index::intersects(around)); entry != tree_->tree.qend();
         ++entry) {
        const double away = distance(place, tree_->pieces[entry->second]);
        if (away <= reach) found.push_back({entry->second, away});
    }
}

std::optional<NearPiece> NearPieces::nearest(FlatPoint place) const {
    const auto entry = tree_->tree.qbegin(geo::index::nearest(point_of(place), 1));
    if (entry == tree_->tree.qend()) return {};
    return NearPiece{entry->second, distance(place, tree_->pieces[entry->second])};
}

struct OpenPlaces::Tree {
    geo::index::rtree<std::pair<Point, std::size_t>, Packing> tree;
};

OpenPlaces::OpenPlaces() : tree_(std::make_unique<Tree>()) {}
OpenPlaces::~OpenPlaces() = default;

void OpenPlaces::add(FlatPoint place, std::size_t number) {
    tree_->tree.insert({point_of(place), number});
}
void OpenPlaces::remove(FlatPoint place, std::size_t number) {
    tree_->tree.remove({point_of(place), number});
}
std::optional<std::size_t> OpenPlaces::nearest(FlatPoint place) const {
    const auto entry = tree_->tree.qbegin(geo::index::nearest(point_of(place), 1));
    if (entry == tree_->tree.qend()) return {};
    return entry->second;
}

}  // namespace plume
