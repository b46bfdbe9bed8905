#pragma once
// Which result, in which format and unit, to which file.

#include <QDialog>

#include <memory>

#include "app/document/document.hpp"

class QComboBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;
class QThread;

namespace plume::app {

class ExportDialog : public QDialog {
    Q_OBJECT

public:
    ExportDialog(Document& document, QWidget* parent);
    ~ExportDialog() override;
    // Cancels the writing, or closes when nothing is being written.
    void reject() override;

private:
    void propose_file();
    void browse();
    void write();
    void refresh_note();
    void written(const Result<std::string>& report);
    void set_busy(bool busy);

    Document& document_;
    QComboBox *result_, *format_, *unit_;
    QLineEdit* file_;
    QLabel* note_;
    QPushButton *write_, *close_;
    QProgressBar* busy_;
    // While a file is being written, on a thread of its own.
    std::unique_ptr<QThread> thread_;
    Run run_;
};

}  // namespace plume::app
