#include "app/files/writing_dialog.hpp"

#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QScreen>
#include <QThread>

#include "app/theme/look.hpp"

namespace plume::app {

WritingDialog::WritingDialog(Document& document, const QString& parts, QWidget* parent)
    : QDialog(parent), document_(document), parts_(parts), form_(new QFormLayout(this)) {
    form_->setContentsMargins(20, 18, 20, 18);
    form_->setSpacing(10);
}

void WritingDialog::add_file_rows() {
    auto* file_row = new QHBoxLayout;
    file_ = new QLineEdit;
    file_->setObjectName(parts_ + "-file");
    file_->setAccessibleName(tr("File"));
    file_->setMinimumWidth(320);
    auto* browse_button = new QPushButton(tr("Choose…"));
    browse_button->setAutoDefault(false);
    file_row->addWidget(file_);
    file_row->addWidget(browse_button);
    form_->addRow(tr("File"), file_row);
    note_ = new QLabel;
    note_->setObjectName(parts_ + "-note");
    note_->setWordWrap(true);
    note_->setMinimumHeight(fontMetrics().lineSpacing());
    form_->addRow(note_);
    busy_ = new QProgressBar;
    busy_->setRange(0, 0);
    busy_->setTextVisible(false);
    busy_->setAccessibleName(tr("Writing"));
    busy_->hide();
    form_->addRow(busy_);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    close_ = new QPushButton(tr("Close"));
    close_->setAutoDefault(false);
    write_ = new QPushButton(tr("Write file"));
    write_->setObjectName(parts_ + "-write");
    write_->setDefault(true);
    buttons->addWidget(close_);
    buttons->addWidget(write_);
    form_->addRow(buttons);
    progress_timer_.setInterval(100);
    connect(&progress_timer_, &QTimer::timeout, this, &WritingDialog::follow_progress);
    connect(browse_button, &QPushButton::clicked, this, &WritingDialog::browse);
    connect(close_, &QPushButton::clicked, this, &QDialog::reject);
    connect(write_, &QPushButton::clicked, this, &WritingDialog::write);
    connect(file_, &QLineEdit::textChanged, this, &WritingDialog::refresh_note);
}

void WritingDialog::say(const QString& text, const QColor& colour) {
    note_->setText(text);
    QPalette palette = note_->palette();
    palette.setColor(QPalette::WindowText, colour);
    note_->setPalette(palette);
}

void WritingDialog::refresh_note() {
    const QString hindered = hindrance();
    QString text = hindered;
    if (text.isEmpty()) text = remark();
    if (hindered.isEmpty() && QFileInfo(file_->text()).isFile())
        text += (text.isEmpty() ? "" : " ") + tr("The file exists and will be replaced.");
    say(text, look().second_ink);
    write_->setEnabled(hindered.isEmpty() && !file_->text().isEmpty());
}

void WritingDialog::browse() {
    const QString chosen = QFileDialog::getSaveFileName(this, windowTitle(), file_->text(), {}, nullptr,
                                                        QFileDialog::DontConfirmOverwrite);
    if (!chosen.isEmpty()) file_->setText(chosen);
}

void WritingDialog::write() {
    if (thread_ || !hindrance().isEmpty()) return;
    QString path = file_->text();
    if (QFileInfo(path).suffix().isEmpty()) path += ending();
    run_ = Run();
    set_busy(true);
    // The thread has its own handle on everything it reads: values are immutable and shared.
    thread_.reset(QThread::create([this, job = work(), path, run = run_] {
        const auto report = job(path.toStdString(), run);
        QMetaObject::invokeMethod(
            this, [this, report] { written(report); }, Qt::QueuedConnection);
    }));
    thread_->start();
}

void WritingDialog::written(const Result<std::string>& report) {
    thread_->wait();
    thread_.reset();
    set_busy(false);
    if (!report) return say(text_of(sentence(report.error())), look().attention);
    document_.show_message(text_of(*report));
    accept();
}

void WritingDialog::set_busy(bool busy) {
    busy_->setVisible(busy);
    busy_->setRange(0, 0);
    if (busy)
        progress_timer_.start();
    else
        progress_timer_.stop();
    write_->setEnabled(!busy);
    close_->setText(busy ? tr("Cancel") : tr("Close"));
}

// As long as nothing is said of how far it is, the bar only shows that something is done.
void WritingDialog::follow_progress() {
    constexpr int whole = 1000;
    const double share = run_.fraction();
    if (share <= 0) return;
    busy_->setRange(0, whole);
    busy_->setValue(static_cast<int>(share * whole));
}

void WritingDialog::reject() {
    if (thread_) return run_.cancel();
    QDialog::reject();
}

// With more rows it grows: no button may end below the screen.
void WritingDialog::resizeEvent(QResizeEvent* event) {
    QDialog::resizeEvent(event);
    const QRect room = screen()->availableGeometry();
    const int below = frameGeometry().bottom() - room.bottom();
    if (below > 0) move(x(), std::max(room.top(), y() - below));
}

WritingDialog::~WritingDialog() {
    run_.cancel();
    if (thread_) thread_->wait();
}

}  // namespace plume::app
