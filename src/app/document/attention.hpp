#pragma once
// Attention: where whoever works on a study looks. What is selected and hovered, and what is wished to be
// seen of it: graphs of formulas, a ghost of another version, a line by which the model is coloured, the
// numbers through a response, surfaces from close by. Nothing of it is kept in the study.

#include <QObject>
#include <map>
#include <optional>
#include <span>

#include "core/evaluation/formula_insight.hpp"
#include "core/handoff/hand_off.hpp"
#include "core/picture/drawable.hpp"
#include "core/study/edits/edits.hpp"

namespace plume::app {

class Document;

struct Hovered {
    ItemId step = 0;
    std::size_t index = 0;               // flat address in the step's lattice, or item of its attractors
    std::optional<PartRef> within = {};  // a face or a vertex of that item
    PartRef part() const { return within.value_or(PartRef{PartSort::item, index}); }
    bool operator==(const Hovered&) const = default;
};

// A part that is asked why it is as it is.
struct AskedPart {
    ItemId step = 0;
    PartRef part;
    bool operator==(const AskedPart&) const = default;
};
inline constexpr std::size_t most_asked = 2;  // side by side

// A version of a step's formula that is laid over the model.
struct GhostWish {
    ItemId step = 0;  // 0: none
    std::string version;
    bool operator==(const GhostWish&) const = default;
};

// What the worker is asked to find out once an evaluation is over.
struct Wishes {
    std::map<ItemId, GraphWish> graphs;
    GhostWish ghost;
    ItemId response = 0;  // the step whose response is being edited; 0: none
    ItemId offers = 0;    // the step of which something is being chosen from what it has; 0: none
    ItemId read = 0;      // the step whose readings are shown; 0: none
    std::optional<HandOffPlace> hand_off;  // while the page Hand off is open
    ItemId handed = 0;                     // the sentence there of which is seen what it gives; 0: none
    std::vector<AskedPart> asked;          // why they are as they are; most_asked of them
    std::optional<DrawnView> view;
    std::size_t view_number = 0;
};

class Attention : public QObject {
    Q_OBJECT

public:
    explicit Attention(const Document& document);

    // The item in hand; of several selected the last one reached.
    ItemId selected() const { return selected_; }
    void select(ItemId id);
    // From the item that was selected first to this one, and all between on the page.
    void extend_selection(ItemId id);
    ItemIds selection() const;
    bool is_selected(ItemId id) const;
    const Hovered& hovered() const { return hovered_; }
    void hover(const Hovered& hovered);
    // What was clicked in the model last: it stays in Readings while others are hovered.
    const Hovered& held() const { return held_; }
    void hold(const Hovered& held);

    // Asks why what is pointed at, or else was clicked last, is as it is; beside what was asked before, if
    // that is one. What is asked already is asked no longer. False where nothing is pointed at.
    bool ask_why();
    void stop_asking();

    const Wishes& wishes() const { return wishes_; }
    GraphWish graph_wish(ItemId id) const;
    void set_graph_wish(ItemId id, const GraphWish& wish);
    const GhostWish& ghost_wish() const { return wishes_.ghost; }
    void set_ghost(const GhostWish& wish);
    // How numbers go through the response of a step, while its editor is open. 0: none.
    void set_response_wish(ItemId id);
    // What a step has to choose from, while a list of it is open. 0: none.
    void set_offers_wish(ItemId id);
    // Whose result is to be looked through for its readings. 0: none.
    void read(ItemId id);
    // Compares what is handed off with what was, for a hand-off at that place; nothing: not at all.
    void plan_hand_off_at(std::optional<HandOffPlace> place);
    // Draws what that sentence gives, coloured by what is new or changed. 0: none.
    void show_handed(ItemId id);
    // Asks for surfaces as fine as this view needs; Results::closer() has them some time later, under this
    // number.
    std::size_t look_from(const DrawnView& view);
    // What is looked at changes too quickly to be drawn as finely.
    void look_roughly() { wishes_.view.reset(); }
    // Colours the model by a line of a step's formula while it is looked at.
    void look_at_line(ItemId id, std::size_t begin);
    void look_away();
    // The study in which that line is a field; nullptr while none is looked at.
    const StudyPointer& looked_at() const { return looked_at_; }
    // Lines drawn in the large graph.
    const std::vector<std::string>& graphed(ItemId id) const;
    void toggle_graphed(ItemId id, const std::string& line);

    // Asks whoever shows the model to let corners be drawn, or points be picked, for a slot.
    void ask_to_draw(ItemId id, const std::string& slot) { Q_EMIT drawing_wanted(id, slot); }
    void ask_to_pick(ItemId id, const std::string& slot) { Q_EMIT picking_wanted(id, slot); }

    // The study is another one, or was edited.
    void forget_all();
    void follow_edit();

Q_SIGNALS:
    void selection_changed();
    void hover_changed();
    void held_changed();
    void graphed_changed();
    void looked_elsewhere();  // nothing of the study changed, but what is to be found out of it
    void drawing_wanted(plume::ItemId id, const std::string& slot);
    void picking_wanted(plume::ItemId id, const std::string& slot);

private:
    std::span<const Item> selected_items() const;

    const Document& document_;
    ItemId selected_ = 0, anchor_ = 0;
    Hovered hovered_, held_;
    Wishes wishes_;
    StudyPointer looked_at_;
    std::map<ItemId, std::vector<std::string>> graphed_;
};

}  // namespace plume::app
