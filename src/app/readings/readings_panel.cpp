#include "app/readings/readings_panel.hpp"

#include <QEvent>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QTableView>
#include <QVBoxLayout>

#include "app/parts/steady_place.hpp"
#include "app/parts/wrapped_label.hpp"
#include "app/readings/curve_graph.hpp"
#include "app/readings/descent_reading.hpp"
#include "app/readings/family_graph.hpp"
#include "app/readings/reading_table.hpp"
#include "app/readings/term_graph.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"
#include "core/base/rounding.hpp"

namespace plume::app {

namespace {

// "grid", "scatter", but "triangular lattice".
QString arrangement_name(Arrangement arrangement) {
    const QString name = text_of(plain_name(arrangement));
    const bool adjective = arrangement == Arrangement::triangular || arrangement == Arrangement::hexagonal ||
                           arrangement == Arrangement::polar;
    return adjective ? QObject::tr("%1 lattice").arg(name) : name;
}

}  // namespace

// How numbers are spread: bars with the count of the one under the cursor, ends in units.
class Histogram : public QWidget {
public:
    explicit Histogram(QWidget* parent) : QWidget(parent) {
        setMouseTracking(true);
        setMinimumHeight(70);
        setAccessibleName(tr("How the numbers are spread"));
    }
    void set(std::shared_ptr<const Statistics> figures, Dimension dimension, const Units& units) {
        figures_ = std::move(figures);
        dimension_ = dimension;
        units_ = units;
        update();
    }

protected:
    void paintEvent(QPaintEvent* /*event*/) override {
        if (!figures_ || figures_->histogram.empty()) return;
        QPainter painter(this);
        const auto& bins = figures_->histogram;
        const auto tallest = static_cast<double>(*std::ranges::max_element(bins));
        const double step = static_cast<double>(width()) / static_cast<double>(bins.size()),
                     base = height() - 20;
        QColor colour = look().accent;
        colour.setAlphaF(0.6F);
        for (std::size_t bin = 0; bin < bins.size(); ++bin) {
            const double tall = static_cast<double>(bins[bin]) / tallest * (base - 16);
            const QRectF bar(static_cast<double>(bin) * step, base - tall, std::max(1.0, step - 2), tall);
            painter.fillRect(bar, static_cast<int>(bin) == hovered_ ? look().accent : colour);
        }
        painter.setPen(look().hairline);
        painter.drawLine(QPointF(0, base + 0.5), QPointF(width(), base + 0.5));
        painter.setFont(text_font(11));
        painter.setPen(look().second_ink);
        painter.drawText(QRectF(0, base + 3, width(), 16), Qt::AlignLeft, in_unit(figures_->least));
        painter.drawText(QRectF(0, base + 3, width(), 16), Qt::AlignRight, in_unit(figures_->most));
        if (hovered_ < 0 || hovered_ >= static_cast<int>(bins.size())) return;
        const double wide = (figures_->most - figures_->least) / static_cast<double>(bins.size()),
                     low = figures_->least + wide * hovered_;
        painter.setPen(look().ink);
        painter.drawText(QRectF(0, 0, width(), 14), Qt::AlignRight,
                         tr("%1 between %2 and %3")
                             .arg(bins[static_cast<std::size_t>(hovered_)])
                             .arg(in_unit(low), in_unit(low + wide)));
    }
    void mouseMoveEvent(QMouseEvent* event) override {
        const std::size_t bins = figures_ ? figures_->histogram.size() : 0;
        hovered_ =
            bins == 0 ? -1 : static_cast<int>(event->position().x() / width() * static_cast<double>(bins));
        update();
    }
    void leaveEvent(QEvent* /*event*/) override {
        hovered_ = -1;
        update();
    }

private:
    QString in_unit(double value) const { return text_of(quantity_text({value, dimension_}, units_)); }
    std::shared_ptr<const Statistics> figures_;
    Dimension dimension_;
    Units units_;
    int hovered_ = -1;
};

ReadingsPanel::ReadingsPanel(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName("readings");
    setAttribute(Qt::WA_StyledBackground);
    auto* with_text = new QHBoxLayout(this);
    with_text->setContentsMargins(16, 12, 16, 8);
    auto* row = new QHBoxLayout;
    row->setSpacing(20);
    with_text->setSpacing(row->spacing() - SteadyPlace::bar_width);
    auto* content = new QWidget;
    auto* text = new QVBoxLayout(content);
    text->setContentsMargins(0, 0, 0, 0);
    text->setSpacing(4);
    // A label keeps its font: another look gives it back the one it had first.
    const auto label = [&](const char* name, const QFont& font) {
        QLabel* made = wrapped_label(name, font);
        text->addWidget(made);
        return made;
    };
    title_ = label("readings-title", result_font(16));
    range_ = label("readings-range", text_font(15, QFont::DemiBold));
    details_ = label("readings-details", text_font(12));
    details_->setProperty("second", true);
    text->addStretch();
    constexpr int text_width = 230;
    told_ = new SteadyPlace(content, text_width);
    told_->setObjectName("readings-told");
    told_->verticalScrollBar()->setAccessibleName(tr("What is told of the step in hand"));
    with_text->addWidget(told_);
    with_text->addLayout(row);
    spread_ = new QWidget;
    auto* spread = new QVBoxLayout(spread_);
    spread->setContentsMargins(0, 0, 0, 0);
    spread_title_ = new QLabel;
    spread_title_->setFont(text_font(12));
    spread_title_->setProperty("second", true);
    histogram_ = new Histogram(this);
    spread->addWidget(spread_title_);
    spread->addWidget(histogram_, 1);
    row->addWidget(spread_, 2);
    curves_ = new CurveGraph(this);
    row->addWidget(curves_, 4);
    families_ = new FamilyGraph(document, this);
    row->addWidget(families_, 3);
    descent_ = new DescentReading(document, this);
    row->addWidget(descent_, 3);
    table_ = new ReadingTable(document, this);
    row->addWidget(table_, 3);
    graph_ = new TermGraph(document, this);
    row->addWidget(graph_, 5);
    row->addStretch();  // keeps the text to the left while there is no table
    connect(&document.results(), &Results::evaluation_changed, this, &ReadingsPanel::refresh);
    connect(&document.attention(), &Attention::selection_changed, this, &ReadingsPanel::refresh);
    connect(&document.results(), &Results::notes_changed, this, &ReadingsPanel::refresh);
    connect(&document.attention(), &Attention::graphed_changed, this, &ReadingsPanel::refresh);
    refresh();
}

ItemId ReadingsPanel::step_in_hand() const {
    const Study& study = document_.study();
    const Step* selected = study.step(document_.attention().selected());
    if (selected && page_of(*selected) == Page::sheet) return selected->id;
    for (std::size_t at = study.page_end(Page::sheet); at-- > 0;)
        if (const Step* step = step_of(study.items[at])) return step->id;
    return 0;
}

void ReadingsPanel::refresh() {
    if (const ItemId before = std::exchange(step_, step_in_hand()); before != step_) told_->begin();
    document_.attention().read(step_);
    const Step* step = document_.study().step(step_);
    const Shown* shown = step ? document_.results().shown(step_) : nullptr;
    const ValuePointer value = shown ? shown->value : nullptr;
    table_->set(value, step_);
    descent_->set(value, step_);
    graph_->set_step(step_);
    const bool graphs = graph_->has_lines();
    graph_->setVisible(graphs);
    table_->setVisible(value != nullptr && !graphs);
    title_->setText(step ? text_of(step->name) : QString());
    title_->setVisible(step != nullptr);
    spread_->setVisible(shown && shown->figures && !graphs);
    const Details* details = document_.results().details(step_);
    const bool bends = details && details->graph && !graphs;
    curves_->set(bends ? details->graph : nullptr, document_.study().units);
    curves_->setVisible(bends);
    const bool groups = details && details->families && details->families->tolerances.size() > 1 && !graphs;
    // While a tolerance is dragged the graph stays, until there is the next.
    if (groups || !step || step->id != families_->step()) {
        families_->set(groups ? details->families : nullptr, step_);
        families_->setVisible(groups);
    }
    if (shown) refresh_spread(*shown);
    // Set once: labels that are emptied in between have the page laid out and drawn twice.
    const Told told = step && shown
                          ? told_of(*step, *shown)
                          : Told{{}, step ? QString() : tr("Readings of the step in hand appear here.")};
    range_->setText(told.range);
    range_->setVisible(!told.range.isEmpty());
    details_->setText(told.details);
}

void ReadingsPanel::refresh_spread(const Shown& shown) {
    const Field* field = shown.value && shown.figures ? field_in_hand(*shown.value) : nullptr;
    if (!field) return;
    spread_title_->setText(tr("how the %1 numbers are spread")
                               .arg(text_of(grouped_text(static_cast<std::int64_t>(shown.figures->count)))));
    histogram_->set(shown.figures, field->dimension, document_.study().units);
}

ReadingsPanel::Told ReadingsPanel::told_of(const Step& step, const Shown& shown) const {
    if (!shown.value) return {{}, shown.error ? text_of(sentence(*shown.error)) : tr("no result")};
    const Units& units = document_.study().units;
    QString range;
    QStringList lines;
    if (shown.stale) lines << tr("from before the last change");
    lines << text_of(plain_name(kind_of(*shown.value))) + ", " + text_of(outline_text(*shown.value, units));
    if (const PointLattice* lattice = lattice_of(*shown.value))
        lines << tr("arranged as a %1").arg(arrangement_name(lattice->arrangement()));
    if (const Field* field = field_in_hand(*shown.value); field && shown.figures) {
        const Dimension dimension = field->dimension;
        const auto in_unit = [&](double value) { return text_of(quantity_text({value, dimension}, units)); };
        range = text_of(range_text(shown.figures->least, shown.figures->most, dimension, units));
        const double spread = shown.figures->most - shown.figures->least;
        lines << tr("mean %1 · middle %2")
                     .arg(in_unit(without_rounding(shown.figures->mean, spread)),
                          in_unit(without_rounding(shown.figures->median, spread)));
        lines << (shown.figures->not_finite == 0 ? tr("all numbers finite")
                                                 : tr("of the numbers that are finite"));
    }
    if (const auto number = number_of(*shown.value)) {
        range = text_of(quantity_text(*number, units, 8));
        lines << tr("expressions and formulas below read it as %1").arg(text_of(step.name));
    }
    if (const Details* details = document_.results().details(step_))
        for (const std::string& detail : details->lines)
            lines << text_of(detail);
    for (const Remark& remark : shown.remarks)
        lines << text_of(remark.text);
    for (const std::string& odd : shown.not_finite)
        lines << text_of(odd);
    // Of a visible result the bounds are known from drawing it; surfaces' are those of the surface, not its
    // poles.
    if (!shown.bounds.empty()) {
        const Vec3 size = shown.bounds.size(), low = shown.bounds.low, high = shown.bounds.high;
        // What rounding leaves beside a form of this size is nothing anyone wants to read.
        const double nothing = 1e-12 * std::max({size.x, size.y, size.z});
        const auto number = [&](double v) { return text_of(short_text(std::abs(v) <= nothing ? 0 : v)); };
        if (range.isEmpty())
            range = tr("%1 × %2 × %3 %4")
                        .arg(number(size.x), number(size.y), number(size.z), text_of(symbol(units.length)));
        const char* axes[] = {"x", "y", "z"};
        const double lows[] = {low.x, low.y, low.z}, highs[] = {high.x, high.y, high.z};
        for (int axis = 0; axis < 3; ++axis)
            lines << tr("%1 from %2 to %3 %4")
                         .arg(axes[axis], number(lows[axis]), number(highs[axis]),
                              text_of(symbol(units.length)));
    }
    if (shown.drawable && shown.drawable->thinned)
        lines << tr("drawn with less than it has: more than a screen can show");
    if (step.muted) lines << tr("muted: passes on what it reads");
    return {range, lines.join("\n")};
}

void ReadingsPanel::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) refresh();
    QWidget::changeEvent(event);
}

}  // namespace plume::app
