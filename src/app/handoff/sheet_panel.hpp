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

    // The sentence in hand, with what it gives; `entry`: nullptr while that is computed. Of what is not seen
    // nothing is made.
    void show_sentence(ItemId sentence, const HandOffEntry* entry, bool seen);

private:
    void refresh();

    Document& document_;
    SheetMaker maker_;
    SheetView* view_;
    QLabel *nothing_, *about_;
    QPushButton *in_rows_, *cancel_;
    SentenceInHand in_hand_;
    QTimer progress_timer_;
};

}  // namespace plume::app
