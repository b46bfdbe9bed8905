#include "app/files/export_dialog.hpp"

#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QThread>

#include "app/theme/look.hpp"
#include "core/exchange/export.hpp"

namespace plume::app {
namespace {

constexpr LengthUnit units[] = {LengthUnit::metre, LengthUnit::centimetre, LengthUnit::millimetre,
                                LengthUnit::foot, LengthUnit::inch};

}  // namespace

ExportDialog::ExportDialog(Document& document, QWidget* parent) : QDialog(parent), document_(document) {
    setWindowTitle(tr("Export"));
    auto* form = new QFormLayout(this);
    form->setContentsMargins(20, 18, 20, 18);
    form->setSpacing(10);
    const auto choice = [&](const QString& label, const char* name) {
        auto* box = new QComboBox;
        box->setObjectName(name);
        box->setAccessibleName(label);
        form->addRow(label, box);
        return box;
    };
    result_ = choice(tr("Result"), "export-result");
    for (const Item& item : document.study().items)
        if (const Step* step = step_of(item)) {
            const Shown* shown = document.results().shown(step->id);
            if (!shown || !shown->value) continue;
            result_->addItem(
                text_of(step->name) + tr("  (%1)").arg(text_of(plain_name(kind_of(*shown->value)))),
                QVariant::fromValue<qulonglong>(step->id));
        }
    const Step* selected = document.study().step(document.attention().selected());
    const int wanted = selected ? result_->findData(QVariant::fromValue<qulonglong>(selected->id)) : -1;
    result_->setCurrentIndex(wanted >= 0 ? wanted : result_->count() - 1);
    format_ = choice(tr("Format"), "export-format");
    for (const ExportFormat& format : export_formats())
        format_->addItem(text_of(format.label), text_of(format.extension));
    unit_ = choice(tr("Unit"), "export-unit");
    for (const LengthUnit unit : units)
        unit_->addItem(text_of(plain_name(unit)));
    unit_->setCurrentIndex(static_cast<int>(document.study().units.length));
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
    note_->setMinimumHeight(36);
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
    connect(result_, &QComboBox::currentIndexChanged, this, &ExportDialog::propose_file);
    connect(format_, &QComboBox::currentIndexChanged, this, &ExportDialog::propose_file);
    connect(file_, &QLineEdit::textChanged, this, &ExportDialog::refresh_note);
    propose_file();
    file_->setFocus();
    file_->selectAll();
}

void ExportDialog::propose_file() {
    const Step* step = document_.study().step(result_->currentData().toULongLong());
    const QString folder =
        document_.path().isEmpty() ? QDir::homePath() : QFileInfo(document_.path()).absolutePath();
    file_->setText(QDir(folder).filePath((step ? text_of(step->name) : tr("result")) +
                                         format_->currentData().toString()));
    refresh_note();
}

void ExportDialog::refresh_note() {
    const ExportFormat& format = export_formats()[static_cast<std::size_t>(format_->currentIndex())];
    QString text = result_->count() == 0 ? tr("There is no result to write yet.") : QString();
    if (text.isEmpty() && !format.states_unit)
        text = tr("This format has no unit of its own: tell whoever reads the file.");
    if (text.isEmpty() && QFileInfo::exists(file_->text()))
        text = tr("The file exists and will be replaced.");
    note_->setText(text);
    write_->setEnabled(result_->count() > 0 && !file_->text().isEmpty());
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
    const Step* step = document_.study().step(result_->currentData().toULongLong());
    const Shown* shown = step ? document_.results().shown(step->id) : nullptr;
    if (!shown || !shown->value || thread_) return;
    QString path = file_->text();
    if (QFileInfo(path).suffix().isEmpty()) path += format_->currentData().toString();
    run_ = Run();
    set_busy(true);
    // The thread has its own handle on everything it reads: values are immutable and shared.
    thread_.reset(
        QThread::create([this, value = shown->value, name = step->name, study_units = document_.study().units,
                         unit = units[unit_->currentIndex()], path, run = run_] {
            const auto report = export_value({*value, name, study_units, unit}, path.toStdString(), run);
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

ExportDialog::~ExportDialog() {
    run_.cancel();
    if (thread_) thread_->wait();
}

}  // namespace plume::app
