#pragma once
// Above a formula: the coordinates it is written in, the angle unit, its versions, the direction its graphs
// run along.

#include <QWidget>

#include "app/document/document.hpp"

class QLabel;
class QToolButton;

namespace plume::app {

class CoordinateDrawing;

class FormulaHeader : public QWidget {
    Q_OBJECT

public:
    FormulaHeader(Document& document, ItemId step, QWidget* parent);
    void refresh();

Q_SIGNALS:
    void help_wanted();

private:
    void choose_direction();

    Document& document_;
    ItemId step_;
    CoordinateDrawing* drawing_;
    QLabel *system_, *units_;
    QToolButton *versions_, *help_, *along_;
};

}  // namespace plume::app
