#pragma once
// A page of a study: title, controls, headings and steps, with the threads that join what is read in the
// margin.

#include <QWidget>
#include <map>
#include <span>

#include "app/sheet/continue_box.hpp"
#include "app/sheet/control_row.hpp"
#include "app/sheet/item_block.hpp"
#include "app/sheet/step_block.hpp"

class QLabel;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace plume::app {

class Beginnings;
class SlotPart;

class SheetPage : public QWidget {
    Q_OBJECT

public:
    // The items of one page of the study; title and controls only where it is made.
    SheetPage(Document& document, Page page, QWidget* parent);
    StepBlock* step_block(ItemId step) const;
    ContinueBox& continue_box() { return *continue_; }
    void begin_insert(std::size_t position);
    // The keyboard goes to what is selected, and it is scrolled into sight.
    void go_to_selected();
    // The list of headings, from which one is gone to.
    void open_headings();
    // What is said of items changed.
    void refresh_blocks();
    // The control that the keyboard is at; nullptr when it is elsewhere.
    const ControlRow* control_in_hand() const;

Q_SIGNALS:
    void show_wanted(QWidget* widget);
    void language_help_wanted(const QString& about);

protected:
    void resizeEvent(QResizeEvent* event) override;
    void moveEvent(QMoveEvent* event) override;
    bool event(QEvent* event) override;
    void changeEvent(QEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    friend class ThreadMargin;
    struct Thread {
        ItemId from = 0;
        std::vector<ItemId> readers;
        QColor colour;
        int lane = 0;
    };
    void take_study();
    void take_head();
    // Adds it; the part of that slot, nullptr where none is meant.
    SlotPart* begin_with(const std::string& kind, const QString& slot);
    void paint_threads(QPainter& painter, const QRect& seen) const;
    void sync_controls();
    void sync_blocks();
    void drop_blocks();
    // Fills the blocks that are in sight, and near it.
    void fill_seen();
    void edit_title();
    void go_to(ItemId item);
    void tell_why();
    std::vector<Thread> threads() const;
    std::vector<Thread> threads_;  // of the study in hand
    bool lit(const Thread& thread) const;
    int node_y(ItemId item) const;
    void focus_neighbour(ItemId item, int direction, bool extend);
    // From the block there on, in that direction, to the first that is seen; false where none is.
    bool focus_from(std::ptrdiff_t index, int direction, bool extend);
    void focus_above_continue();

    std::span<const Item> items() const;

    Document& document_;
    Page page_;
    QVBoxLayout *column_, *controls_column_, *items_column_;
    QLabel *title_, *note_;
    QToolButton* headings_;
    QPushButton* add_control_;
    std::vector<ControlRow*> controls_;
    std::map<ItemId, ItemBlock*> blocks_;
    std::vector<ItemId> order_;
    Beginnings* beginnings_;
    ContinueBox* continue_;
    QWidget* margin_;
    ItemId hovered_ = 0;
    std::vector<AskedPart> told_;  // why they are as they are
};

}  // namespace plume::app
