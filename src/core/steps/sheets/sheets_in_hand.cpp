#include "core/steps/sheets/sheets_in_hand.hpp"

#include <algorithm>

#include "core/geometry/meshes/vertex_places.hpp"

namespace plume {
namespace {

bool are_same(const MadeFrom& one, const MadeFrom& other) {
    return one.material == other.material && one.thickness == other.thickness && one.rest == other.rest &&
           one.grown == other.grown && are_put_together_alike(one.thing, other.thing);
}

}  // namespace

bool are_put_together_alike(const Value& one, const Value& other) {
    if (one.index() != other.index()) return false;
    if (const auto* mesh = std::get_if<Mesh>(&one)) return have_same_faces(*mesh, std::get<Mesh>(other));
    const auto &a = std::get<BarFrame>(one), &b = std::get<BarFrame>(other);
    return a.nodes().address_count() == b.nodes().address_count() && a.members() == b.members();
}

std::unique_ptr<SheetInHand> SheetsInHand::take(const MadeFrom& from) {
    const std::lock_guard lock(mutex_);
    const auto found =
        std::ranges::find_if(kept_, [&](const Kept& kept) { return are_same(kept.from, from); });
    if (found == kept_.end()) return nullptr;
    std::unique_ptr<SheetInHand> sheet = std::move(found->sheet);
    kept_.erase(found);
    return sheet;
}

void SheetsInHand::give_back(MadeFrom from, std::unique_ptr<SheetInHand> sheet) noexcept {
    const std::lock_guard lock(mutex_);
    kept_.push_back({std::move(from), std::move(sheet)});
    std::size_t vertices = 0, fit = 0;
    while (fit < std::min(kept_.size(), most_kept)) {
        vertices += kept_[kept_.size() - 1 - fit].sheet->sheet.vertex_count;
        if (vertices > most_vertices) break;
        ++fit;
    }
    kept_.erase(kept_.begin(), kept_.end() - static_cast<std::ptrdiff_t>(fit));
}

}  // namespace plume
