#include "app/time/time_lanes.hpp"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QToolTip>
#include <cmath>
#include <utility>

#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"
#include "app/time/time_text.hpp"
#include "core/base/numbers.hpp"
#include "core/study/edits/fewer_keys.hpp"
#include "core/study/moving.hpp"

namespace plume::app {
namespace {

constexpr int titles_width = 116, right_margin = 18;
constexpr int top_height = 21, lane_height = 22;
constexpr double key_radius = 4.5, key_reach = 8;
constexpr int least_tick_px = 46;

// Seconds between two marks that stand far enough apart: 1, 2 or 5 times a power of ten.
double tick_of(double px_per_second) {
    const double least = least_tick_px / px_per_second;
    const double power = std::pow(10.0, std::floor(std::log10(least)));
    for (const double times : {1.0, 2.0, 5.0})
        if (times * power >= least) return times * power;
    return 10 * power;
}

QString easing_text(Easing easing) {
    switch (easing) {
        case Easing::smooth:
            return QObject::tr("at rest on both");
        case Easing::straight:
            return QObject::tr("evenly");
        case Easing::jump:
            return QObject::tr("all at once");
    }
    return {};
}

}  // namespace

TimeLanes::TimeLanes(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName("time-lanes");
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(tr("Moments and keys"));
    connect(&document.playing(), &Playing::moment_changed, this, QOverload<>::of(&QWidget::update));
    refresh();
}

QSize TimeLanes::sizeHint() const {
    return {300, top_height + lane_height * static_cast<int>(lanes_.size()) + 6};
}

std::vector<TimeLanes::Lane> TimeLanes::lanes_now() const {
    const Study& study = document_.study();
    std::vector<Lane> lanes;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        if (step && follows_time(study, document_.catalogue(), *step))
            lanes.push_back({text_of(step->name), step->id, {}, document_.results().kept_frames(step->id)});
    }
    for (KeyRow& row : key_rows(study)) {
        const QString title = text_of(row.title);
        lanes.push_back({title, 0, std::move(row), {}});
    }
    return lanes;
}

void TimeLanes::refresh() {
    lanes_ = lanes_now();
    // Where keys went, as by going a step back, no part of the others is left in hand by chance.
    std::size_t still_there = 0;
    for (const Lane& lane : lanes_)
        for (const KeyMark& key : lane.keys.keys)
            if (is_chosen(chosen_, lane.keys.of, key.seconds)) ++still_there;
    if (still_there < key_count(chosen_)) chosen_.clear();
    if (sizeHint().height() != height()) {
        setFixedHeight(sizeHint().height());
        updateGeometry();
    }
    update();
}

// Places ----------------------------------------------------------------------------------------------------

double TimeLanes::x_of(double seconds) const {
    const double room = std::max(1, width() - titles_width - right_margin);
    return titles_width + room * seconds / document_.study().time.seconds;
}

double TimeLanes::seconds_at(double x) const {
    const Timeline& time = document_.study().time;
    const double room = std::max(1, width() - titles_width - right_margin);
    const double seconds = std::clamp((x - titles_width) / room, 0.0, 1.0) * time.seconds;
    return std::round(seconds * time.rate) / time.rate;
}

int TimeLanes::lane_at(double y) const {
    const int lane = static_cast<int>(std::floor((y - top_height) / lane_height));
    return lane >= 0 && lane < lane_count() ? lane : -1;
}

QPoint TimeLanes::position_of(int lane, double seconds) const {
    return {static_cast<int>(std::lround(x_of(seconds))), top_height + lane_height * lane + lane_height / 2};
}

std::optional<TimeLanes::KeyHit> TimeLanes::key_at(QPointF at) const {
    const int lane = lane_at(at.y());
    if (lane < 0) return {};
    const KeyRow& row = lanes_[static_cast<std::size_t>(lane)].keys;
    std::optional<KeyHit> found;
    double nearest = key_reach;
    for (const KeyRun& run : runs_of(row.keys, px_per_second()))
        for (std::size_t key = run.first; key < run.end; ++key) {
            const double apart = std::abs(x_of(row.keys[key].seconds) - at.x());
            if (apart >= nearest) continue;
            nearest = apart;
            found = KeyHit{lane, key, run};
        }
    return found;
}

