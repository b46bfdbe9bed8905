#pragma once
// Which result, in which format and unit, to which file.

#include <QDialog>

#include "app/document/document.hpp"

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace plume::app {

class ExportDialog : public QDialog {
    Q_OBJECT

public:
    ExportDialog(Document& document, QWidget* parent);

private:
    void propose_file();
    void browse();
    void write();
    void refresh_note();

    Document& document_;
    QComboBox *result_, *format_, *unit_;
    QLineEdit* file_;
    QLabel* note_;
    QPushButton* write_;
};

}  // namespace plume::app
