#include "app/sheet/response_editor.hpp"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/sheet/response_picture.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/study/response_shape.hpp"
#include "core/study/study_scope.hpp"

namespace plume::app {
namespace {

constexpr double knot_reach = 10, least_apart = 0.005;
constexpr double left_margin = 52, right_margin = 60, top_margin = 12, bottom_margin = 46;

double rounded(double share) {
    return std::round(std::clamp(share, 0.0, 1.0) * 1e3) / 1e3;
}

}  // namespace

// The graph -----------------------------------------------------------------------------------------------

ResponseGraph::ResponseGraph(SlotAccess access, QWidget* parent) : QWidget(parent), access_(access) {
    setObjectName("response-graph");
    setFixedSize(440, 282);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("Response"));
    setAccessibleDescription(
        tr("Left and right go from knot to knot, with Alt they move it, as up and down do; S makes "
           "the piece behind it straight or smooth, Delete removes it"));
    refresh();
}

void ResponseGraph::refresh() {
    if (dragging_ || !access_.current()) return update();
    const Result<Shaping> shaping = shape(std::get<WordKey>(access_.value()).key);
    if (!shaping) return update();
    shaping_ = *shaping;
    drawn_ = shaping_.drawn != nullptr;
    knots_ = knots_like(shaping_);
    chosen_ = std::min(chosen_, static_cast<int>(knots_.size()) - 1);
    Q_EMIT chosen_changed();
    update();
}

Result<Shaping> ResponseGraph::shape(const std::string& word) const {
    const Step& step = *access_.current();
    return response_shape(access_.document->study(), *access_.document->kind_of(step), step, word);
}

const ResponseNumbers* ResponseGraph::numbers() const {
    return access_.document->results().response_numbers(access_.step);
}

QRectF ResponseGraph::field() const {
    return QRectF(rect()).adjusted(left_margin, top_margin, -right_margin, -bottom_margin);
}

QPointF ResponseGraph::place_of(double at, double answer) const {
    const QRectF area = field();
    return {area.left() + at * area.width(), area.bottom() - answer * area.height()};
}

void ResponseGraph::choose(int knot) {
    chosen_ = knot;
    Q_EMIT chosen_changed();
    update();
}

int ResponseGraph::knot_at(QPointF cursor) const {
    for (int knot = 0; knot < static_cast<int>(knots_.size()); ++knot) {
        const ResponseKnot& k = knots_[static_cast<std::size_t>(knot)];
        if (QLineF(cursor, place_of(k.at, k.answer)).length() <= knot_reach) return knot;
    }
    return -1;
}

void ResponseGraph::keep(const std::string& stroke) {
    const Result<ResponseCurve> curve = ResponseCurve::make(knots_);
    if (!curve) return;
    drawn_ = true;
    Shaping shaping(Response::drawn);
    shaping.drawn = std::make_shared<const ResponseCurve>(*curve);
    shaping_ = shaping;
    access_.set(WordKey{"drawn " + response_text(knots_)}, stroke);
    update();
}

void ResponseGraph::move_chosen(double at, double answer, const std::string& stroke) {
    if (chosen_ < 0) return;
    const auto index = static_cast<std::size_t>(chosen_);
    ResponseKnot& knot = knots_[index];
    // The ends stay where the response begins and ends.
    if (index > 0 && index + 1 < knots_.size())
        knot.at =
            std::clamp(rounded(at), knots_[index - 1].at + least_apart, knots_[index + 1].at - least_apart);
    knot.answer = rounded(answer);
    keep(stroke);
    Q_EMIT chosen_changed();
}

void ResponseGraph::toggle_straight() {
    if (chosen_ < 0 || chosen_ + 1 >= static_cast<int>(knots_.size())) return;
    ResponseKnot& knot = knots_[static_cast<std::size_t>(chosen_)];
    knot.straight = !knot.straight;
    keep({});
    Q_EMIT chosen_changed();
}

void ResponseGraph::remove_chosen() {
    if (chosen_ <= 0 || chosen_ + 1 >= static_cast<int>(knots_.size())) return;
    knots_.erase(knots_.begin() + chosen_);
    chosen_ = -1;
    keep({});
    Q_EMIT chosen_changed();
}

