#include "app/formula/formula_header.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QToolButton>

#include "app/formula/coordinate_drawing.hpp"
#include "app/formula/term_column.hpp"
#include "app/formula/version_menu.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {

FormulaHeader::FormulaHeader(Document& document, ItemId step, QWidget* parent)
    : QWidget(parent), document_(document), step_(step) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    drawing_ = new CoordinateDrawing(this);
    row->addWidget(drawing_);
    auto* column = new QVBoxLayout;
    column->setSpacing(2);
    system_ = new QLabel;
    system_->setWordWrap(true);
    column->addStretch();
    column->addWidget(system_);
    auto* words = new QHBoxLayout;
    words->setSpacing(4);
    units_ = new QLabel;
    units_->setObjectName("formula-units");
    units_->setToolTip(
        tr("A plain number beside a length counts the first, one in sin, cos and the like the second; 30° is "
           "thirty degrees in either. They are those of the study, or those the formula was written in."));
    const auto button = [&](const char* name) {
        auto* made = new QToolButton(this);
        made->setObjectName(name);
        made->setProperty("small", true);
        return made;
    };
    versions_ = button("formula-versions");
    help_ = button("formula-help");
    help_->setText("?");
    help_->setToolTip(tr("The formula language"));
    help_->setAccessibleName(help_->toolTip());
    along_ = button("formula-along");
    along_->setToolTip(tr("The direction the small graphs run along"));
    words->addWidget(units_);
    words->addWidget(versions_);
    words->addWidget(help_);
    words->addStretch();
    words->addWidget(along_);
    column->addLayout(words);
    row->addLayout(column, 1);
    for (QLabel* label : {system_, units_})
        label->setProperty("second", true);
    connect(versions_, &QToolButton::clicked, this,
            [this] { open_version_menu(document_, step_, versions_); });
    connect(help_, &QToolButton::clicked, this, &FormulaHeader::help_wanted);
    connect(along_, &QToolButton::clicked, this, &FormulaHeader::choose_direction);
    refresh();
}

void FormulaHeader::refresh() {
    const Step* step = document_.study().step(step_);
    if (!step) return;
    for (QWidget* widget : std::initializer_list<QWidget*>{system_, units_, versions_, help_, along_})
        widget->setFont(text_font(11));
    const SlotSpec* system = document_.kind_of(*step)->slot("system");
    drawing_->setVisible(system != nullptr);
    system_->setVisible(system != nullptr);
    if (system) {
        const std::string key = std::get<WordKey>(slot_value(*system, *step)).key;
        drawing_->set_system(key);
        for (const Word& word : system->words)
            if (word.key == key) system_->setText(text_of(word.help));
    }
    const Units plain = step->text_units.value_or(document_.study().units);
    units_->setText(tr("counts %1, %2").arg(text_of(symbol(plain.length)), text_of(symbol(plain.angle))));
    const QString at_hand = version_at_hand(document_, step_);
    versions_->setText(at_hand.isEmpty() ? tr("versions") : tr("version ‘%1’").arg(at_hand));
    const FormulaInsight* insight = document_.results().insight(step_);
    along_->setVisible(insight != nullptr && !insight->terms.empty());
    if (!insight) return;
    const InsightDirection& along = insight->directions[insight->direction];
    QStringList held;
    for (std::size_t d = 0; d < 3; ++d) {
        const InsightDirection& other = insight->directions[d];
        if (d != insight->direction && other.count > 1)
            held << tr("%1 at %2")
                        .arg(text_of(other.name),
                             value_text(other.held, other.dimension, document_.study().units));
    }
    along_->setText(tr("along %1").arg(text_of(along.name)) +
                    (held.isEmpty() ? QString() : ", " + held.join(", ")));
    along_->setEnabled(!held.isEmpty());
}

void FormulaHeader::choose_direction() {
    const FormulaInsight* insight = document_.results().insight(step_);
    if (!insight) return;
    QMenu& menu = *new_popup_menu(along_);
    for (std::size_t d = 0; d < 3; ++d) {
        const InsightDirection& direction = insight->directions[d];
        if (direction.count < 2) continue;
        QAction* action = menu.addAction(
            tr("Along %1, %2")
                .arg(text_of(direction.name), span_text(direction.first, direction.last, direction.dimension,
                                                        document_.study().units)),
            this, [this, d] {
                GraphWish wish = document_.attention().graph_wish(step_);
                wish.direction = d;
                wish.from = 0;
                wish.to = 1;
                document_.attention().set_graph_wish(step_, wish);
            });
        action->setCheckable(true);
        action->setChecked(d == insight->direction);
    }
    menu.popup(along_->mapToGlobal(QPoint(0, along_->height())));
}

}  // namespace plume::app
