#pragma once
// What is actually in the step in hand: kind, arrangement, counts, bounds, ranges; how its numbers are
// spread; a table.

#include <QWidget>

#include "app/document/document.hpp"

class QLabel;

namespace plume::app {

class CurveGraph;
class DescentReading;
class FamilyGraph;
class ReadingTable;
class SteadyPlace;
class TermGraph;

class ReadingsPanel : public QWidget {
    Q_OBJECT

public:
    ReadingsPanel(Document& document, QWidget* parent);

protected:
    void changeEvent(QEvent* event) override;

private:
    ItemId step_in_hand() const;
    void refresh();
    struct Told {
        QString range, details;
    };
    Told told_of(const Step& step, const Shown& shown) const;
    void refresh_spread(const Shown& shown);

    Document& document_;
    QLabel *title_, *range_, *details_, *spread_title_;
    class Histogram* histogram_;
    QWidget* spread_;
    SteadyPlace* told_;
    TermGraph* graph_;
    CurveGraph* curves_;
    FamilyGraph* families_;
    DescentReading* descent_;
    ReadingTable* table_;
    ItemId step_ = 0;
};

}  // namespace plume::app