void ResponseGraph::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const QPointF cursor = event->position();
    int knot = knot_at(cursor);
    const QRectF area = field();
    if (knot < 0 && area.adjusted(-4, -4, 4, 4).contains(cursor)) {
        const double at = rounded((cursor.x() - area.left()) / area.width());
        std::size_t before = 0;
        while (before + 1 < knots_.size() && knots_[before + 1].at < at)
            ++before;
        const bool room = at > knots_[before].at + least_apart && before + 1 < knots_.size() &&
                          at < knots_[before + 1].at - least_apart;
        if (room) {
            knots_.insert(
                knots_.begin() + static_cast<std::ptrdiff_t>(before) + 1,
                {at, rounded((area.bottom() - cursor.y()) / area.height()), knots_[before].straight});
            knot = static_cast<int>(before) + 1;
            keep("response");
        }
    }
    dragging_ = knot >= 0;
    choose(knot);
}

void ResponseGraph::mouseMoveEvent(QMouseEvent* event) {
    const QRectF area = field();
    if (!dragging_) return setCursor(knot_at(event->position()) >= 0 ? Qt::OpenHandCursor : Qt::CrossCursor);
    move_chosen((event->position().x() - area.left()) / area.width(),
                (area.bottom() - event->position().y()) / area.height(), "response");
}

void ResponseGraph::mouseReleaseEvent(QMouseEvent* /*event*/) {
    if (!dragging_) return;
    dragging_ = false;
    access_.document->end_stroke();
}

void ResponseGraph::keyPressEvent(QKeyEvent* event) {
    const bool moves = event->modifiers() & Qt::AltModifier;
    const int last = static_cast<int>(knots_.size()) - 1;
    const auto by = [&](double at, double answer) {
        if (chosen_ < 0) return;
        const ResponseKnot& knot = knots_[static_cast<std::size_t>(chosen_)];
        move_chosen(knot.at + at, knot.answer + answer, {});
    };
    switch (event->key()) {
        case Qt::Key_Left:
            return moves ? by(-0.01, 0) : choose(std::max(0, chosen_ - 1));
        case Qt::Key_Right:
            return moves ? by(0.01, 0) : choose(std::min(last, chosen_ + 1));
        case Qt::Key_Up:
            return by(0, 0.01);
        case Qt::Key_Down:
            return by(0, -0.01);
        case Qt::Key_S:
            return toggle_straight();
        case Qt::Key_Delete:
        case Qt::Key_Backspace:
            return remove_chosen();
        default:
            QWidget::keyPressEvent(event);
    }
}

// Incoming numbers stand behind the curve, outgoing ones at its side.
void ResponseGraph::paint_spread(QPainter& painter) const {
    const ResponseNumbers* spread = numbers();
    if (!spread || spread->incoming.empty()) return;
    const QRectF area = field();
    const auto tallest = [](const std::vector<std::size_t>& bins) {
        return std::max(1.0, static_cast<double>(*std::ranges::max_element(bins)));
    };
    QColor colour = look().accent;
    colour.setAlphaF(0.20F);
    const auto bins = static_cast<double>(spread->incoming.size());
    for (std::size_t bin = 0; bin < spread->incoming.size(); ++bin) {
        const double tall =
            static_cast<double>(spread->incoming[bin]) / tallest(spread->incoming) * area.height() * 0.9;
        painter.fillRect(QRectF(area.left() + static_cast<double>(bin) * area.width() / bins,
                                area.bottom() - tall, area.width() / bins - 0.6, tall),
                         colour);
    }
    colour.setAlphaF(0.45F);
    for (std::size_t bin = 0; bin < spread->outgoing.size(); ++bin) {
        const double wide =
            static_cast<double>(spread->outgoing[bin]) / tallest(spread->outgoing) * (right_margin - 12);
        const double high = area.height() / bins;
        painter.fillRect(
            QRectF(area.right() + 6, area.bottom() - static_cast<double>(bin + 1) * high, wide, high - 0.6),
            colour);
    }
}

