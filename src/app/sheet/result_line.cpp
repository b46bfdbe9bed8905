#include "app/sheet/result_line.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>

#include "app/sheet/inline_editor.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {

// A histogram the size of a word.
class Spark : public QWidget {
public:
    explicit Spark(QWidget* parent) : QWidget(parent) { setFixedSize(72, 14); }
    void set(std::shared_ptr<const Statistics> figures) {
        if (figures == figures_ && figures) return;
        figures_ = std::move(figures);
        setVisible(figures_ && figures_->histogram.size() > 1);
        update();
    }

protected:
    void paintEvent(QPaintEvent* /*event*/) override {
        if (!figures_) return;
        QPainter painter(this);
        const auto& bins = figures_->histogram;
        const double tallest = static_cast<double>(*std::ranges::max_element(bins));
        const double step = static_cast<double>(width()) / static_cast<double>(bins.size());
        QColor colour = look().accent;
        colour.setAlphaF(0.65F);
        for (std::size_t bin = 0; bin < bins.size(); ++bin) {
            const double tall = static_cast<double>(bins[bin]) / tallest * height();
            painter.fillRect(QRectF(static_cast<double>(bin) * step, height() - tall, step - 0.6, tall),
                             colour);
        }
    }

private:
    std::shared_ptr<const Statistics> figures_;
};

QString told_in_a_line(const Shown& shown, const Units& units) {
    if (!shown.value)
        return shown.state == StepState::muted ? QObject::tr("muted") : QObject::tr("no result");
    QString text = text_of(outline_text(*shown.value, units));
    if (const Field* field = field_in_hand(*shown.value); field && shown.figures) {
        text += shown.figures->count == shown.figures->not_finite
                    ? QObject::tr(", none of them finite")
                    : ", " + text_of(range_text(shown.figures->least, shown.figures->most, field->dimension,
                                                units));
    }
    if (shown.state == StepState::muted) text = QObject::tr("muted, passes on ") + text;
    if (shown.stale) text = QObject::tr("before: ") + text;
    return text;
}

ResultLine::ResultLine(Document& document, ItemId step, QWidget* parent)
    : QWidget(parent), document_(document), step_(step) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(1);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    name_ = new QLabel;
    name_->setObjectName("result-name");
    name_->setFixedHeight(19);
    text_ = new QLabel;
    text_->setProperty("second", true);
    text_->setMinimumWidth(40);
    text_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    spark_ = new Spark(this);
    row->addWidget(name_);
    row->addWidget(text_, 1);
    row->addWidget(spark_);
    column->addLayout(row);
    remarks_ = new QLabel;
    remarks_->setObjectName("step-remarks");
    remarks_->setProperty("second", true);
    remarks_->setWordWrap(true);
    column->addWidget(remarks_);
    error_ = new QLabel;
    error_->setObjectName("step-error");
    error_->setWordWrap(true);
    error_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::LinksAccessibleByKeyboard |
                                    Qt::LinksAccessibleByMouse);
    connect(error_, &QLabel::linkActivated, this, &ResultLine::mend_wanted);
    column->addWidget(error_);
    refresh();
}

// Of what is handed off: what is new since the last time.
QString ResultLine::hand_off_text(const HandOffEntry& entry) const {
    if (!entry.error && entry.asks) return tr("somebody else's file is there");
    const QString state = text_of(state_text(entry)).toHtmlEscaped();
    const QString seen =
        entry.to_be_written()
            ? QString("<span style=\"color:%1\">%2</span>").arg(look().attention.name(), state)
            : state;
    return entry.error || entry.written.empty() ? seen
                                                : seen + tr(" · written %1").arg(text_of(entry.written));
}

void ResultLine::refresh() {
    const Step* step = document_.study().step(step_);
    if (!step) return;
    name_->setFont(result_font(15));
    const auto& plan = document_.results().hand_off();
    const HandOffEntry* leaves =
        plan && page_of(*step) == Page::hand_off && !step->muted ? plan->entry(step_) : nullptr;
    name_->setText(text_of(leaves && !leaves->file.empty() ? leaves->file : step->name));
    name_->setToolTip(leaves ? tr("The sentence is called %1").arg(text_of(step->name)) : QString());
    text_->setFont(text_font(12));
    const Shown* shown = document_.results().shown(step_);
    const bool in_hand = document_.results().in_hand() == step_;
    if (in_hand)
        text_->setText(tr("being computed"));
    else
        text_->setText(!shown   ? tr("not computed yet")
                       : leaves ? hand_off_text(*leaves)
                                : told_in_a_line(*shown, document_.study().units));
    text_->setToolTip(shown && shown->state == StepState::done
                          ? (shown->from_cache
                                 ? tr("taken from what was computed before")
                                 : tr("computed in %1").arg(text_of(duration_text(shown->seconds))))
                          : QString());
    spark_->set(shown && !shown->stale ? shown->figures : nullptr);
    QStringList remarks;
    if (shown && !shown->stale && !in_hand)
        for (const Remark& remark : shown->remarks) {
            const QString text = text_of(remark.text).toHtmlEscaped();
            remarks << (remark.loss
                            ? QString("<span style=\"color:%1\">%2</span>").arg(look().attention.name(), text)
                            : text);
        }
    remarks_->setFont(text_font(12));
    remarks_->setTextFormat(Qt::RichText);
    remarks_->setText(remarks.join(" "));
    remarks_->setVisible(!remarks.isEmpty());
    const std::optional<Error> own =
        shown && shown->state != StepState::cancelled ? shown->error : std::nullopt;
    const std::optional<Error> of_file =
        leaves ? (leaves->error ? leaves->error : leaves->asks) : std::nullopt;
    const bool wrong = (own || of_file) && !in_hand;
    error_->setVisible(wrong);
    if (!wrong) return;
    // A step that only waits for another is not itself wrong.
    const QColor ink = shown->state == StepState::blocked ? look().second_ink : look().attention;
    QPalette palette = error_->palette();
    palette.setColor(QPalette::WindowText, ink);
    error_->setPalette(palette);
    error_->setFont(text_font(12, QFont::Medium));
    Error said = own ? *own : *of_file;
    const QString mend = shown->state == StepState::asks ? tr("Compute it all the same") : text_of(said.mend);
    if (shown->state != StepState::asks) said.mend.clear();
    const QString text =
        text_of(sentence(said)).toHtmlEscaped() +
        QString(" <a href=\"mend\" style=\"color:%1\">%2</a>").arg(ink.name(), mend.toHtmlEscaped());
    error_->setText(text);
}

void ResultLine::rename() {
    const Step* step = document_.study().step(step_);
    if (!step) return;
    Document& document = document_;
    const ItemId id = step_;
    InlineEditor::open(
        name_, text_of(step->name), tr("Name of the result"), [&document, id](const QString& typed) {
            if (document.study().step(id))
                document.apply(rename_step(document.study(), id, text_of(typed)), QObject::tr("new name"));
        });
}

}  // namespace plume::app
