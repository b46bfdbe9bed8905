#pragma once
// A dialogue that writes a file: what is asked about it above, then the file, what is to be said, and Write.
// The writing runs on a thread of its own and can be cancelled.

#include <QDialog>
#include <QTimer>
#include <functional>
#include <memory>

#include "app/document/document.hpp"

class QFormLayout;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;
class QThread;

namespace plume::app {

class WritingDialog : public QDialog {
    Q_OBJECT

public:
    ~WritingDialog() override;
    // Cancels the writing, or closes when nothing is being written.
    void reject() override;

protected:
    // Names of parts in the window begin with that word.
    WritingDialog(Document& document, const QString& parts, QWidget* parent);

    Document& document() const { return document_; }
    QFormLayout* form() { return form_; }
    QLineEdit* file() { return file_; }
    // Below all other rows.
    void add_file_rows();

    // Why the file cannot be written as things stand; empty where it can.
    virtual QString hindrance() const = 0;
    // What is to be known before it is; empty: nothing.
    virtual QString remark() const { return {}; }
    virtual QString ending() const = 0;
    // Writes it; runs on another thread, so that it has to own what it reads.
    using Work = std::function<Result<std::string>(const std::string& path, const Run& run)>;
    virtual Work work() const = 0;

    void refresh_note();
    void resizeEvent(QResizeEvent* event) override;

private:
    void browse();
    void write();
    void written(const Result<std::string>& report);
    void set_busy(bool busy);
    void follow_progress();
    void say(const QString& text, const QColor& colour);

    Document& document_;
    QString parts_;
    QFormLayout* form_;
    QLineEdit* file_ = nullptr;
    QLabel* note_ = nullptr;
    QPushButton *write_ = nullptr, *close_ = nullptr;
    QProgressBar* busy_ = nullptr;
    std::unique_ptr<QThread> thread_;  // while a file is being written
    Run run_;
    QTimer progress_timer_;
};

}  // namespace plume::app