void ResponseGraph::paint_axes(QPainter& painter) const {
    const QRectF area = field();
    const ResponseNumbers usual;
    const ResponseNumbers& spread = numbers() ? *numbers() : usual;
    const Units& units = access_.document->study().units;
    painter.setFont(text_font(11));
    painter.setPen(look().hairline);
    for (const double share : {0.0, 0.25, 0.5, 0.75, 1.0}) {
        painter.drawLine(place_of(share, 0), place_of(share, 1));
        painter.drawLine(place_of(0, share), place_of(1, share));
    }
    painter.setPen(look().second_ink);
    const auto in = [&](double share) {
        return text_of(
            quantity_text({std::lerp(spread.in_low, spread.in_high, share), spread.in_dimension}, units, 3));
    };
    const auto out = [&](double share) {
        return text_of(quantity_text(
            {std::lerp(spread.out_low, spread.out_high, share), spread.out_dimension}, units, 3));
    };
    for (const double share : {0.0, 0.5, 1.0}) {
        painter.drawText(QRectF(place_of(share, 0).x() - 50, area.bottom() + 4, 100, 16), Qt::AlignHCenter,
                         in(share));
        painter.drawText(QRectF(0, place_of(0, share).y() - 8, left_margin - 6, 16),
                         Qt::AlignRight | Qt::AlignVCenter, out(share));
    }
    const QString state =
        numbers() ? tr("bars: numbers coming in, and at the right going out · click to add a knot")
                  : tr("the numbers are being looked at …");
    painter.drawText(QRectF(0, area.bottom() + 24, width(), 16), Qt::AlignHCenter, state);
}

void ResponseGraph::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_spread(painter);
    paint_axes(painter);
    painter.setPen(QPen(look().accent, 2));
    painter.drawPath(response_path(shaping_, field(), 320));
    for (int knot = 0; knot < static_cast<int>(knots_.size()); ++knot) {
        const ResponseKnot& k = knots_[static_cast<std::size_t>(knot)];
        const bool now = knot == chosen_;
        painter.setPen(QPen(look().accent, now ? 2.5 : 1.5));
        painter.setBrush(now ? look().accent : look().page);
        painter.drawEllipse(place_of(k.at, k.answer), now ? 6 : 5, now ? 6 : 5);
    }
    if (hasFocus()) {
        painter.setPen(QPen(look().accent, 1, Qt::DotLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(field().adjusted(-3, -3, 3, 3));
    }
}

// The editor ----------------------------------------------------------------------------------------------

ResponseEditor::ResponseEditor(SlotAccess access, QWidget* near)
    : Popup(near, tr("Response")), access_(access) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(8);
    auto* words = new QWidget;
    build_words(words);
    column->addWidget(words);
    graph_ = new ResponseGraph(access, this);
    column->addWidget(graph_);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    const auto label = [&](const QString& text) {
        auto* made = new QLabel(text);
        made->setProperty("second", true);
        row->addWidget(made);
    };
    const auto line = [&](const char* name, const QString& accessible) {
        auto* made = new QLineEdit;
        made->setObjectName(name);
        made->setAccessibleName(accessible);
        made->setFixedWidth(86);
        connect(made, &QLineEdit::editingFinished, this, &ResponseEditor::type_numbers);
        row->addWidget(made);
        return made;
    };
    label(tr("At"));
    at_ = line("knot-at", tr("Where the knot stands"));
    label(tr("answer"));
    answer_ = line("knot-answer", tr("What the knot answers"));
    const auto button = [&](const char* name, const QString& text, auto action) {
        auto* made = new QToolButton;
        made->setObjectName(name);
        made->setText(text);
        made->setProperty("small", true);
        connect(made, &QToolButton::clicked, this, action);
        row->addWidget(made);
        return made;
    };
    straight_ = button("knot-straight", tr("straight"), [this] { graph_->toggle_straight(); });
    straight_->setCheckable(true);
    straight_->setToolTip(tr("The piece behind the knot runs straight (S)"));
    remove_ = button("knot-remove", tr("remove"), [this] { graph_->remove_chosen(); });
    remove_->setToolTip(tr("Take the knot away (Delete)"));
    row->addStretch();
    button("response-done", tr("Done"), [this] { close(); });
    column->addLayout(row);
    connect(graph_, &ResponseGraph::chosen_changed, this, &ResponseEditor::refresh);
    connect(access.document, &Document::study_changed, this, [this] {
        if (!access_.current()) {
            close();
            return;
        }
        graph_->refresh();
        refresh();
    });
    connect(&access.document->results(), &Results::notes_changed, graph_, &ResponseGraph::refresh);
    access.document->attention().set_response_wish(access.step);
    refresh();
    place();
    graph_->setFocus(Qt::PopupFocusReason);
    graph_->choose(graph_->knots().size() > 2 ? 1 : 0);
}

ResponseEditor::~ResponseEditor() {
    access_.document->attention().set_response_wish(0);
}

