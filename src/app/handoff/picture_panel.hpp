#pragma once
// The picture that the sentence in hand gives, while it gets better.

#include <QWidget>

#include "app/document/document.hpp"
#include "app/handoff/picture_maker.hpp"
#include "app/handoff/sentence_in_hand.hpp"

class QLabel;
class QPushButton;

namespace plume::app {

class PictureView;

class PicturePanel : public QWidget {
    Q_OBJECT

public:
    // `model`: asked from where the model is seen; nothing where there is none.
    PicturePanel(Document& document, std::function<std::optional<Camera>()> model, QWidget* parent = nullptr);

    // The sentence in hand, with what it gives; `entry`: nullptr while that is computed. Of what is not seen
    // nothing is drawn.
    void show_sentence(ItemId sentence, const HandOffEntry* entry, bool seen);

private:
    QWidget* new_foot();
    void make();
    void refresh();
    QString about() const;

    Document& document_;
    PictureMaker maker_;
    PictureView* view_;
    QLabel* about_;
    QPushButton *as_model_, *cancel_;
    SentenceInHand in_hand_;
    std::function<std::optional<Camera>()> model_;
    bool seen_ = false;
};

}  // namespace plume::app
