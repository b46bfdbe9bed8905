#include "app/start/card_grid.hpp"

#include "app/start/study_card.hpp"

namespace plume::app {
namespace {

constexpr int gap = 14;

}  // namespace

CardGrid::CardGrid(QWidget* parent) : QWidget(parent) {
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

void CardGrid::add(QWidget* card) {
    card->setParent(this);
    card->show();
    cards_.push_back(card);
    updateGeometry();
}

int CardGrid::columns(int width) const {
    return qMax(1, (width + gap) / (StudyCard::least_width + gap));
}

int CardGrid::heightForWidth(int width) const {
    const int in_row = columns(width), rows = (static_cast<int>(cards_.size()) + in_row - 1) / in_row;
    return rows * StudyCard::height + qMax(0, rows - 1) * gap;
}

QSize CardGrid::sizeHint() const {
    const int three = 3 * StudyCard::least_width + 2 * gap;
    return {three, heightForWidth(three)};
}

// How high it has to be is asked for at each width; this is what it never falls short of.
QSize CardGrid::minimumSizeHint() const {
    return {StudyCard::least_width, cards_.empty() ? 0 : StudyCard::height};
}

void CardGrid::resizeEvent(QResizeEvent* /*event*/) {
    const int in_row = columns(width()), wide = (width() - (in_row - 1) * gap) / in_row;
    for (std::size_t at = 0; at < cards_.size(); ++at) {
        const int number = static_cast<int>(at), row = number / in_row, column = number % in_row;
        cards_[at]->setGeometry(column * (wide + gap), row * (StudyCard::height + gap), wide,
                                StudyCard::height);
    }
}

}  // namespace plume::app
