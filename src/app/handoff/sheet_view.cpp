#include "app/handoff/sheet_view.hpp"

#include <QApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/document/document.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr double margin = 24;  // pixels around a sheet that fits
constexpr double nearest = 40;

}  // namespace

SheetView::SheetView(SheetMaker& maker, QWidget* parent) : QWidget(parent), maker_(maker) {
    setObjectName("sheet-view");
    setAccessibleName(tr("The sheet"));
    setAccessibleDescription(tr("Tab takes what stands on it in hand, arrows move it by a millimetre"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(200, 160);
    connect(&maker, &SheetMaker::changed, this, [this] {
        if (!item(in_hand_)) in_hand_.clear();
        ask_for_picture();
        update();
    });
}

void SheetView::fit() {
    nearer_ = 1;
    ask_for_picture();
    update();
}

std::optional<QRectF> SheetView::place_of(const std::string& name) const {
    const PlanItem* found = item(name);
    if (!found) return {};
    return frame_of(*found);
}

const PlanItem* SheetView::item(const std::string& name) const {
    if (!maker_.plan()) return nullptr;
    const auto found = std::ranges::find(maker_.plan()->items, name, &PlanItem::name);
    return found == maker_.plan()->items.end() ? nullptr : &*found;
}

// Of those that overlap the one that is laid down last.
const PlanItem* SheetView::item_at(QPointF place) const {
    if (!maker_.plan()) return nullptr;
    const PlanItem* found = nullptr;
    for (const PlanItem& item : maker_.plan()->items)
        if (frame_of(item).contains(place)) found = &item;
    return found;
}

double SheetView::pixels_a_mm() const {
    const Plan& plan = *maker_.plan();
    return nearer_ * std::min((width() - 2 * margin) / plan.width, (height() - 2 * margin) / plan.height);
}

QPointF SheetView::on_screen(PaperPlace place) const {
    const PaperPlace middle =
        nearer_ == 1 ? PaperPlace{maker_.plan()->width / 2, maker_.plan()->height / 2} : middle_;
    return {width() / 2.0 + (place.x - middle.x) * pixels_a_mm(),
            height() / 2.0 - (place.y - middle.y) * pixels_a_mm()};
}

PaperPlace SheetView::on_paper(QPointF place) const {
    const QPointF corner = on_screen({0, 0});
    return {(place.x() - corner.x()) / pixels_a_mm(), (corner.y() - place.y()) / pixels_a_mm()};
}

QRectF SheetView::frame_of(const PlanItem& item) const {
    const PaperPlace low = dragging_ && item.name == in_hand_ ? dragged_to_ : item.low;
    return QRectF(on_screen({low.x, low.y + item.height}), on_screen({low.x + item.width, low.y}));
}

PaperPlace SheetView::held_on_paper(const PlanItem& item, PaperPlace low) const {
    const Plan& plan = *maker_.plan();
    const auto held = [](double at, double size, double paper) {
        return std::clamp(at, plan_margin, std::max(plan_margin, paper - plan_margin - size));
    };
    return {held(low.x, item.width, plan.width), held(low.y, item.height, plan.height)};
}

void SheetView::ask_for_picture() {
    if (!maker_.plan() || width() < 2 * margin + 1 || height() < 2 * margin + 1) return;
    const Plan& plan = *maker_.plan();
    const PaperPlace low = on_paper({0, static_cast<double>(height())}),
                     high = on_paper({static_cast<double>(width()), 0});
    const QRectF seen = QRectF(QPointF(low.x, low.y), QPointF(high.x, high.y))
                            .intersected(QRectF(0, 0, plan.width, plan.height));
    if (seen.isEmpty()) return;
    const double pixels = pixels_a_mm() * devicePixelRatioF();
    maker_.picture(seen, QSize(std::max(1, static_cast<int>(std::lround(seen.width() * pixels))),
                               std::max(1, static_cast<int>(std::lround(seen.height() * pixels)))));
}

void SheetView::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.fillRect(rect(), look().desk);
    if (!maker_.plan()) return;
    const Plan& plan = *maker_.plan();
    const QRectF paper(on_screen({0, plan.height}), on_screen({plan.width, 0}));
    painter.fillRect(paper, Qt::white);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const SheetMaker::Picture& picture = maker_.picture();
    if (!picture.image.isNull())
        painter.drawImage(QRectF(on_screen({picture.area.left(), picture.area.bottom()}),
                                 on_screen({picture.area.right(), picture.area.top()})),
                          picture.image);
    painter.setPen(look().hairline);
    painter.drawRect(paper);
    for (const PlanItem& item : plan.items) {
        const bool in_hand = item.name == in_hand_;
        if (!in_hand && item.name != hovered_) continue;
        painter.setPen(QPen(look().accent, in_hand ? 2 : 1));
        painter.drawRect(frame_of(item));
    }
}

void SheetView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    ask_for_picture();
}

