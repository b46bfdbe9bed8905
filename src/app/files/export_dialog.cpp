#include "app/files/export_dialog.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDoubleValidator>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QScreen>
#include <QThread>

#include "app/theme/look.hpp"
#include "core/base/text.hpp"
#include "core/exchange/building_classes.hpp"

namespace plume::app {
namespace {

constexpr LengthUnit units[] = {LengthUnit::metre, LengthUnit::centimetre, LengthUnit::millimetre,
                                LengthUnit::foot, LengthUnit::inch};

}  // namespace

ExportDialog::ExportDialog(Document& document, QWidget* parent) : QDialog(parent), document_(document) {
    setWindowTitle(tr("Export"));
    auto* form = form_ = new QFormLayout(this);
    form->setContentsMargins(20, 18, 20, 18);
    form->setSpacing(10);
    results_ = new QListWidget;
    results_->setObjectName("export-results");
    results_->setAccessibleName(tr("Results"));
    form->addRow(tr("Results"), results_);
    auto* shown = new QPushButton(tr("Tick what is shown in the model"));
    shown->setObjectName("export-shown");
    shown->setAutoDefault(false);
    form->addRow(QString(), shown);
    add_results();
    const auto choice = [&](const QString& label, const char* name) {
        auto* box = new QComboBox;
        box->setObjectName(name);
        box->setAccessibleName(label);
        form->addRow(label, box);
        return box;
    };
    format_ = choice(tr("Format"), "export-format");
    add_formats();
    unit_ = choice(tr("Unit"), "export-unit");
    for (const LengthUnit unit : units)
        unit_->addItem(text_of(plain_name(unit)));
    chosen_unit_ = static_cast<int>(document.study().units.length);
    connect(unit_, &QComboBox::activated, this, [this](int index) { chosen_unit_ = index; });
    layers_ = choice(tr("Layers"), "export-layers");
    class_ = choice(tr("In a building"), "export-class");
    class_->addItem(tr("what its name says"), QString());
    for (const BuildingClass& known : building_classes())
        class_->addItem(text_of(std::string(known.key)), text_of(std::string(known.key)));
    connect(class_, &QComboBox::activated, this,
            [this] { classes_[in_hand()] = text_of(class_->currentData().toString()); });
    scale_ = new QLineEdit;
    scale_->setObjectName("export-scale");
    scale_->setAccessibleName(tr("Scale 1 :"));
    scale_->setPlaceholderText(tr("that fits a sheet"));
    auto* above_zero = new QDoubleValidator(1e-6, 1e9, 6, scale_);
    above_zero->setLocale(QLocale::c());
    scale_->setValidator(above_zero);
    form->addRow(tr("Scale 1 :"), scale_);
    for_print_ = new QCheckBox(tr("Check that it can be printed"));
    for_print_->setObjectName("export-for-print");
    for_print_->setToolTip(tr("Closed, faces outwards, nothing crossing; else it is said where"));
    for_print_->setChecked(true);
    form->addRow(QString(), for_print_);
    auto* file_row = new QHBoxLayout;
    file_ = new QLineEdit;
    file_->setObjectName("export-file");
    file_->setAccessibleName(tr("File"));
    file_->setMinimumWidth(320);
    auto* browse_button = new QPushButton(tr("Choose…"));
    browse_button->setAutoDefault(false);
    file_row->addWidget(file_);
    file_row->addWidget(browse_button);
    form->addRow(tr("File"), file_row);
    note_ = new QLabel;
    note_->setObjectName("export-note");
    note_->setWordWrap(true);
    note_->setMinimumHeight(fontMetrics().lineSpacing());
    form->addRow(note_);
    busy_ = new QProgressBar;
    busy_->setRange(0, 0);
    busy_->setTextVisible(false);
    busy_->setAccessibleName(tr("Writing"));
    busy_->hide();
    form->addRow(busy_);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    close_ = new QPushButton(tr("Close"));
    close_->setAutoDefault(false);
    write_ = new QPushButton(tr("Write file"));
    write_->setObjectName("export-write");
    write_->setDefault(true);
    buttons->addWidget(close_);
    buttons->addWidget(write_);
    form->addRow(buttons);
    connect(browse_button, &QPushButton::clicked, this, &ExportDialog::browse);
    connect(close_, &QPushButton::clicked, this, &QDialog::reject);
    connect(write_, &QPushButton::clicked, this, &ExportDialog::write);
    connect(shown, &QPushButton::clicked, this, [this] {
        tick_shown();
        offer_layers();
        propose_file();
    });
    connect(results_, &QListWidget::itemChanged, this, [this] {
        offer_layers();
        propose_file();
    });
    connect(results_, &QListWidget::currentRowChanged, this, &ExportDialog::offer_class);
    connect(format_, &QComboBox::currentIndexChanged, this, &ExportDialog::follow_format);
    connect(file_, &QLineEdit::textChanged, this, &ExportDialog::refresh_note);
    connect(file_, &QLineEdit::textEdited, this, &ExportDialog::follow_file);
    follow_format();
    file_->setFocus();
    file_->selectAll();
}

void ExportDialog::add_results() {
    for (const Item& item : document_.study().items) {
        const Step* step = step_of(item);
        const Shown* shown = step ? document_.results().shown(step->id) : nullptr;
        if (!shown || !shown->value) continue;
        auto* row = new QListWidgetItem(
            text_of(step->name) + tr("  (%1)").arg(text_of(plain_name(kind_of(*shown->value)))), results_);
        row->setData(Qt::UserRole, QVariant::fromValue<qulonglong>(step->id));
        row->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
        row->setCheckState(Qt::Unchecked);
    }
    results_->setMinimumHeight(2 * fontMetrics().lineSpacing() + 2 * results_->frameWidth() + 8);
    const ItemId selected = document_.attention().selected();
    tick([&](const Step& step) { return step.id == selected; });
    if (chosen().empty()) tick_shown();
}

void ExportDialog::tick(const std::function<bool(const Step&)>& wanted) {
    const QSignalBlocker once(results_);
    QListWidgetItem* first = nullptr;
    for (int row = 0; row < results_->count(); ++row) {
        QListWidgetItem* item = results_->item(row);
        const Step* step = document_.study().step(item->data(Qt::UserRole).toULongLong());
        const bool ticked = step && wanted(*step);
        item->setCheckState(ticked ? Qt::Checked : Qt::Unchecked);
        if (ticked && !first) first = item;
    }
    if (!first) return;
    results_->setCurrentItem(first);
    results_->scrollToItem(first);
}

// What is seen in the model, if it has a place there.
void ExportDialog::tick_shown() {
    tick([&](const Step& step) {
        return step.show.visible &&
               form_of(*document_.results().shown(step.id)->value) != WrittenForm::nothing;
    });
}

void ExportDialog::add_formats() {
    for (const ExportFormat& format : export_formats())
        format_->addItem(text_of(format.name + ": " + format.holds), text_of(format.extension));
    // The first that has a place for what is ticked.
    const auto results = chosen();
    const auto fits = [&](const ExportFormat& format) {
        return std::ranges::all_of(results, [&](const auto& result) { return format.takes(*result.value); });
    };
    format_->setCurrentIndex(
        static_cast<int>(std::ranges::find_if(export_formats(), fits) - export_formats().begin()));
}

const ExportFormat& ExportDialog::format() const {
    return export_formats()[static_cast<std::size_t>(std::max(format_->currentIndex(), 0))];
}

std::vector<ExportedResult> ExportDialog::chosen() const {
    std::vector<ExportedResult> results;
    for (int row = 0; row < results_->count(); ++row) {
        const QListWidgetItem* item = results_->item(row);
        const Step* step = document_.study().step(item->data(Qt::UserRole).toULongLong());
        const Shown* shown = step ? document_.results().shown(step->id) : nullptr;
        if (item->checkState() != Qt::Checked || !shown || !shown->value) continue;
        results.push_back({shown->value, step->name, step->show});
        if (const auto told = classes_.find(step->id); told != classes_.end())
            results.back().building_class = told->second;
    }
    return results;
}

// Its own unit, if it has but one, and whether it is for printers.
void ExportDialog::show_what_it_asks() {
    const auto own = format().own_unit;
    unit_->setCurrentIndex(own ? static_cast<int>(*own) : chosen_unit_);
    unit_->setEnabled(!own);
    unit_->setToolTip(own ? tr("This format knows no other unit.") : QString());
    form_->setRowVisible(for_print_, format().prints);
    form_->setRowVisible(layers_, format().layers);
    form_->setRowVisible(scale_, format().to_scale);
    form_->setRowVisible(class_, format().classes);
    offer_layers();
    offer_class();
}

void ExportDialog::follow_format() {
    show_what_it_asks();
    propose_file();
}

// An ending that is typed chooses the format, as it does when the file is written.
void ExportDialog::follow_file() {
    const ExportFormat* typed = export_format_for(file_->text().toStdString());
    if (!typed || typed == &format()) return;
    const QSignalBlocker without_another_file(format_);
    format_->setCurrentIndex(static_cast<int>(typed - export_formats().data()));
    show_what_it_asks();
    refresh_note();
}

// A layer a result, or one a value of a number that the ticked ones carry; what was chosen stays where it
// can.
void ExportDialog::offer_layers() {
    const QString before = layers_->currentData().toString();
    layers_->clear();
    layers_->addItem(tr("one a result"), QString());
    for (const ExportedResult& result : chosen())
        for (const std::string& name : field_names(*result.value))
            if (layers_->findData(text_of(name)) < 0)
                layers_->addItem(tr("by %1").arg(text_of(name)), text_of(name));
    layers_->setCurrentIndex(std::max(layers_->findData(before), 0));
}

ItemId ExportDialog::in_hand() const {
    const QListWidgetItem* item = results_->currentItem();
    return item ? item->data(Qt::UserRole).toULongLong() : 0;
}

void ExportDialog::offer_class() {
    const Step* step = document_.study().step(in_hand());
    class_->setEnabled(step != nullptr);
    if (!step) return;
    if (auto* label = qobject_cast<QLabel*>(form_->labelForField(class_)))
        label->setText(tr("%1 is").arg(text_of(shortened(step->name, 16))));
    const auto told = classes_.find(step->id);
    class_->setCurrentIndex(told == classes_.end() ? 0
                                                   : std::max(class_->findData(text_of(told->second)), 0));
}

void ExportDialog::propose_file() {
    const auto results = chosen();
    const QString folder =
        document_.path().isEmpty() ? QDir::homePath() : QFileInfo(document_.path()).absolutePath();
    const QString study = QFileInfo(document_.path()).completeBaseName();
    const QString name = results.size() == 1 ? text_of(results.front().name)
                         : study.isEmpty()   ? tr("results")
                                             : study;
    file_->setText(QDir(folder).filePath(name + format_->currentData().toString()));
    refresh_note();
}

QString ExportDialog::hindrance() const {
    if (results_->count() == 0) return tr("There is no result to write yet.");
    const auto results = chosen();
    if (results.empty()) return tr("Tick a result.");
    if (results.size() > 1 && !format().several)
        return tr("%1 holds one result in a file: tick one.").arg(text_of(format().name));
    for (const ExportedResult& result : results)
        if (!format().takes(*result.value))
            return tr("%1 has no place for %2.").arg(text_of(format().name), text_of(result.name));
    return {};
}

void ExportDialog::refresh_note() {
    const QString hindered = hindrance();
    QString text = hindered;
    if (text.isEmpty() && !format().states_unit)
        text = tr("This format has no unit of its own: tell whoever reads the file.");
    if (text.isEmpty() && QFileInfo::exists(file_->text()))
        text = tr("The file exists and will be replaced.");
    note_->setText(text);
    write_->setEnabled(hindered.isEmpty() && !file_->text().isEmpty());
    QPalette palette = note_->palette();
    palette.setColor(QPalette::WindowText, look().second_ink);
    note_->setPalette(palette);
}

void ExportDialog::browse() {
    const QString chosen = QFileDialog::getSaveFileName(this, tr("Export to"), file_->text(), {}, nullptr,
                                                        QFileDialog::DontConfirmOverwrite);
    if (!chosen.isEmpty()) file_->setText(chosen);
}

void ExportDialog::write() {
    ExportJob job{chosen(), document_.study().units, units[unit_->currentIndex()]};
    if (job.results.empty() || thread_) return;
    job.for_print = format().prints && for_print_->isChecked();
    if (format().layers) job.layers_by = layers_->currentData().toString().toStdString();
    if (format().to_scale) job.plan_scale = QLocale::c().toDouble(scale_->text());
    QString path = file_->text();
    if (QFileInfo(path).suffix().isEmpty()) path += format_->currentData().toString();
    run_ = Run();
    set_busy(true);
    // The thread has its own handle on everything it reads: values are immutable and shared.
    thread_.reset(QThread::create([this, job = std::move(job), path, run = run_] {
        const auto report = export_results(job, path.toStdString(), run);
        QMetaObject::invokeMethod(
            this, [this, report] { written(report); }, Qt::QueuedConnection);
    }));
    thread_->start();
}

void ExportDialog::written(const Result<std::string>& report) {
    thread_->wait();
    thread_.reset();
    set_busy(false);
    if (report) {
        document_.show_message(text_of(*report));
        return accept();
    }
    note_->setText(text_of(sentence(report.error())));
    QPalette palette = note_->palette();
    palette.setColor(QPalette::WindowText, look().attention);
    note_->setPalette(palette);
}

void ExportDialog::set_busy(bool busy) {
    busy_->setVisible(busy);
    write_->setEnabled(!busy);
    close_->setText(busy ? tr("Cancel") : tr("Close"));
}

void ExportDialog::reject() {
    if (thread_) return run_.cancel();
    QDialog::reject();
}

// With more rows it grows: no button may end below the screen.
void ExportDialog::resizeEvent(QResizeEvent* event) {
    QDialog::resizeEvent(event);
    const QRect room = screen()->availableGeometry();
    const int below = frameGeometry().bottom() - room.bottom();
    if (below > 0) move(x(), std::max(room.top(), y() - below));
}

ExportDialog::~ExportDialog() {
    run_.cancel();
    if (thread_) thread_->wait();
}

}  // namespace plume::app
