#pragma once
// The line under a sentence: the result's name, what it is, its range with a tiny histogram and the time it
// took; or the error in a sentence with its mend.

#include <QWidget>

#include "app/document/document.hpp"

class QLabel;

namespace plume::app {

// What a step came to, in a line: "mesh of 384 faces, 0.1 m … 3.2 m".
QString told_in_a_line(const Shown& shown, const Units& units);

class ResultLine : public QWidget {
    Q_OBJECT

public:
    ResultLine(Document& document, ItemId step, QWidget* parent);
    void refresh();
    void rename();

Q_SIGNALS:
    void mend_wanted();

private:
    QString hand_off_text(const HandOffEntry& entry) const;

    Document& document_;
    ItemId step_;
    QLabel* name_;
    QLabel* text_;
    class Spark* spark_;
    QLabel* remarks_;
    QLabel* error_;
};

}  // namespace plume::app
