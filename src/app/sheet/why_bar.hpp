#pragma once
// Above the sheet while parts are asked why they are as they are: which, and how it ends.

#include <QWidget>

#include "app/document/document.hpp"

class QLabel;

namespace plume::app {

class WhyBar : public QWidget {
    Q_OBJECT

public:
    WhyBar(Document& document, QWidget* parent);

private:
    void refresh();
    QString asked_text(std::size_t number) const;

    Document& document_;
    QLabel* text_;
};

}  // namespace plume::app
