#pragma once
// Why a part of what grew is there: its line of descent, of the part that was clicked in the model, or else
// of the one that was pointed at last.

#include <QWidget>

#include "app/document/document.hpp"

class QLabel;
class QPlainTextEdit;

namespace plume::app {

class DescentReading : public QWidget {
    Q_OBJECT

public:
    DescentReading(Document& document, QWidget* parent);
    // Seen where the value has lines of descent.
    void set(const ValuePointer& value, ItemId step);

private:
    void follow();

    Document& document_;
    QLabel* title_;
    QPlainTextEdit* lines_;
    ValuePointer value_;
    ItemId step_ = 0;
    std::optional<std::size_t> told_;  // the item that is told
};

}  // namespace plume::app
