#include "app/sheet/played_strip.hpp"

#include <QApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <cmath>

#include "app/parts/button_icon.hpp"
#include "app/parts/track_slider.hpp"
#include "app/theme/look.hpp"
#include "core/formula/expression.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

// Long enough to see a generation before the next one.
constexpr int generation_ms = 350;
// The slider reaches at least so far, and half as far again as what is typed.
constexpr int least_reach = 8;

}  // namespace

PlayedStrip::PlayedStrip(Document& document, ItemId step, std::string slot, QWidget* parent)
    : QWidget(parent), document_(document), step_(step), slot_(std::move(slot)) {
    setObjectName("played-strip");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 2, 0, 2);
    row->setSpacing(6);
    play_ = new QToolButton(this);
    play_->setObjectName("play-growth");
    play_->setFixedSize(24, 24);
    play_->setIconSize({16, 16});
    play_->setProperty("quiet", true);
    slider_ = new TrackSlider(this);
    slider_->setObjectName("growth-slider");
    slider_->setAccessibleName(tr("Generations"));
    slider_->setFixedWidth(132);
    told_ = new QLabel(this);
    told_->setObjectName("growth-told");
    told_->setProperty("second", true);
    told_->setWordWrap(true);
    row->addWidget(play_);
    row->addWidget(slider_);
    row->addWidget(told_, 1);
    timer_.setInterval(generation_ms);
    const std::string stroke = "play " + std::to_string(step_);
    slider_->share = [this]() -> std::optional<double> {
        const int now = value();
        return now < 0 ? std::nullopt : std::optional(std::min(1.0, now / static_cast<double>(most_)));
    };
    slider_->moved = [this, stroke](double share) {
        stop();
        set_value(static_cast<int>(std::lround(share * most_)), stroke);
    };
    slider_->ended = [this] {
        document_.end_stroke();
        refresh();
    };
    slider_->stepped = [this](int direction, ScrubPace) {
        stop();
        set_value(value() + direction, {});
    };
    connect(play_, &QToolButton::clicked, this, [this] { timer_.isActive() ? stop() : play(); });
    connect(&timer_, &QTimer::timeout, this, [this, stroke] {
        // Undone or typed meanwhile, it stays what it was made.
        if (value() != played_ || played_ >= played_to_) return stop();
        // What is not computed yet is waited for: each generation is seen.
        if (!document_.results().behind()) set_value(++played_, stroke);
    });
    connect(&document.results(), &Results::notes_changed, this, &PlayedStrip::take_notes);
    refresh();
}

int PlayedStrip::value() const {
    const Step* step = document_.study().step(step_);
    const SlotSpec* slot = step ? document_.kind_of(*step)->slot(slot_) : nullptr;
    if (!slot) return -1;
    const SlotValue value = slot_value(*slot, *step);
    const auto* text = std::get_if<NumberText>(&value);
    const auto literal = text ? read_literal(text->text) : std::nullopt;
    const bool whole =
        literal && literal->unit.empty() && literal->number >= 0 && literal->number <= slot->most;
    return whole ? static_cast<int>(literal->number) : -1;
}

void PlayedStrip::set_value(int to, const std::string& stroke) {
    if (to < 0 || to == value() || !document_.study().step(step_)) return;
    document_.apply(set_slot(document_.study(), step_, slot_, NumberText{std::to_string(to)}),
                    tr("change of the generations"), stroke);
}

// From the beginning up to where it stands.
void PlayedStrip::play() {
    played_to_ = value();
    if (played_to_ <= 0) return;
    set_value(played_ = 0, "play " + std::to_string(step_));
    timer_.start();
    refresh();
}

// Where it is stopped, there it stands.
void PlayedStrip::stop() {
    if (!timer_.isActive()) return;
    timer_.stop();
    document_.end_stroke();
    refresh();
}

void PlayedStrip::refresh() {
    const int now = value();
    // While it is played or drawn the slider keeps its length.
    if (!timer_.isActive() && QApplication::mouseButtons() == Qt::NoButton)
        most_ = std::max({least_reach, now + now / 2});
    const bool plays = timer_.isActive();
    set_icon(*play_, plays ? "stop" : "compute", look().accent);
    play_->setToolTip(plays ? tr("Stop where it is") : tr("See it grow, generation by generation"));
    play_->setAccessibleName(play_->toolTip());
    play_->setEnabled(now > 0 || plays);
    slider_->setEnabled(now >= 0);
    slider_->setToolTip(now < 0 ? tr("The generations are an expression: change what it reads")
                                : tr("Generation %1; draw the knob, or use the arrow keys").arg(now));
    told_->setFont(text_font(11));
    slider_->update();
    take_notes();
}

void PlayedStrip::take_notes() {
    const FormulaInsight* insight = document_.results().insight(step_);
    told_->setText(insight ? text_of(insight->growth) : QString());
}

}  // namespace plume::app
