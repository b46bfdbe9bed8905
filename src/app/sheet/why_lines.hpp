#pragma once
// Under a sentence: what the parts that are asked about were there; two of them side by side.

#include <QWidget>

#include "app/document/document.hpp"

class QHBoxLayout;
class QLabel;

namespace plume::app {

class WhyLines : public QWidget {
    Q_OBJECT

public:
    WhyLines(const Document& document, ItemId step, QWidget* parent);
    // Hides where nothing is told of this step.
    void refresh();

private:
    QString told(std::size_t number) const;

    const Document& document_;
    ItemId step_;
    std::vector<QLabel*> columns_;
    QHBoxLayout* row_;
};

}  // namespace plume::app
