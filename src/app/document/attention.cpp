#include "app/document/attention.hpp"

#include <algorithm>

#include "app/document/document.hpp"

namespace plume::app {

Attention::Attention(const Document& document) : document_(document) {}

void Attention::select(ItemId id) {
    if (selected_ == id && anchor_ == id) return;
    selected_ = anchor_ = id;
    Q_EMIT selection_changed();
}

void Attention::extend_selection(ItemId id) {
    if (anchor_ == 0) anchor_ = id;
    selected_ = id;
    Q_EMIT selection_changed();
}

// From the anchor to what was selected last; nothing when nothing is.
std::span<const Item> Attention::selected_items() const {
    const Study& study = document_.study();
    const auto to = study.position(selected_), from = study.position(anchor_);
    if (!to) return {};
    const std::size_t first = std::min(from.value_or(*to), *to), last = std::max(from.value_or(*to), *to);
    return std::span(study.items).subspan(first, last - first + 1);
}

ItemIds Attention::selection() const {
    ItemIds ids;
    for (const Item& item : selected_items())
        ids.insert(id_of(item));
    return ids;
}

bool Attention::is_selected(ItemId id) const {
    return std::ranges::any_of(selected_items(), [id](const Item& item) { return id_of(item) == id; });
}

void Attention::hover(const Hovered& hovered) {
    if (hovered_ == hovered) return;
    hovered_ = hovered;
    Q_EMIT hover_changed();
}

void Attention::hold(const Hovered& held) {
    if (held_ == held) return;
    held_ = held;
    Q_EMIT held_changed();
}

bool Attention::ask_why() {
    const Hovered& pointed = hovered_.step != 0 ? hovered_ : held_;
    if (pointed.step == 0) return false;
    const AskedPart part{pointed.step, pointed.part()};
    std::vector<AskedPart>& asked = wishes_.asked;
    if (std::erase(asked, part) == 0) {
        if (asked.size() == most_asked) asked.erase(asked.begin());
        asked.push_back(part);
    }
    Q_EMIT looked_elsewhere();
    return true;
}

void Attention::stop_asking() {
    if (wishes_.asked.empty()) return;
    wishes_.asked.clear();
    Q_EMIT looked_elsewhere();
}

GraphWish Attention::graph_wish(ItemId id) const {
    const auto found = wishes_.graphs.find(id);
    return found == wishes_.graphs.end() ? GraphWish{} : found->second;
}

void Attention::set_graph_wish(ItemId id, const GraphWish& wish) {
    if (graph_wish(id) == wish) return;
    wishes_.graphs[id] = wish;
    looked_at_.reset();
    Q_EMIT looked_elsewhere();
}

void Attention::set_ghost(const GhostWish& wish) {
    if (wishes_.ghost == wish) return;
    wishes_.ghost = wish;
    looked_at_.reset();
    Q_EMIT looked_elsewhere();
}

void Attention::set_offers_wish(ItemId id) {
    wishes_.offers = id;
    if (id != 0) Q_EMIT looked_elsewhere();
}

void Attention::set_response_wish(ItemId id) {
    wishes_.response = id;
    if (id != 0) Q_EMIT looked_elsewhere();
}

void Attention::read(ItemId id) {
    if (std::exchange(wishes_.read, id) == id || id == 0) return;
    Q_EMIT looked_elsewhere();
}

void Attention::plan_hand_off_at(std::optional<HandOffPlace> place) {
    wishes_.hand_off = std::move(place);
    Q_EMIT looked_elsewhere();
}

void Attention::show_handed(ItemId id) {
    if (std::exchange(wishes_.handed, id) != id) Q_EMIT looked_elsewhere();
}

std::size_t Attention::look_from(const DrawnView& view) {
    wishes_.view = view;
    const std::size_t number = ++wishes_.view_number;
    Q_EMIT looked_elsewhere();
    return number;
}

void Attention::look_at_line(ItemId id, std::size_t begin) {
    const Step* step = document_.study().step(id);
    if (!step) return;
    const Edited coloured = coloured_by_line(document_.study(), *document_.kind_of(*step), id, begin);
    if (!coloured) return look_away();
    looked_at_ = *coloured;
    Q_EMIT looked_elsewhere();
}

void Attention::look_away() {
    if (!looked_at_) return;
    looked_at_.reset();
    Q_EMIT looked_elsewhere();
}

const std::vector<std::string>& Attention::graphed(ItemId id) const {
    static const std::vector<std::string> none;
    const auto found = graphed_.find(id);
    return found == graphed_.end() ? none : found->second;
}

void Attention::toggle_graphed(ItemId id, const std::string& line) {
    std::vector<std::string>& lines = graphed_[id];
    if (std::erase(lines, line) == 0) lines.push_back(line);
    Q_EMIT graphed_changed();
}

void Attention::forget_all() {
    selected_ = anchor_ = 0;
    hovered_ = held_ = {};
    graphed_.clear();
    looked_at_.reset();
    // Views go on being counted, so that none of another study is taken for one of this.
    const std::size_t views = wishes_.view_number;
    wishes_ = {};
    wishes_.view_number = views;
}

void Attention::follow_edit() {
    if (selected_ != 0 && !document_.study().position(selected_)) selected_ = 0;
    if (anchor_ != 0 && !document_.study().position(anchor_)) anchor_ = selected_;
    looked_at_.reset();
}

}  // namespace plume::app
