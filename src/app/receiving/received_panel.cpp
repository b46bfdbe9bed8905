#include "app/receiving/received_panel.hpp"

#include <QComboBox>
#include <QEvent>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QSplitter>
#include <QToolButton>
#include <QTreeWidget>
#include <QVBoxLayout>

#include "app/document/document.hpp"
#include "app/model/view_tools.hpp"
#include "app/parts/wrapped_label.hpp"
#include "app/receiving/received_tree.hpp"
#include "app/receiving/received_view.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"
#include "core/base/text.hpp"

namespace plume::app {
namespace {

constexpr int below_height = 250;

QString line_about(const Received& here, const ArrivedFile& file) {
    if (file.error) return text_of(sentence(*file.error));
    return text_of(file.name + ": " + file.counts_text() + " · " + presence_text(here, file));
}

}  // namespace

ReceivedPanel::ReceivedPanel(QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(new_head());
    auto* rows = new QSplitter(Qt::Vertical);
    rows->setChildrenCollapsible(false);
    rows->setHandleWidth(1);
    rows->addWidget(new_model());
    below_ = new_below();
    rows->addWidget(below_);
    rows->setStretchFactor(0, 1);
    rows->setSizes({2 * below_height, below_height});
    column->addWidget(rows, 1);
    progress_timer_.setInterval(100);
    connect(&progress_timer_, &QTimer::timeout, this, &ReceivedPanel::refresh_head);
    connect(&receiver_, &Receiver::changed, this, &ReceivedPanel::refresh);
    refresh();
}

QWidget* ReceivedPanel::new_head() {
    auto* head = new QWidget;
    head->setObjectName("readings");
    head->setAttribute(Qt::WA_StyledBackground);
    auto* column = new QVBoxLayout(head);
    column->setContentsMargins(16, 8, 14, 8);
    column->setSpacing(2);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    title_ = new QLabel;
    title_->setObjectName("received-state");
    title_->setFont(text_font(15, QFont::DemiBold));
    title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    what_if_ = new QToolButton;
    what_if_->setObjectName("received-what-if");
    what_if_->setProperty("chip", true);
    what_if_->setText(tr("What if …"));
    what_if_->setToolTip(tr("What goes wrong where models are received, on purpose"));
    cancel_ = new QPushButton(tr("Cancel"));
    cancel_->setObjectName("received-cancel");
    take_in_ = new QPushButton(tr("Take it in"));
    take_in_->setObjectName("received-take-in");
    take_in_->setDefault(true);
    row->addWidget(title_, 1);
    row->addWidget(what_if_);
    row->addWidget(cancel_);
    row->addWidget(take_in_);
    column->addLayout(row);
    files_ = wrapped_label("received-files", text_font(12));
    files_->setProperty("second", true);
    column->addWidget(files_);
    doubts_ = wrapped_label("received-doubts", text_font(12));
    column->addWidget(doubts_);
    connect(take_in_, &QPushButton::clicked, &receiver_, &Receiver::take_in);
    connect(cancel_, &QPushButton::clicked, &receiver_, &Receiver::cancel);
    connect(what_if_, &QToolButton::clicked, this, &ReceivedPanel::open_what_if);
    return head;
}

QWidget* ReceivedPanel::new_model() {
    auto* model = new QWidget;
    model->setMinimumSize(240, 180);
    auto* over = new QGridLayout(model);
    over->setContentsMargins(0, 0, 0, 0);
    const QString why = OrbitView::why_not();
    if (why.isEmpty()) {
        view_ = new ReceivedView(model);
        tools_ = new ViewTools(*view_, ViewTools::Keys::none, {}, model);
        tools_->setContentsMargins(0, 0, 14, 12);
        over->addWidget(view_, 0, 0);
        over->addWidget(tools_, 0, 0, Qt::AlignRight | Qt::AlignBottom);
        tools_->raise();
        connect(view_, &OrbitView::camera_changed, tools_, &ViewTools::refresh);
        connect(view_, &ReceivedView::part_clicked, this,
                [this](std::size_t part) { tree_->take_in_hand(part); });
    }
    instead_ = wrapped_label("received-instead", text_font(13));
    over->addWidget(instead_, 0, 0);
    instead_->setAlignment(Qt::AlignCenter);
    instead_->setMargin(40);
    if (!why.isEmpty()) instead_of_a_model_ = why;
    return model;
}

QWidget* ReceivedPanel::new_below() {
    auto* below = new QSplitter(Qt::Horizontal);
    below->setObjectName("readings");
    below->setAttribute(Qt::WA_StyledBackground);
    below->setChildrenCollapsible(false);
    below->setHandleWidth(1);
    auto* left = new QWidget;
    auto* parts = new QVBoxLayout(left);
    parts->setContentsMargins(16, 8, 8, 8);
    parts->setSpacing(6);
    by_ = new QComboBox;
    by_->setObjectName("received-by");
    by_->setAccessibleName(tr("How parts are grouped"));
    by_->addItem(tr("By storey, class and material"));
    by_->addItem(tr("By class and material"));
    by_->addItem(tr("By material and class"));
    tree_ = new ReceivedTree;
    parts->addWidget(by_);
    parts->addWidget(tree_, 1);
    auto* right = new QWidget;
    auto* part = new QVBoxLayout(right);
    part->setContentsMargins(12, 8, 14, 8);
    part->setSpacing(4);
    part_name_ = wrapped_label("received-part", text_font(13, QFont::DemiBold));
    part_figures_ = wrapped_label("received-figures", text_font(12));
    part_figures_->setProperty("second", true);
    properties_ = new QTreeWidget;
    properties_->setObjectName("received-properties");
    properties_->setAccessibleName(tr("What the file says of it"));
    properties_->setHeaderLabels({tr("what the file says"), {}});
    properties_->setRootIsDecorated(false);
    properties_->setSelectionMode(QAbstractItemView::NoSelection);
    properties_->setFocusPolicy(Qt::NoFocus);
    auto* row = new QHBoxLayout;
    lock_ = new QPushButton;
    lock_->setObjectName("received-lock");
    lock_->setToolTip(tr("What is locked is neither replaced nor removed"));
    remove_ = new QPushButton(tr("Delete it here"));
    remove_->setObjectName("received-remove");
    remove_->setToolTip(tr("As people do in such a model: it is not placed again"));
    row->addWidget(lock_);
    row->addWidget(remove_);
    row->addStretch();
    hint_ = wrapped_label("received-hint", text_font(12));
    hint_->setProperty("second", true);
    part->addWidget(hint_);
    part->addWidget(part_name_);
    part->addWidget(part_figures_);
    part->addWidget(properties_, 1);
    part->addLayout(row);
    part->addStretch();
    below->addWidget(left);
    below->addWidget(right);
    below->setStretchFactor(0, 1);
    below->setSizes({480, 270});
    connect(by_, &QComboBox::activated, this, [this] { tree_->show_state(shown_, grouping()); });
    connect(tree_, &QTreeWidget::currentItemChanged, this, &ReceivedPanel::show_selection);
    connect(lock_, &QPushButton::clicked, this, [this] {
        if (const auto in_hand = part_in_hand())
            receiver_.lock(in_hand->placed->identity, !in_hand->placed->locked);
    });
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (const auto in_hand = part_in_hand()) receiver_.remove(in_hand->placed->identity);
    });
    return below;
}

