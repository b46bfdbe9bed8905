#pragma once
// The sheet of the drawing in hand, what there is to say of it, and putting it in rows again.

#include <QTimer>

#include "app/document/document.hpp"
#include "app/handoff/sentence_in_hand.hpp"
#include "app/handoff/sheet_view.hpp"

class QLabel;
class QPushButton;

namespace plume::app {

class SheetPanel : public QWidget {
    Q_OBJECT

public:
    explicit SheetPanel(Document& document, QWidget* parent = nullptr);

    // The sentence in hand, with what it gives where it has no error. Shown or not: of what is not seen
    // nothing is made.
    void show_sentence(ItemId sentence, const HandOffEntry* entry);
    void set_open(bool open);

private:
    void refresh();

    Document& document_;
    SheetMaker maker_;
    SheetView* view_;
    QLabel *nothing_, *about_;
    QPushButton *in_rows_, *cancel_;
    SentenceInHand in_hand_;
    bool open_ = false;
    QTimer progress_timer_;
};

}  // namespace plume::app
