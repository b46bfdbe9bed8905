#pragma once
// Which results, in which format and unit, to which file.

#include <QDialog>

#include <functional>
#include <memory>

#include "app/document/document.hpp"
#include "core/exchange/export.hpp"

class QCheckBox;
class QFormLayout;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
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

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void add_results();
    void tick(const std::function<bool(const Step&)>& wanted);
    void tick_shown();
    void add_formats();
    std::vector<ExportedResult> chosen() const;
    ItemId in_hand() const;
    const ExportFormat& format() const;
    // Why the file cannot be written as things stand; empty where it can.
    QString hindrance() const;
    void follow_format();
    void follow_file();
    void show_what_it_asks();
    void offer_layers();
    // What the result in hand is in a building.
    void offer_class();
    void propose_file();
    void browse();
    void write();
    void refresh_note();
    void written(const Result<std::string>& report);
    void set_busy(bool busy);

    Document& document_;
    QFormLayout* form_;
    QListWidget* results_;
    QComboBox *format_, *unit_, *layers_, *class_;
    std::map<ItemId, std::string> classes_;  // where they are not told from names
    QLineEdit* scale_;
    int chosen_unit_ = 0;  // where the format leaves a choice
    QCheckBox* for_print_;
    QLineEdit* file_;
    QLabel* note_;
    QPushButton *write_, *close_;
    QProgressBar* busy_;
    // While a file is being written, on a thread of its own.
    std::unique_ptr<QThread> thread_;
    Run run_;
};

}  // namespace plume::app
