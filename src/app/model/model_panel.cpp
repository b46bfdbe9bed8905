#include "app/model/model_panel.hpp"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QToolButton>

#include "app/parts/kept_button.hpp"
#include "app/parts/step_actions.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"
#include "core/base/numbers.hpp"
#include "core/base/rounding.hpp"
#include "core/picture/ramp.hpp"

namespace plume::app {
namespace {

constexpr std::size_t most_chips = 80;  // more than any window has room for

// Numbers and what is handed off are not drawn.
std::vector<const Step*> steps_with_place(const Study& study) {
    std::vector<const Step*> steps;
    for (const Item& item : study.items)
        if (const Step* step = step_of(item); step && !gives_number(*step) && page_of(*step) == Page::sheet)
            steps.push_back(step);
    return steps;
}

bool in_hand(const Document& document, ItemId step) {
    return document.attention().selected() == step;
}

// Of each sort the later before the earlier.
template <class Each, class First>
std::vector<Each> first_ones_first(const std::vector<Each>& in_order, const First& comes_first) {
    std::vector<Each> order(in_order.rbegin(), in_order.rend());
    std::stable_partition(order.begin(), order.end(), comes_first);
    return order;
}

}  // namespace

// The colours of a field, with its ends and middle in units.
class Legend : public QWidget {
public:
    explicit Legend(QWidget* parent) : QWidget(parent) { setAttribute(Qt::WA_TransparentForMouseEvents); }
    void set(std::shared_ptr<const Drawable> drawable, const RampStyle& ramp, const Units& units) {
        if (drawable == drawable_ && ramp == ramp_ && units == units_ && drawable) return;
        drawable_ = std::move(drawable);
        ramp_ = ramp;
        units_ = units;
        setVisible(drawable_ != nullptr);
        setFixedSize(172, 72);
        update();
    }

protected:
    void paintEvent(QPaintEvent* /*event*/) override {
        if (!drawable_) return;
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(look().hairline);
        painter.setBrush(look().page);
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
        painter.setFont(text_font(12));
        painter.setPen(look().second_ink);
        const QString unit = text_of(unit_text(drawable_->colour_dimension, units_));
        const QString title = text_of(drawable_->colour_field) + (unit.isEmpty() ? QString() : ", " + unit);
        painter.drawText(QRect(12, 8, width() - 24, 18), Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(title, Qt::ElideMiddle, width() - 24));
        paint_ramp(painter, QRectF(12, 31, width() - 24, 8));
        painter.setPen(look().second_ink);
        const double factor = shown_per_internal(drawable_->colour_dimension, units_);
        const auto text = [&](double share) {
            const double low = drawable_->colour_low, high = drawable_->colour_high;
            return text_of(short_text(without_rounding(std::lerp(low, high, share), high - low) * factor, 3));
        };
        const QRect row(12, 45, width() - 24, 18);
        if (drawable_->colour_low == drawable_->colour_high) {
            painter.drawText(row, Qt::AlignHCenter, tr("%1 everywhere").arg(text(0)));
            return;
        }
        painter.drawText(row, Qt::AlignLeft, text(0));
        painter.drawText(row, Qt::AlignRight, text(1));
        // Long numbers leave no room for the middle.
        const auto room = [&](double share) { return painter.fontMetrics().horizontalAdvance(text(share)); };
        constexpr int between = 8;
        if (2 * std::max(room(0), room(1)) + room(0.5) + 2 * between <= row.width())
            painter.drawText(row, Qt::AlignHCenter, text(0.5));
    }

private:
    // Steps as blocks, so that each can be told from the next.
    void paint_ramp(QPainter& painter, const QRectF& bar) const {
        const int parts = ramp_.steps > 0 ? ramp_.steps : 64;
        for (int part = 0; part < parts; ++part) {
            const Rgb c = ramp_colour(ramp_, (part + 0.5) / parts);
            const double from = bar.left() + bar.width() * part / parts,
                         to = bar.left() + bar.width() * (part + 1) / parts;
            const double gap = ramp_.steps > 0 ? 1 : -0.5;
            painter.fillRect(QRectF(from, bar.top(), to - from - gap, bar.height()),
                             QColor::fromRgbF(c.red, c.green, c.blue));
        }
    }
    std::shared_ptr<const Drawable> drawable_;
    RampStyle ramp_;
    Units units_;
};

ModelPanel::ModelPanel(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    const QString why = ModelView::why_not();
    if (why.isEmpty()) {
        view_ = new ModelView(document, this);
        connect(view_, &ModelView::camera_changed, this, [this] {
            if (tools_) tools_->refresh();
        });
        connect(view_, &ModelView::tool_changed, this, [this] {
            refresh_state();
            place();
        });
    } else {
        instead_ = new QLabel(why, this);
        instead_->setWordWrap(true);
        instead_->setAlignment(Qt::AlignCenter);
        instead_->setMargin(60);
        instead_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    }
    chips_ = new QWidget(this);
    auto* chip_row = new QHBoxLayout(chips_);
    chip_row->setContentsMargins(0, 0, 0, 0);
    chip_row->setSpacing(6);
    more_chips_ = new KeptButton(chips_);
    more_chips_->setObjectName("more-chips");
    more_chips_->setProperty("chip", true);
    more_chips_->setToolTip(tr("All results, to show or hide them"));
    more_chips_->setAccessibleName(tr("More results"));
    connect(more_chips_, &QToolButton::clicked, this, &ModelPanel::open_more_chips);
    chip_row->addWidget(more_chips_);
    legend_ = new Legend(this);
    legend_->hide();
    if (view_) {
        tools_ = new ViewTools(
            *view_, ViewTools::Keys::told, [this] { view_->fit_selection(); }, this);
        cameras_ = std::make_unique<CameraMenu>(document, *view_);
        QToolButton* cameras =
            tools_->add("camera", tr("Cameras of the study"), "Ctrl+6", [this] { open_cameras(); });
        cameras->setObjectName("cameras");
        cameras_->open_from(cameras);
        connect(&document.playing(), &Playing::moment_changed, this, [this] { cameras_->follow_moment(); });
    }
    state_ = new QLabel(this);
    state_->setObjectName("card-text");
    state_->setAttribute(Qt::WA_TransparentForMouseEvents);
    state_->setAlignment(Qt::AlignCenter);
    state_->setWordWrap(true);
    connect(&document, &Document::study_changed, this, &ModelPanel::refresh);
    connect(&document.results(), &Results::evaluation_changed, this, &ModelPanel::refresh);
    connect(&document.results(), &Results::notes_changed, this, &ModelPanel::refresh);
    connect(&document.attention(), &Attention::selection_changed, this, &ModelPanel::refresh);
    refresh();
}

void ModelPanel::open_cameras() {
    if (cameras_) cameras_->open();
}

void ModelPanel::refresh() {
    refresh_chips();
    if (tools_) tools_->refresh();
    std::shared_ptr<const Drawable> coloured;
    RampStyle ramp;
    for (const Item& item : document_.study().items) {
        const Step* step = step_of(item);
        const Shown* shown = step ? document_.results().shown(step->id) : nullptr;
        if (!shown || !shown->drawable || !step->show.visible || shown->drawable->colour_field.empty())
            continue;
        coloured = shown->drawable;
        ramp = step->show.ramp;
        if (step->id == document_.attention().selected())
            break;  // of several the selected one's, else the last one's
    }
    // What leaves has colours of another meaning.
    if (!document_.results().handed().empty()) coloured = nullptr;
    legend_->set(coloured, ramp, document_.study().units);
    refresh_state();
    place();
}

// In the order of the page: all of them, or those that come first where no window is wide enough for all.
std::vector<const Step*> ModelPanel::steps_with_chips() const {
    std::vector<const Step*> steps = steps_with_place(document_.study());
    if (steps.size() <= most_chips) return steps;
    std::vector<const Step*> order = first_ones_first(
        steps, [&](const Step* step) { return step->show.visible || in_hand(document_, step->id); });
    order.resize(most_chips);
    std::erase_if(steps, [&](const Step* step) { return std::ranges::find(order, step) == order.end(); });
    return steps;
}

void ModelPanel::refresh_chips() {
    const std::vector<const Step*> steps = steps_with_chips();
    while (chip_buttons_.size() > steps.size()) {
        delete chip_buttons_.back();
        chip_buttons_.pop_back();
    }
    while (chip_buttons_.size() < steps.size()) {
        auto* chip = new KeptButton(chips_);
        chip->setProperty("chip", true);
        chip->setCheckable(true);
        chip->setContextMenuPolicy(Qt::CustomContextMenu);
        connect(chip, &QToolButton::clicked, this,
                [this, chip] { toggle_visible(document_, chip->property("step").toULongLong()); });
        connect(chip, &QWidget::customContextMenuRequested, this, [this, chip](const QPoint& at) {
            chip_menu(chip->property("step").toULongLong(), chip->mapToGlobal(at));
        });
        chips_->layout()->addWidget(chip);
        chip_buttons_.push_back(chip);
    }
    for (std::size_t index = 0; index < steps.size(); ++index) {
        QToolButton* chip = chip_buttons_[index];
        const Step& step = *steps[index];
        chip->setProperty("step", QVariant::fromValue<qulonglong>(step.id));
        chip->setText(chip->fontMetrics().elidedText(text_of(step.name), Qt::ElideRight, 120));
        chip->setChecked(step.show.visible);
        chip->setToolTip(tr("%1: click to %2, right click for points, edges, faces, labels and colours")
                             .arg(text_of(step.name), step.show.visible ? tr("hide") : tr("show")));
        chip->setAccessibleName(tr("Show %1").arg(text_of(step.name)));
    }
}

void ModelPanel::chip_menu(ItemId step, const QPoint& at) {
    QMenu& menu = *new_popup_menu(this);
    add_show_actions(menu, document_, step);
    menu.popup(at);
}

void ModelPanel::refresh_state() {
    QString text;
    bool anything = false, stale = false;
    for (const Item& item : document_.study().items) {
        const Step* step = step_of(item);
        const Shown* shown = step ? document_.results().shown(step->id) : nullptr;
        if (!shown || !step->show.visible) continue;
        anything = anything || shown->drawable;
        stale = stale || (shown->stale && shown->drawable);
    }
    if (view_ && !view_->hint().isEmpty())
        text = view_->hint();
    else if (document_.study().items.empty())
        text = tr("The model appears here.");
    else if (stale)
        text = tr("What is shown is from before the last change: a step needs mending.");
    else if (!document_.results().live() && document_.results().behind())
        text = tr("What is shown is from before the last change. Press F5 to compute.");
    else if (!anything && !document_.results().behind())
        text = tr("Nothing is visible. Click a name above to show a result.");
    state_->setText(text);
    state_->setVisible(!text.isEmpty() && view_);
    QPalette palette = state_->palette();
    palette.setColor(QPalette::WindowText, stale ? look().attention : look().second_ink);
    state_->setPalette(palette);
}

QToolButton* ModelPanel::chip(const std::string& result) const {
    const Step* step = document_.study().step(result);
    for (QToolButton* button : chip_buttons_)
        if (step && button->property("step").toULongLong() == step->id) return button;
    return nullptr;
}

// As many as there is room for: what is seen and what is in hand first, then the later results. The rest is
// in a menu.
void ModelPanel::choose_chips(int room) {
    const std::vector<QToolButton*> order = first_ones_first(chip_buttons_, [&](QToolButton* chip) {
        return chip->isChecked() || in_hand(document_, chip->property("step").toULongLong());
    });
    const std::size_t without = steps_with_place(document_.study()).size() - order.size();
    int used = 0;
    std::size_t hidden = without;
    const int spacing = chips_->layout()->spacing(), more_width = 52;
    int whole = 0;
    for (QToolButton* chip : order)
        whole += chip->sizeHint().width() + spacing;
    const int limit = whole <= room && without == 0 ? whole : room - more_width;
    for (QToolButton* chip : order) {
        used += chip->sizeHint().width() + spacing;
        const bool fits = used <= limit;
        chip->setVisible(fits);
        if (!fits) ++hidden;
    }
    more_chips_->setText(tr("+%1").arg(hidden));
    more_chips_->setVisible(hidden > 0);
    chips_->layout()->removeWidget(more_chips_);
    chips_->layout()->addWidget(more_chips_);
    chips_->layout()->activate();
}

// Every result, with a mark on what is seen.
void ModelPanel::open_more_chips() {
    QMenu& menu = *new_popup_menu(this);
    for (const Step* step : steps_with_place(document_.study())) {
        QAction* action = menu.addAction(text_of(step->name), this,
                                         [this, id = step->id] { toggle_visible(document_, id); });
        action->setCheckable(true);
        action->setChecked(step->show.visible);
    }
    menu.popup(more_chips_->mapToGlobal(QPoint(0, more_chips_->height() + 2)));
}

void ModelPanel::place() {
    if (view_) view_->setGeometry(rect());
    if (instead_) instead_->setGeometry(rect());
    legend_->move(width() - legend_->width() - 14, 14);
    const int room = width() - 28 - (legend_->isHidden() ? 0 : legend_->width() + 14);
    choose_chips(room);
    chips_->setGeometry(14, 14, qMin(chips_->sizeHint().width(), room), chips_->sizeHint().height());
    if (tools_) {
        tools_->adjustSize();
        tools_->move(width() - tools_->width() - 14, height() - tools_->height() - 12);
    }
    state_->setFixedWidth(qMin(520, width() - 40));
    state_->adjustSize();
    const bool alone = document_.study().items.empty();
    if (view_ && view_->tool())
        state_->move((width() - state_->width()) / 2, tools_->y() - 12 - state_->height());
    else
        state_->move((width() - state_->width()) / 2,
                     alone ? height() / 2 - 20
                           : qMax(legend_->isHidden() ? 60 : legend_->geometry().bottom() + 12,
                                  chips_->geometry().bottom() + 12));
    for (QWidget* over : {chips_, static_cast<QWidget*>(legend_), static_cast<QWidget*>(tools_),
                          static_cast<QWidget*>(state_)})
        if (over) over->raise();
}

void ModelPanel::resizeEvent(QResizeEvent* /*event*/) {
    place();
}

void ModelPanel::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) refresh();
    QWidget::changeEvent(event);
}

}  // namespace plume::app
