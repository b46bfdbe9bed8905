#include "app/handoff/sheet_panel.hpp"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/parts/panel_foot.hpp"
#include "app/parts/wrapped_label.hpp"
#include "app/theme/look.hpp"
#include "core/base/listed.hpp"

namespace plume::app {

SheetPanel::SheetPanel(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    nothing_ = wrapped_label("sheet-nothing", text_font(14));
    nothing_->setAlignment(Qt::AlignCenter);
    nothing_->setContentsMargins(60, 0, 60, 0);
    view_ = new SheetView(maker_);
    const auto [foot, row] = panel_foot();
    about_ = wrapped_label("sheet-about", text_font(12));
    in_rows_ = new QPushButton(tr("In rows again"));
    in_rows_->setObjectName("sheet-in-rows");
    in_rows_->setToolTip(tr("Views and schedules stand in rows, in their order"));
    cancel_ = new QPushButton(tr("Cancel"));
    cancel_->setObjectName("sheet-cancel");
    row->addWidget(about_, 1);
    row->addWidget(cancel_);
    row->addWidget(in_rows_);
    column->addWidget(nothing_, 1);
    column->addWidget(view_, 1);
    column->addWidget(foot);
    progress_timer_.setInterval(100);
    connect(&progress_timer_, &QTimer::timeout, this, &SheetPanel::refresh);
    connect(&maker_, &SheetMaker::changed, this, &SheetPanel::refresh);
    connect(cancel_, &QPushButton::clicked, this, [this] { maker_.cancel(); });
    connect(view_, &SheetView::moved, this, [this](const SheetPlace& to) {
        document_.apply(with_place_on_sheet(document_.study(), in_hand_.sentence, to),
                        tr("place of %1").arg(text_of(to.of)));
    });
    connect(in_rows_, &QPushButton::clicked, this, [this] {
        document_.apply(with_sheet_in_rows(document_.study(), in_hand_.sentence), tr("sheet in rows"));
    });
    refresh();
}

void SheetPanel::show_sentence(ItemId sentence, const HandOffEntry* entry, bool seen) {
    if (sentence != in_hand_.sentence) view_->fit();
    in_hand_.take(sentence, entry, &is_drawing);
    if (seen) maker_.make(in_hand_.delivery, in_hand_.key, document_.study().units);
    refresh();
}

void SheetPanel::refresh() {
    const bool busy = maker_.busy();
    const bool drawn = in_hand_.delivery && maker_.plan();
    view_->setVisible(drawn);
    nothing_->setVisible(!drawn);
    cancel_->setVisible(busy);
    in_rows_->setVisible(drawn && !is_sheet_in_rows(document_.study(), in_hand_.sentence));
    if (busy)
        progress_timer_.start();
    else
        progress_timer_.stop();
    const std::optional<Error> wrong = in_hand_.wrong(document_, maker_.error());
    if (wrong)
        nothing_->setText(text_of(sentence(*wrong)));
    else
        nothing_->setText(in_hand_.delivery
                              ? tr("The sheet is drawn …")
                              : tr("Take a sentence that gives a drawing in hand, at the left, and its "
                                   "sheet is seen here."));
    set_ink(*nothing_, wrong ? look().attention : look().second_ink);
    QString about;
    if (busy)
        about = tr("Drawing, %1 %").arg(static_cast<int>(100 * maker_.fraction()));
    else if (drawn) {
        const ExportReport& report = maker_.plan()->report;
        about = text_of(report.what);
        if (!report.left_out.empty())
            about += tr("; left out: %1").arg(text_of(listed(report.left_out, "and")));
        about += tr(". Drag what stands on the sheet; the wheel goes nearer.");
    }
    about_->setText(about);
    set_ink(*about_, look().second_ink);
}

}  // namespace plume::app