// Choosing --------------------------------------------------------------------------------------------------

void TimeLanes::choose_run(const KeyHit& hit) {
    const KeyRow& row = keys_of(hit);
    for (std::size_t key = hit.run.first; key < hit.run.end; ++key)
        choose(chosen_, row.of, row.keys[key].seconds);
}

void TimeLanes::choose_all() {
    for (const Lane& lane : lanes_)
        for (const KeyMark& key : lane.keys.keys)
            choose(chosen_, lane.keys.of, key.seconds);
    update();
}

// What is between the place that was pressed and another, beside what was chosen before.
void TimeLanes::choose_stretch(QPointF to) {
    stretch_->to = to;
    chosen_ = stretch_->chosen_before;
    const auto [left, right] = std::minmax({stretch_->from.x(), to.x()});
    const auto [top, bottom] = std::minmax({stretch_->from.y(), to.y()});
    for (int index = 0; index < lane_count(); ++index) {
        const double lane_top = top_height + lane_height * index;
        if (lane_top > bottom || lane_top + lane_height <= top) continue;
        const KeyRow& row = lanes_[static_cast<std::size_t>(index)].keys;
        for (const KeyMark& key : row.keys)
            if (const double x = x_of(key.seconds); x >= left && x <= right)
                choose(chosen_, row.of, key.seconds);
    }
    update();
}

// Painting --------------------------------------------------------------------------------------------------

void TimeLanes::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_seconds(painter);
    for (int index = 0; index < lane_count(); ++index) {
        const Lane& lane = lanes_[static_cast<std::size_t>(index)];
        const double top = top_height + lane_height * index, middle = top + lane_height / 2.0;
        painter.setPen(look().hairline);
        painter.drawLine(QPointF(16, top), QPointF(width() - right_margin, top));
        painter.setPen(lane.step != 0 ? look().ink : look().second_ink);
        painter.setFont(lane.step != 0 ? result_font(14) : text_font(12));
        const QRectF room(16, top, titles_width - 28, lane_height);
        painter.drawText(
            room, Qt::AlignLeft | Qt::AlignVCenter,
            painter.fontMetrics().elidedText(lane.title, Qt::ElideRight, static_cast<int>(room.width())));
        if (lane.step != 0)
            paint_kept(painter, lane, middle);
        else
            paint_keys(painter, lane, middle);
    }
    if (stretch_) paint_stretch(painter);
    paint_now(painter);
}

// A line with a hat that can be taken hold of, below the seconds.
void TimeLanes::paint_now(QPainter& painter) const {
    const double now = x_of(document_.playing().seconds()), top = top_height - 1;
    painter.setPen(QPen(look().attention, hasFocus() ? 2 : 1.5));
    painter.drawLine(QPointF(now, top), QPointF(now, height() - 3));
    painter.setPen(Qt::NoPen);
    painter.setBrush(look().attention);
    painter.drawPolygon(QPolygonF{{now - 4.5, top - 3}, {now + 4.5, top - 3}, {now, top + 4}});
}

void TimeLanes::paint_seconds(QPainter& painter) const {
    const double all = document_.study().time.seconds;
    const double tick = tick_of(x_of(1) - x_of(0));
    painter.setFont(text_font(10));
    const double seconds_bottom = top_height - 5;
    for (int index = 0; index * tick <= all + same_moment_s; ++index) {
        const double x = x_of(index * tick);
        painter.setPen(look().hairline);
        painter.drawLine(QPointF(x, seconds_bottom), QPointF(x, top_height));
        painter.setPen(look().second_ink);
        const QString text = text_of(short_text(index * tick, 6)) + (index == 0 ? " s" : "");
        painter.drawText(QRectF(x - 30, 0, 60, seconds_bottom), Qt::AlignCenter, text);
    }
}

