#include "app/sheet/beginnings.hpp"

#include <QKeyEvent>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

#include "app/document/document.hpp"
#include "app/finder/sentence_html.hpp"
#include "app/parts/scrubbing.hpp"
#include "app/theme/look.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

// A grid, a form from lines of mathematics, a line that is drawn: the three ways most studies go.
constexpr const char* kinds[] = {"lattice.rectangular", "lattice.formula", "curve.drawn"};

}  // namespace

BeginningSentence::BeginningSentence(const StepKind& kind, QWidget* parent) : QLabel(parent), kind_(kind) {
    setObjectName("beginning");
    setWordWrap(true);
    setIndent(0);
    setTextFormat(Qt::RichText);
    setTextInteractionFlags(Qt::LinksAccessibleByMouse);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setAccessibleName(text_of(sentence_text(kind, Step())));
    setToolTip(
        tr("Return or a click adds it; a click on a part, or a drag on a number, changes that at once"));
    connect(this, &QLabel::linkActivated, this, &BeginningSentence::wanted);
    connect(this, &QLabel::linkHovered, this, [this](const QString& slot) { under_ = slot; });
    write();
}

void BeginningSentence::write() {
    setFont(text_font(14));
    setStyleSheet(QString("border: 1px solid %1; border-radius: 6px; padding: 1px 4px;")
                      .arg(hasFocus() ? look().accent.name() : QString("transparent")));
    setText(sentence_html(kind_, Step(), PartsAre::links));
}

void BeginningSentence::mousePressEvent(QMouseEvent* event) {
    const auto slot = std::ranges::find(kind_.slots, text_of(under_), &SlotSpec::key);
    const bool number = slot != kind_.slots.end() && slot->numeric() && event->button() == Qt::LeftButton;
    pressed_ = number ? under_ : QString();
    pressed_at_ = event->globalPosition();
    QLabel::mousePressEvent(event);
}

void BeginningSentence::mouseMoveEvent(QMouseEvent* event) {
    if (pressed_.isEmpty() || qAbs(event->globalPosition().x() - pressed_at_.x()) < drag_beyond)
        return QLabel::mouseMoveEvent(event);
    Q_EMIT dragged(std::exchange(pressed_, {}), pressed_at_);
}

void BeginningSentence::mouseReleaseEvent(QMouseEvent* event) {
    bool followed = false;
    const auto link = connect(this, &QLabel::linkActivated, this, [&followed] { followed = true; });
    QLabel::mouseReleaseEvent(event);
    disconnect(link);
    if (!followed && event->button() == Qt::LeftButton && rect().contains(event->pos())) Q_EMIT wanted({});
}

void BeginningSentence::keyPressEvent(QKeyEvent* event) {
    const int key = event->key();
    if (key == Qt::Key_Return || key == Qt::Key_Enter || key == Qt::Key_Space) return Q_EMIT wanted({});
    QLabel::keyPressEvent(event);
}

void BeginningSentence::focusInEvent(QFocusEvent* event) {
    QLabel::focusInEvent(event);
    write();
}

void BeginningSentence::focusOutEvent(QFocusEvent* event) {
    QLabel::focusOutEvent(event);
    write();
}

void BeginningSentence::changeEvent(QEvent* event) {
    QLabel::changeEvent(event);
    if (event->type() == QEvent::PaletteChange) write();
}

Beginnings::Beginnings(const Catalogue& catalogue, QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(margin_width - 5, 2, 14, 2);
    column->setSpacing(4);
    auto* title = new QLabel(tr("Begin with"));
    title->setProperty("second", true);
    title->setContentsMargins(5, 0, 0, 0);
    column->addWidget(title);
    for (const char* key : kinds) {
        auto* sentence = new BeginningSentence(*catalogue.find(key), this);
        column->addWidget(sentence);
        connect(sentence, &BeginningSentence::wanted, this,
                [this, key](const QString& slot) { Q_EMIT wanted(key, slot); });
        connect(sentence, &BeginningSentence::dragged, this,
                [this, key](const QString& slot, QPointF at) { Q_EMIT dragged(key, slot, at); });
    }
}

}  // namespace plume::app
