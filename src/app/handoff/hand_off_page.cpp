#include "app/handoff/hand_off_page.hpp"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QStackedWidget>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/handoff/part_table.hpp"
#include "app/handoff/picture_panel.hpp"
#include "app/handoff/rehearsal_panel.hpp"
#include "app/handoff/sheet_panel.hpp"
#include "app/model/model_panel.hpp"
#include "app/parts/form_popup.hpp"
#include "app/parts/wrapped_label.hpp"
#include "app/receiving/received_panel.hpp"
#include "app/sheet/sheet_page.hpp"
#include "app/theme/look.hpp"
#include "core/base/text.hpp"
#include "core/study/target_name.hpp"

namespace plume::app {

HandOffPage::HandOffPage(Document& document, QWidget* parent)
    : QWidget(parent),
      document_(document),
      writer_(this),
      sheet_(new SheetPage(document, Page::hand_off, nullptr)) {
    parts_ = std::make_unique<PageColumns>(this, sheet_, "hand-off-sheet", new_head());
    parts_->rows().addWidget(new_readings());
    parts_->put_beside(new_tabs());
    connect(sheet_, &SheetPage::show_wanted, this, [this](QWidget* widget) { parts_->show(widget); });
    progress_timer_.setInterval(100);
    connect(&progress_timer_, &QTimer::timeout, this, &HandOffPage::refresh_head);
    connect(&writer_, &HandOffWriter::moved_on, this, &HandOffPage::refresh);
    connect(&writer_, &HandOffWriter::finished, this, &HandOffPage::take_reports);
    connect(&document.results(), &Results::notes_changed, this, &HandOffPage::refresh);
    connect(&document.attention(), &Attention::selection_changed, this, &HandOffPage::refresh);
    connect(&document, &Document::study_changed, this, &HandOffPage::refresh);
    connect(&document, &Document::saved_changed, this, [this] {
        if (open_) look_at_files();
    });
}

QWidget* HandOffPage::new_head() {
    auto* head = new QWidget;
    auto* column = new QVBoxLayout(head);
    column->setContentsMargins(margin_width, 16, 14, 4);
    column->setSpacing(2);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    auto* title = new QLabel(tr("What leaves"));
    title->setFont(text_font(17, QFont::DemiBold));
    progress_ = new QLabel;
    progress_->setObjectName("hand-off-progress");
    progress_->setProperty("second", true);
    cancel_ = new QPushButton(tr("Cancel"));
    cancel_->setObjectName("hand-off-cancel");
    write_ = new QPushButton;
    write_->setObjectName("hand-off-write");
    write_->setDefault(true);
    row->addWidget(title);
    row->addStretch();
    row->addWidget(progress_);
    row->addWidget(cancel_);
    row->addWidget(write_);
    column->addLayout(row);
    auto* place = new QHBoxLayout;
    place->setSpacing(0);
    auto* into = new QLabel(tr("into "));
    into->setProperty("second", true);
    folder_ = new QPushButton;
    folder_->setObjectName("hand-off-folder");
    folder_->setCursor(Qt::PointingHandCursor);
    folder_->setToolTip(tr("Where files go, beside the study; {study} and {date} may stand in it"));
    where_ = new QLabel(tr(" · each sentence is written whole or not at all"));
    where_->setProperty("second", true);
    // Where there is little room its end is cut off.
    where_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    place->addWidget(into);
    place->addWidget(folder_);
    place->addWidget(where_, 1);
    column->addLayout(place);
    left_over_ = wrapped_label("hand-off-left-over", text_font(12));
    column->addWidget(left_over_);
    connect(write_, &QPushButton::clicked, this, [this] {
        if (const auto& plan = document_.results().hand_off()) write(plan->to_write());
    });
    connect(cancel_, &QPushButton::clicked, &writer_, &HandOffWriter::cancel);
    connect(folder_, &QPushButton::clicked, this, &HandOffPage::edit_folder);
    return head;
}

// At the right the model and what is written of it, or what arrived of that.
QWidget* HandOffPage::new_tabs() {
    auto* right = new QWidget;
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    auto* tabs = new QWidget;
    tabs->setObjectName("header");
    tabs->setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(tabs);
    row->setContentsMargins(10, 4, 10, 4);
    row->setSpacing(4);
    auto* group = new QButtonGroup(tabs);
    const auto add = [&](const QString& text, const char* name) {
        auto* button = new QToolButton;
        button->setObjectName(name);
        button->setText(text);
        button->setProperty("page", true);
        button->setCheckable(true);
        group->addButton(button);
        row->addWidget(button);
        return button;
    };
    leaves_ = add(tr("What leaves"), "hand-off-leaves");
    the_sheet_ = add(tr("The sheet"), "hand-off-the-sheet");
    the_sheet_->setToolTip(tr("The drawing in hand, as it will be printed"));
    the_picture_ = add(tr("The picture"), "hand-off-the-picture");
    the_picture_->setToolTip(tr("The picture in hand, while it is drawn"));
    rehearsal_ = add(tr("Rehearsal"), "hand-off-rehearsal");
    rehearsal_->setToolTip(tr("The milling or cutting in hand, before it leaves"));
    arrived_ = add(tr("What arrived"), "hand-off-arrived");
    arrived_->setToolTip(tr("A stand-in for whoever receives the building model"));
    leaves_->setChecked(true);
    row->addStretch();
    received_ = new ReceivedPanel;
    drawn_ = new SheetPanel(document_);
    at_the_right_ = new QStackedWidget;
    at_the_right_->addWidget(&parts_->rows());
    at_the_right_->addWidget(received_);
    at_the_right_->addWidget(drawn_);
    rehearsed_ = new RehearsalPanel(document_);
    at_the_right_->addWidget(rehearsed_);
    pictured_ = new PicturePanel(document_, [this]() -> std::optional<Camera> {
        if (!model_ || !model_->view()) return {};
        return model_->view()->camera();
    });
    at_the_right_->addWidget(pictured_);
    column->addWidget(tabs);
    column->addWidget(at_the_right_, 1);
    connect(group, &QButtonGroup::buttonToggled, this, [this] {
        QWidget* seen = &parts_->rows();
        if (arrived_->isChecked()) seen = received_;
        if (the_sheet_->isChecked()) seen = drawn_;
        if (the_picture_->isChecked()) seen = pictured_;
        if (rehearsal_->isChecked()) seen = rehearsed_;
        at_the_right_->setCurrentWidget(seen);
        look_at_what_arrived();
        look_closer();
    });
    return right;
}

void HandOffPage::look_at_what_arrived() {
    if (!open_ || !arrived_->isChecked()) return;
    const auto folder = hand_off_folder(document_.study(), place_now(document_.path().toStdString()));
    if (folder)
        received_->look_at(*folder);
    else
        received_->tell(text_of(sentence(folder.error())));
}

// At the sheet, the picture or the rehearsal of the sentence in hand.
void HandOffPage::look_closer() {
    const auto& plan = document_.results().hand_off();
    const ItemId sentence = step_in_hand();
    const HandOffEntry* entry = plan ? plan->entry(sentence) : nullptr;
    // What keeps all sentences from being handed off keeps this one, too.
    HandOffEntry kept_from_it;
    kept_from_it.error = document_.results().hand_off_error();
    if (sentence != 0 && kept_from_it.error) entry = &kept_from_it;
    drawn_->show_sentence(sentence, entry, open_ && the_sheet_->isChecked());
    pictured_->show_sentence(sentence, entry, open_ && the_picture_->isChecked());
    rehearsed_->show_sentence(sentence, entry, open_ && rehearsal_->isChecked());
}

QWidget* HandOffPage::new_readings() {
    auto* panel = new QWidget;
    panel->setObjectName("readings");
    panel->setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(panel);
    row->setContentsMargins(16, 12, 16, 8);
    row->setSpacing(20);
    auto* text = new QVBoxLayout;
    text->setContentsMargins(0, 0, 0, 0);
    text->setSpacing(4);
    name_ = wrapped_label("hand-off-file", result_font(16));
    state_ = wrapped_label("hand-off-state", text_font(15, QFont::DemiBold));
    details_ = wrapped_label("hand-off-details", text_font(12));
    details_->setProperty("second", true);
    write_one_ = new QPushButton(tr("Write this one"));
    write_one_->setObjectName("hand-off-write-one");
    for (QWidget* widget :
         {static_cast<QWidget*>(name_), static_cast<QWidget*>(state_), static_cast<QWidget*>(details_)})
        text->addWidget(widget);
    text->addSpacing(4);
    text->addWidget(write_one_, 0, Qt::AlignLeft);
    text->addStretch();
    auto* place = new QWidget;
    place->setFixedWidth(230);
    place->setLayout(text);
    row->addWidget(place);
    table_rows_ = new PartTable(this);
    table_ = new QTableView;
    table_->setObjectName("hand-off-parts");
    table_->setAccessibleName(tr("Parts against the last time"));
    table_->setModel(table_rows_);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(26);
    table_->horizontalHeader()->setStretchLastSection(true);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    table_->setShowGrid(false);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    row->addWidget(table_, 1);
    connect(write_one_, &QPushButton::clicked, this, [this] { write({step_in_hand()}); });
    return panel;
}

void HandOffPage::open(ModelPanel* model) {
    open_ = true;
    model_ = model;
    parts_->put_above(model);
    look_at_files();
    look_at_what_arrived();
    refresh();
}

void HandOffPage::close_page() {
    open_ = false;
    look_closer();
    document_.attention().show_handed(0);
    document_.attention().plan_hand_off_at({});
}

// Files may have been changed by others meanwhile: whenever the page opens, and after each writing.
void HandOffPage::look_at_files() {
    document_.attention().plan_hand_off_at(place_now(document_.path().toStdString()));
}

ItemId HandOffPage::step_in_hand() const {
    const Study& study = document_.study();
    const Step* selected = study.step(document_.attention().selected());
    if (selected && page_of(*selected) == Page::hand_off) return selected->id;
    for (std::size_t at = study.page_begin(Page::hand_off); at < study.items.size(); ++at)
        if (const Step* step = step_of(study.items[at])) return step->id;
    return 0;
}

void HandOffPage::refresh() {
    if (!open_) return;
    document_.attention().show_handed(step_in_hand());
    sheet_->refresh_blocks();
    refresh_head();
    refresh_readings();
    look_closer();
}

void HandOffPage::refresh_head() {
    const Result<std::string> folder =
        target_name(document_.study().hand_off_folder, {document_.study(), "{date}", "handoff"});
    folder_->setText(text_of(folder ? *folder : document_.study().hand_off_folder));
    const auto& plan = document_.results().hand_off();
    const std::size_t count = plan ? plan->to_write().size() : 0;
    write_->setText(count == 0   ? tr("Nothing to write")
                    : count == 1 ? tr("Write 1 file")
                                 : tr("Write %1 files").arg(count));
    write_->setEnabled(count > 0 && !writer_.busy() && !plan->error);
    cancel_->setVisible(writer_.busy());
    progress_->setVisible(writer_.busy());
    if (writer_.busy())
        progress_->setText(tr("%1 of %2, %3 %")
                               .arg(writer_.at() + 1)
                               .arg(writer_.count())
                               .arg(static_cast<int>(100 * writer_.fraction())));
    QStringList lines;
    std::optional<Error> wrong = document_.results().hand_off_error();
    if (!wrong && plan) wrong = plan->error ? plan->error : plan->asks;
    if (wrong) lines << text_of(sentence(*wrong));
    if (plan && !plan->left_over.empty()) {
        QStringList files;
        for (const std::string& file : plan->left_over)
            files << text_of(file);
        lines << tr("No longer handed off, and still there: %1.").arg(files.join(", "));
    }
    left_over_->setText(lines.join("\n"));
    left_over_->setVisible(!lines.isEmpty());
    set_ink(*left_over_, look().attention);
}

void HandOffPage::refresh_readings() {
    const auto& plan = document_.results().hand_off();
    const ItemId step = step_in_hand();
    const HandOffEntry* entry = plan ? plan->entry(step) : nullptr;
    table_rows_->set(plan, step, document_.study().units);
    table_->setVisible(entry && !entry->parts.empty());
    for (int section = 0; section < table_rows_->columnCount() - 1; ++section)
        table_->resizeColumnToContents(section);
    name_->setVisible(entry != nullptr);
    state_->setVisible(entry != nullptr);
    write_one_->setVisible(entry && entry->to_be_written());
    write_one_->setEnabled(!writer_.busy() && plan && !plan->error);
    if (!entry) {
        details_->setText(step == 0
                              ? tr("Say below “What leaves” what is handed off: each is a sentence, written "
                                   "to a file of its own.")
                              : tr("What is handed off is compared with what was, as soon as it is "
                                   "computed."));
        return;
    }
    name_->setText(text_of(entry->file.empty() ? entry->name : entry->file));
    state_->setText(text_of(state_text(*entry)));
    set_ink(*state_, entry->unchanged ? look().ink : look().attention);
    QStringList details;
    if (entry->error) details << text_of(sentence(*entry->error));
    if (entry->asks) details << text_of(sentence(*entry->asks));
    details << (entry->written.empty() ? tr("never written yet")
                                       : tr("last written %1").arg(text_of(entry->written)));
    // Long lists of what a format has no place for are told whole when they are pointed at.
    constexpr std::size_t most = 150;
    if (!entry->report.empty()) details << text_of(shortened(entry->report, most));
    details_->setText(details.join("\n"));
    details_->setToolTip(text_of(entry->report));
}

std::optional<bool> HandOffPage::allowed(const std::vector<ItemId>& steps) {
    const auto& plan = document_.results().hand_off();
    QStringList asked;
    if (plan->asks) asked << text_of(plan->asks->where + ' ' + plan->asks->message);
    for (const ItemId step : steps)
        if (const HandOffEntry* entry = plan->entry(step); entry && entry->asks)
            asked << text_of(entry->asks->where + ' ' + entry->asks->message);
    if (asked.isEmpty()) return false;
    QMessageBox box(QMessageBox::Question, tr("Hand off"), asked.join("\n\n"), QMessageBox::NoButton,
                    window());
    QPushButton* replace = box.addButton(tr("Replace them"), QMessageBox::AcceptRole);
    QPushButton* others =
        plan->asks ? nullptr : box.addButton(tr("Write only the others"), QMessageBox::NoRole);
    box.addButton(QMessageBox::Cancel);
    box.exec();
    if (box.clickedButton() == replace) return true;
    return others && box.clickedButton() == others ? std::optional(false) : std::nullopt;
}

void HandOffPage::write(std::vector<ItemId> steps) {
    const auto plan = document_.results().hand_off();
    if (!plan || steps.empty() || writer_.busy()) return;
    const std::optional<bool> over = allowed(steps);
    if (!over) return;
    if (!*over)
        std::erase_if(steps, [&](ItemId step) { return plan->entry(step) && plan->entry(step)->asks; });
    writer_.write({plan,
                   {document_.snapshot(), document_.results().plan()},
                   place_now(document_.path().toStdString()),
                   std::move(steps),
                   *over});
    progress_timer_.start();
}

void HandOffPage::take_reports(const std::vector<HandOffWriter::Report>& reports) {
    progress_timer_.stop();
    QStringList wrong;
    for (const HandOffWriter::Report& report : reports)
        if (report.error) wrong << text_of(report.file + ": " + sentence(*report.error));
    const auto written = static_cast<int>(reports.size()) - wrong.size();
    QString text = written == 1 ? tr("One file is written.") : tr("%1 files are written.").arg(written);
    if (!wrong.isEmpty()) text += "\n" + wrong.join("\n");
    document_.show_message(text);
    refresh();
    look_at_files();
    look_at_what_arrived();
}

void HandOffPage::edit_folder() {
    auto* form = new FormPopup(folder_, tr("Where files go"));
    QLineEdit* line = form->add_line(tr("Folder"), text_of(document_.study().hand_off_folder),
                                     tr("beside the study; {study} and {date} may stand in it"));
    line->setMinimumWidth(300);
    form->open(tr("Set folder"), [this, line]() -> QString {
        const std::string folder = text_of(line->text().trimmed());
        if (!folder.starts_with('/'))
            if (const Status named = check_target_name(folder); !named)
                return text_of(sentence(error_at(named.error(), "The folder")));
        document_.apply(set_hand_off_folder(document_.study(), folder), tr("folder of the hand-off"));
        look_at_files();
        look_at_what_arrived();
        return {};
    });
}

void HandOffPage::restore(const QSettings& settings) {
    parts_->columns().restoreState(settings.value("hand-off-columns").toByteArray());
}

void HandOffPage::store(QSettings& settings) const {
    settings.setValue("hand-off-columns", parts_->columns().saveState());
}

}  // namespace plume::app