void ReceivedPanel::look_at(const std::filesystem::path& folder) {
    std::error_code ignored;
    if (!std::filesystem::is_directory(folder, ignored))
        return tell(tr("Nothing has been written into %1 yet. Write what leaves, and see here what arrives.")
                        .arg(text_of(folder.string())));
    if (view_) instead_of_a_model_.clear();
    receiver_.open(folder);
}

void ReceivedPanel::tell(const QString& why) {
    instead_of_a_model_ = why;
    refresh();
}

std::vector<GroupBy> ReceivedPanel::grouping() const {
    if (by_->currentIndex() == 1) return {GroupBy::building_class, GroupBy::material};
    if (by_->currentIndex() == 2) return {GroupBy::material, GroupBy::building_class};
    return {GroupBy::storey, GroupBy::building_class, GroupBy::material};
}

void ReceivedPanel::refresh() {
    if (receiver_.busy() && !progress_timer_.isActive()) progress_timer_.start();
    if (!receiver_.busy()) progress_timer_.stop();
    if (shown_ != receiver_.state()) {
        shown_ = receiver_.state();
        if (view_) view_->show_state(shown_);
        tree_->show_state(shown_, grouping());
    }
    refresh_head();
    QString instead = instead_of_a_model_;
    if (instead.isEmpty() && shown_ && shown_->here.model().parts.empty())
        instead = shown_->arrival.files.empty()
                      ? tr("No building model lies in this folder. Give parts to the building model, and "
                           "write them.")
                      : tr("Nothing is in this model yet. Take in what arrived.");
    instead_->setText(instead);
    instead_->setVisible(!instead.isEmpty());
    if (view_) view_->setVisible(instead.isEmpty());
    if (tools_) tools_->setVisible(instead.isEmpty());
    refresh_part();
}