// What is kept in a row is one bar.
void TimeLanes::paint_kept(QPainter& painter, const Lane& lane, double y) const {
    const Timeline& time = document_.study().time;
    painter.setPen(Qt::NoPen);
    painter.setBrush(look().hairline);
    painter.drawRect(QRectF(x_of(0), y - 3, x_of(time.seconds) - x_of(0), 6));
    QColor kept = look().accent;
    kept.setAlphaF(0.45F);
    painter.setBrush(kept);
    for (std::size_t first = 0; first < lane.kept.size();) {
        std::size_t end = first + 1;
        while (end < lane.kept.size() && lane.kept[end] == lane.kept[end - 1] + 1)
            ++end;
        // Each frame fills the time up to the next one.
        const double from = x_of(static_cast<double>(lane.kept[first]) / time.rate),
                     to = x_of(
                         std::min(static_cast<double>(lane.kept[end - 1] + 1) / time.rate, time.seconds));
        painter.drawRect(QRectF(from, y - 3, std::max(1.5, to - from), 6));
        first = end;
    }
}

void TimeLanes::paint_keys(QPainter& painter, const Lane& lane, double y) const {
    QColor line = look().accent;
    line.setAlphaF(0.35F);
    painter.setPen(QPen(line, 1));
    painter.drawLine(QPointF(x_of(0), y), QPointF(x_of(document_.study().time.seconds), y));
    for (const KeyRun& run : runs_of(lane.keys.keys, px_per_second()))
        paint_run(painter, lane, run, y);
}

// A disc, or where it goes on from key to key as one, a bar with round ends; what is chosen of it is open.
void TimeLanes::paint_run(QPainter& painter, const Lane& lane, const KeyRun& run, double y) const {
    const auto chosen = [&](std::size_t at) {
        return is_chosen(chosen_, lane.keys.of, lane.keys.keys[at].seconds);
    };
    for (std::size_t first = run.first; first < run.end;) {
        const bool open = chosen(first);
        std::size_t end = first + 1;
        while (end < run.end && chosen(end) == open)
            ++end;
        const double radius = key_radius + (open ? 1 : 0), from = lane.keys.keys[first].seconds,
                     to = std::min(lane.keys.keys[end - 1].seconds, document_.study().time.seconds);
        first = end;
        if (from > to + same_moment_s) continue;  // behind the study's time
        painter.setPen(QPen(look().accent, 1.5));
        painter.setBrush(open ? look().page : look().accent);
        painter.drawRoundedRect(
            QRectF(QPointF(x_of(from) - radius, y - radius), QPointF(x_of(to) + radius, y + radius)), radius,
            radius);
    }
}

void TimeLanes::paint_stretch(QPainter& painter) const {
    QColor fill = look().accent;
    fill.setAlphaF(0.16F);
    painter.setPen(QPen(look().accent, 1));
    painter.setBrush(fill);
    painter.drawRect(QRectF(stretch_->from, stretch_->to).normalized());
}

// The mouse -------------------------------------------------------------------------------------------------

void TimeLanes::take_lane_in_hand(const Lane& lane) {
    if (lane.step != 0)
        document_.attention().select(lane.step);
    else
        document_.playing().take_in_hand({lane.keys.of});
}

void TimeLanes::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const int lane = lane_at(event->position().y());
    if (lane >= 0) take_lane_in_hand(lanes_[static_cast<std::size_t>(lane)]);
    if (event->position().x() < titles_width - 10) return;
    const auto hit = key_at(event->position());
    if (event->modifiers() & Qt::ShiftModifier) return press_with_shift(event->position(), hit);
    if (!hit) {
        chosen_.clear();
        scrubs_ = true;
        document_.playing().look_at(seconds_at(event->position().x()));
        document_.playing().set_scrubbing(true);
        return update();
    }
    const KeyRow& row = keys_of(*hit);
    pressed_s_ = row.keys[hit->key].seconds;
    if (!is_chosen(chosen_, row.of, pressed_s_)) {
        chosen_.clear();
        choose_run(*hit);
    }
    before_ = document_.snapshot();
    dragged_ = chosen_;
    copies_ = event->modifiers() & Qt::ControlModifier;
    update();
}

