#pragma once
// A heading on the page: colour, title, note; folds away the steps under it.

#include "app/sheet/item_block.hpp"

class QLabel;
class QToolButton;

namespace plume::app {

class HeadingBlock : public ItemBlock {
    Q_OBJECT

public:
    HeadingBlock(Document& document, ItemId item, QWidget* parent);
    void refresh() override;
    // What is folded away, said beside the title.
    struct Folded {
        std::size_t steps = 0, wrong = 0;
        ItemId last = 0;  // of those that came to something
    };
    void set_folded(const Folded& folded);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void rename() override;
    void fill_menu(QMenu& menu) override;

private:
    const Heading* heading() const;
    void fold();

    HeadingColour painted_{};
    QToolButton* fold_;
    QLabel *title_, *figures_, *note_;
};

}  // namespace plume::app