void ReceivedPanel::refresh_head() {
    const bool busy = receiver_.busy();
    const bool known = shown_ != nullptr;
    const bool waits = known && shown_->arrival.changes_anything();
    cancel_->setVisible(busy);
    take_in_->setVisible(waits && !busy);
    what_if_->setEnabled(known && !busy);
    QStringList files, doubts;
    if (receiver_.error()) doubts << text_of(sentence(*receiver_.error()));
    if (known) {
        for (const ArrivedFile& file : shown_->arrival.files)
            (file.error ? doubts : files) << line_about(shown_->here, file);
        for (const std::string& file : shown_->arrival.missing)
            doubts << tr("%1 is no longer there; its parts stay.").arg(text_of(file));
        for (const std::string& doubt : shown_->doubts)
            doubts << text_of(doubt);
    }
    const auto parts = known ? shown_->here.model().parts.size() : 0;
    title_->setText(busy        ? tr("Reading … %1 %").arg(static_cast<int>(100 * receiver_.fraction()))
                    : waits     ? tr("Something has arrived")
                    : parts > 0 ? tr("%1, as in the files").arg(text_of(count_text(parts, "part", "parts")))
                                : tr("What arrived"));
    files_->setText(files.join("\n"));
    files_->setVisible(!files.isEmpty());
    doubts_->setText(doubts.join("\n"));
    doubts_->setVisible(!doubts.isEmpty());
    set_ink(*doubts_, look().attention);
}

std::optional<Received::Part> ReceivedPanel::part_in_hand() const {
    const std::vector<std::size_t> parts = tree_->parts_in_hand();
    if (parts.size() != 1 || !shown_) return {};
    return shown_->here.parts()[parts.front()];
}

void ReceivedPanel::show_selection() {
    if (view_) view_->show_in_hand(tree_->parts_in_hand());
    refresh_part();
}

void ReceivedPanel::refresh_part() {
    const auto part = part_in_hand();
    for (QWidget* widget :
         {static_cast<QWidget*>(lock_), static_cast<QWidget*>(remove_), static_cast<QWidget*>(properties_),
          static_cast<QWidget*>(part_name_), static_cast<QWidget*>(part_figures_)})
        widget->setVisible(part.has_value());
    hint_->setVisible(!part);
    below_->setVisible(shown_ && !shown_->here.model().parts.empty());
    lock_->setEnabled(!receiver_.busy());
    remove_->setEnabled(!receiver_.busy());
    if (!part) {
        const std::size_t several = tree_->parts_in_hand().size();
        hint_->setText(
            several > 1 ? tr("%1 parts stand out in the model. Choose one to see what its file says of it.")
                              .arg(several)
                        : tr("Choose a part, here or in the model."));
        return;
    }
    const BuildingElement& element = part->taken->element;
    part_name_->setText(text_of(element.name));
    QStringList lines = lines_about(*part);
    lines << text_of(origin_text(*part->placed));
    part_figures_->setText(lines.join("\n"));
    lock_->setText(part->placed->locked ? tr("Unlock it") : tr("Lock it"));
    properties_->clear();
    for (const BuildingProperty& property : element.properties) {
        auto* row = new QTreeWidgetItem(properties_);
        row->setText(0, text_of(property.name));
        row->setToolTip(0, text_of(property.set));
        row->setText(1,
                     text_of(property.number ? quantity_text(*property.number, Units(), 6) : property.text));
    }
    properties_->resizeColumnToContents(0);
}

void ReceivedPanel::open_what_if() {
    QMenu& menu = *new_popup_menu(this);
    menu.setObjectName("received-what-if-menu");
    const std::optional<LengthUnit> now = shown_->here.model().reads_as;
    const auto add = [&](const QString& text, std::optional<LengthUnit> unit) {
        QAction* action = menu.addAction(text, &receiver_, [this, unit] { receiver_.read_as(unit); });
        action->setCheckable(true);
        action->setChecked(now == unit);
    };
    add(tr("Lengths are read as the files say"), {});
    for (const LengthUnit unit : {LengthUnit::metre, LengthUnit::centimetre, LengthUnit::millimetre,
                                  LengthUnit::foot, LengthUnit::inch})
        add(tr("… as %1").arg(text_of(plain_name(unit))), unit);
    menu.addSeparator();
    QAction* again = menu.addAction(tr("What was deleted here is placed again"), &receiver_,
                                    &Receiver::place_deleted_again);
    again->setEnabled(!shown_->here.model().deleted.empty());
    menu.addAction(tr("Somebody else puts parts there …"), this, &ReceivedPanel::choose_others);
    menu.popup(what_if_->mapToGlobal(QPoint(0, what_if_->height() + 2)));
}

void ReceivedPanel::choose_others() {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Parts of somebody else"), text_of(receiver_.folder().string()),
                                     tr("Building models (*.ifc)"));
    if (!path.isEmpty()) receiver_.add_others(path.toStdString());
}

void ReceivedPanel::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange && tools_) {
        tools_->refresh();
        refresh_head();
    }
    QWidget::changeEvent(event);
}

}  // namespace plume::app