// One more is chosen, and all over which it is dragged from there.
void TimeLanes::press_with_shift(QPointF at, const std::optional<KeyHit>& hit) {
    if (hit) choose(chosen_, keys_of(*hit).of, keys_of(*hit).keys[hit->key].seconds);
    stretch_ = Stretch{at, at, chosen_};
    update();
}

void TimeLanes::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) {
        const bool over = key_at(event->position()).has_value();
        setCursor(over ? Qt::SizeHorCursor : Qt::ArrowCursor);
        return;
    }
    if (stretch_)
        choose_stretch(event->position());
    else if (scrubs_)
        document_.playing().look_at(seconds_at(event->position().x()));
    else if (before_)
        drag_keys(event->position().x());
}

// All that are chosen by the same time, from how they were when the drag began.
void TimeLanes::drag_keys(double x) {
    const double by = seconds_at(x) - pressed_s_;
    const bool away = std::abs(by) > same_moment_s;
    if (!away && document_.snapshot() == before_) return;
    const Edited edited = !away     ? before_
                          : copies_ ? copy_keys(*before_, dragged_, by)
                                    : move_keys(*before_, dragged_, by);
    if (!edited) return;  // another stands there, or it would be before the beginning
    chosen_ = moved_by(dragged_, away ? by : 0);
    document_.apply(edited, copies_ ? tr("copy of keys") : tr("move of keys"), "keys");
}

void TimeLanes::mouseReleaseEvent(QMouseEvent* /*event*/) {
    if (before_) document_.end_stroke();
    before_.reset();
    stretch_.reset();
    if (std::exchange(scrubs_, false)) document_.playing().set_scrubbing(false);
    update();
}

void TimeLanes::mouseDoubleClickEvent(QMouseEvent* event) {
    const int index = lane_at(event->position().y());
    if (index < 0 || event->position().x() < titles_width - 10 || key_at(event->position())) return;
    const Lane& lane = lanes_[static_cast<std::size_t>(index)];
    if (lane.step != 0) return;
    document_.apply(
        key_here(document_.study(), document_.catalogue(), lane.keys.of, seconds_at(event->position().x())),
        tr("key"));
}

void TimeLanes::contextMenuEvent(QContextMenuEvent* event) {
    const auto hit = key_at(event->pos());
    if (!hit) return;
    const KeyRow& row = keys_of(*hit);
    if (!is_chosen(chosen_, row.of, row.keys[hit->key].seconds)) {
        chosen_.clear();
        choose_run(*hit);
    }
    update();
    QMenu& menu = *new_popup_menu(this);
    add_key_actions(menu, *hit);
    menu.popup(event->globalPos());
}

void TimeLanes::add_key_actions(QMenu& menu, const KeyHit& hit) {
    const KeyRow& row = keys_of(hit);
    const KeyMark& mark = row.keys[hit.key];
    const std::size_t count = key_count(chosen_);
    menu.addAction(
            count == 1
                ? tr("%1 at %2, and on to the next:").arg(text_of(row.title), seconds_text(mark.seconds))
                : tr("%1 keys, and from each on to the next:").arg(count))
        ->setEnabled(false);
    for (int index = 0; index < easing_count; ++index) {
        const auto easing = static_cast<Easing>(index);
        QAction* action = menu.addAction(easing_text(easing), [this, easing] {
            document_.apply(ease_keys(document_.study(), chosen_, easing), tr("way of keys"));
        });
        action->setCheckable(true);
        action->setChecked(mark.easing == easing);
    }
    menu.addSeparator();
    const double seconds = mark.seconds, now = document_.playing().seconds();
    menu.addAction(tr("Go there"), [this, seconds] { document_.playing().look_at(seconds); });
    const QString copy = count == 1 ? tr("Copy it to %1") : tr("Copy them, the first to %1");
    menu.addAction(copy.arg(seconds_text(now)), [this, now] {
        document_.apply(copy_keys(document_.study(), chosen_, now - first_moment(chosen_)),
                        tr("copy of keys"));
    });
    add_fewer_actions(menu);
    menu.addAction(tr("Remove\tDelete"), [this] { remove_chosen(); });
}

