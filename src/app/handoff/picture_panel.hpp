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
    explicit PicturePanel(Document& document, QWidget* parent = nullptr);

    // `entry`: nullptr while it is computed.
    void show_sentence(ItemId sentence, const HandOffEntry* entry);
    // Nothing is drawn while it is not seen.
    void set_open(bool open);
    // Asks whether there is a model whose view can be taken, and where that is seen from.
    void take_views_from(std::function<std::optional<Camera>()> model);

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
    bool open_ = false;
};

}  // namespace plume::app