// What is under the cursor stays there.
void SheetView::wheelEvent(QWheelEvent* event) {
    if (!maker_.plan()) return;
    const QPointF cursor = event->position();
    const PaperPlace under = on_paper(cursor);
    nearer_ = std::clamp(nearer_ * std::pow(1.0015, event->angleDelta().y()), 1.0, nearest);
    middle_ = {under.x - (cursor.x() - width() / 2.0) / pixels_a_mm(),
               under.y + (cursor.y() - height() / 2.0) / pixels_a_mm()};
    ask_for_picture();
    update();
}

void SheetView::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !maker_.plan()) return;
    pressed_ = event->position();
    const PlanItem* under = item_at(*pressed_);
    in_hand_ = under ? under->name : "";
    panning_ = !under && nearer_ > 1;
    middle_before_ = middle_;
    update();
}

void SheetView::mouseMoveEvent(QMouseEvent* event) {
    if (!maker_.plan()) return;
    const QPointF cursor = event->position();
    if (!pressed_) {
        const PlanItem* under = item_at(cursor);
        hovered_ = under ? under->name : "";
        setCursor(under ? Qt::SizeAllCursor : Qt::ArrowCursor);
        setToolTip(under ? tr("%1: drag to move it").arg(text_of(under->name)) : QString());
        return update();
    }
    const QPointF by = cursor - *pressed_;
    if (panning_) {
        middle_ = {middle_before_.x - by.x() / pixels_a_mm(), middle_before_.y + by.y() / pixels_a_mm()};
        ask_for_picture();
        return update();
    }
    const PlanItem* taken = item(in_hand_);
    if (!taken || (!dragging_ && by.manhattanLength() < QApplication::startDragDistance())) return;
    dragging_ = true;
    // Whole millimetres.
    dragged_to_ = held_on_paper(*taken, {std::round(taken->low.x + by.x() / pixels_a_mm()),
                                         std::round(taken->low.y - by.y() / pixels_a_mm())});
    update();
}

void SheetView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    pressed_ = {};
    panning_ = false;
    if (std::exchange(dragging_, false)) Q_EMIT moved({in_hand_, dragged_to_.x, dragged_to_.y});
    update();
}

void SheetView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton) fit();
}

void SheetView::move_in_hand(PaperPlace by) {
    const PlanItem* taken = item(in_hand_);
    if (!taken) return;
    const PaperPlace to =
        held_on_paper(*taken, {std::round(taken->low.x) + by.x, std::round(taken->low.y) + by.y});
    Q_EMIT moved({in_hand_, to.x, to.y});
}

void SheetView::keyPressEvent(QKeyEvent* event) {
    const double step = event->modifiers() & Qt::ShiftModifier ? 10 : 1;
    switch (event->key()) {
        case Qt::Key_Left:
            return move_in_hand({-step, 0});
        case Qt::Key_Right:
            return move_in_hand({step, 0});
        case Qt::Key_Up:
            return move_in_hand({0, step});
        case Qt::Key_Down:
            return move_in_hand({0, -step});
        case Qt::Key_Escape:
            if (dragging_ || !in_hand_.empty()) {
                dragging_ = false;
                pressed_ = {};
                in_hand_.clear();
                return update();
            }
            break;
        default:
            break;
    }
    QWidget::keyPressEvent(event);
}

void SheetView::leaveEvent(QEvent* event) {
    hovered_.clear();
    update();
    QWidget::leaveEvent(event);
}

// Through what stands on the sheet, then on.
bool SheetView::focusNextPrevChild(bool next) {
    if (!maker_.plan() || !hasFocus()) return QWidget::focusNextPrevChild(next);
    const std::vector<PlanItem>& items = maker_.plan()->items;
    const auto now = std::ranges::find(items, in_hand_, &PlanItem::name);
    const auto count = static_cast<std::ptrdiff_t>(items.size());
    std::ptrdiff_t at = now == items.end() ? (next ? 0 : count - 1) : now - items.begin() + (next ? 1 : -1);
    if (at < 0 || at >= count) {
        in_hand_.clear();
        update();
        return QWidget::focusNextPrevChild(next);
    }
    in_hand_ = items[static_cast<std::size_t>(at)].name;
    update();
    return true;
}

}  // namespace plume::app