// Each says how many would be left.
void TimeLanes::add_fewer_actions(QMenu& menu) {
    std::size_t least = key_count(chosen_);
    for (const double share : {0.002, 0.01, 0.05}) {
        const auto fewer = fewer_keys(document_.study(), document_.catalogue(), chosen_, share);
        if (!fewer || fewer->left >= least) continue;
        least = fewer->left;
        const QString percent = text_of(short_text(100 * share)) + " %";
        menu.addAction(
            tr("Thin out to %1 keys, within %2 of the way").arg(fewer->left).arg(percent), [this, share] {
                const auto now = fewer_keys(document_.study(), document_.catalogue(), chosen_, share);
                if (now) document_.apply(now->study, tr("fewer keys"));
            });
    }
}

void TimeLanes::remove_chosen() {
    if (chosen_.empty()) return;
    document_.apply(remove_keys(document_.study(), chosen_), tr("removal of keys"));
}

// To the next moment that has a key, or the one before.
void TimeLanes::go_to_key(int direction) {
    const std::size_t now = document_.playing().frame();
    std::optional<std::size_t> nearest;
    for (const Lane& lane : lanes_)
        for (const KeyMark& key : lane.keys.keys) {
            const std::size_t frame = moment_at(document_.study().time, key.seconds).frame;
            const bool beyond = direction > 0 ? frame > now : frame < now;
            if (!beyond) continue;
            if (!nearest || (direction > 0 ? frame < *nearest : frame > *nearest)) nearest = frame;
        }
    if (!nearest) return;
    document_.playing().pause();
    document_.playing().go_to(*nearest);
}

void TimeLanes::keyPressEvent(QKeyEvent* event) {
    Playing& playing = document_.playing();
    const bool ctrl = event->modifiers() & Qt::ControlModifier;
    switch (event->key()) {
        case Qt::Key_Space:
            return playing.plays() ? playing.pause() : playing.play();
        case Qt::Key_Left:
            return ctrl ? go_to_key(-1) : playing.step(-1);
        case Qt::Key_Right:
            return ctrl ? go_to_key(1) : playing.step(1);
        case Qt::Key_Home:
            playing.pause();
            return playing.go_to(0);
        case Qt::Key_End:
            playing.pause();
            return playing.go_to(document_.study().time.last_frame());
        case Qt::Key_Delete:
            return remove_chosen();
        case Qt::Key_A:
            if (ctrl) return choose_all();
            break;
        case Qt::Key_K:
            if (playing.key_in_hand()) return;
            break;
        default:
            break;
    }
    QWidget::keyPressEvent(event);
}

bool TimeLanes::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return QWidget::event(event);
    const auto* help = dynamic_cast<QHelpEvent*>(event);
    const auto hit = key_at(help->pos());
    const int lane = lane_at(help->pos().y());
    QString text =
        tr("Press to go to a moment. Arrow keys: frame by frame; Ctrl: from key to key; Space plays.");
    if (lane >= 0 && lanes_[static_cast<std::size_t>(lane)].step == 0)
        text = tr("Double click sets a key there. Shift and dragging chooses keys, Ctrl A all of them.");
    if (hit) text = key_help(*hit);
    QToolTip::showText(help->globalPos(), text, this);
    return true;
}

QString TimeLanes::key_help(const KeyHit& hit) const {
    const KeyRow& row = keys_of(hit);
    const KeyMark& mark = row.keys[hit.key];
    if (hit.run.size() == 1)
        return tr("%1 at %2, then %3. Drag it, with Ctrl a copy; right click for more.")
            .arg(text_of(mark.value), seconds_text(mark.seconds), easing_text(mark.easing));
    return tr("%1 at %2, one of %3 keys that stand close. Drag them, with Ctrl a copy; Shift and dragging "
              "chooses some of them; right click for more.")
        .arg(text_of(mark.value), seconds_text(mark.seconds))
        .arg(hit.run.size());
}

}  // namespace plume::app