void ResponseEditor::build_words(QWidget* widget) {
    auto* grid = new QGridLayout(widget);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(4);
    int number = 0;
    for (const Word& word : access_.slot->words) {
        auto* button = new QToolButton;
        button->setObjectName(text_of("response-" + word.key));
        button->setText(" " + text_of(word.label));
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        button->setToolTip(text_of(word.help));
        button->setCheckable(true);
        button->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
        button->setIconSize(QSize(26, 18));
        button->setProperty("small", true);
        button->setProperty("word", text_of(word.key));
        connect(button, &QToolButton::clicked, this, [this, key = word.key] {
            const std::string now = std::get<WordKey>(access_.value()).key;
            // Drawing goes on from what is there.
            if (key == "drawn" && !now.starts_with("drawn"))
                access_.set(WordKey{"drawn " + response_text(graph_->knots())});
            else if (key != "drawn")
                access_.set(WordKey{key});
            graph_->refresh();
            refresh();
        });
        grid->addWidget(button, number / 3, number % 3);
        ++number;
        words_.push_back(button);
    }
}

// A word with a small picture of what it does.
void ResponseEditor::show_word(QToolButton& button, const std::string& now) {
    const std::string word = text_of(button.property("word").toString());
    button.setChecked(word == now);
    const auto shaping = graph_->shape(word == now ? std::get<WordKey>(access_.value()).key : word);
    if (!shaping) return;
    QPixmap picture(button.iconSize() * devicePixelRatioF());
    picture.setDevicePixelRatio(devicePixelRatioF());
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_response(painter, QRectF(QPointF(0.5, 0.5), QSizeF(button.iconSize()) - QSizeF(1, 1)), *shaping);
    painter.end();
    button.setIcon(QIcon(picture));
}

void ResponseEditor::refresh() {
    const std::string key = std::get<WordKey>(access_.value()).key, word = key.substr(0, key.find(' '));
    for (QToolButton* button : words_)
        show_word(*button, word);
    const int chosen = graph_->chosen();
    const auto& knots = graph_->knots();
    const bool any = chosen >= 0 && chosen < static_cast<int>(knots.size());
    const bool inner = any && chosen > 0 && chosen + 1 < static_cast<int>(knots.size());
    at_->setEnabled(inner);
    answer_->setEnabled(any);
    straight_->setEnabled(any && chosen + 1 < static_cast<int>(knots.size()));
    remove_->setEnabled(inner);
    if (!any) {
        at_->clear();
        answer_->clear();
        return straight_->setChecked(false);
    }
    const ResponseKnot& knot = knots[static_cast<std::size_t>(chosen)];
    const ResponseNumbers usual;
    const ResponseNumbers& numbers = graph_->numbers() ? *graph_->numbers() : usual;
    const Units& units = access_.document->study().units;
    if (!at_->hasFocus())
        at_->setText(text_of(quantity_text(
            {std::lerp(numbers.in_low, numbers.in_high, knot.at), numbers.in_dimension}, units, 5)));
    if (!answer_->hasFocus())
        answer_->setText(text_of(quantity_text(
            {std::lerp(numbers.out_low, numbers.out_high, knot.answer), numbers.out_dimension}, units, 5)));
    straight_->setChecked(knot.straight);
}

// In the units of either side.
void ResponseEditor::type_numbers() {
    const int chosen = graph_->chosen();
    if (chosen < 0) return;
    const ResponseNumbers usual;
    const ResponseNumbers numbers = graph_->numbers() ? *graph_->numbers() : usual;
    const Scope scope = scope_of(access_.document->study(), access_.document->playing().seconds());
    const auto at = evaluate_as(numbers.in_dimension, text_of(at_->text()), scope);
    const auto answer = evaluate_as(numbers.out_dimension, text_of(answer_->text()), scope);
    if (!at || !answer)
        return access_.document->show_message(text_of(sentence(at ? answer.error() : at.error())));
    const auto share = [](double value, double low, double high) {
        return high == low ? 0 : (value - low) / (high - low);
    };
    graph_->move_chosen(share(*at, numbers.in_low, numbers.in_high),
                        share(*answer, numbers.out_low, numbers.out_high), {});
}

void open_response_editor(const SlotAccess& access, QWidget* near) {
    // One at a time: another that stands open shows another step's numbers.
    for (ResponseEditor* open : near->window()->findChildren<ResponseEditor*>())
        open->close();
    new ResponseEditor(access, near);
}

}  // namespace plume::app
