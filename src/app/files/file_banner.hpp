#pragma once
// Tells when a linked file is no longer as the study read it, and offers to read it again.

#include <QFrame>
#include <QTimer>

#include "app/document/document.hpp"

class QLabel;

namespace plume::app {

class FileBanner : public QFrame {
    Q_OBJECT

public:
    FileBanner(Document& document, QWidget* parent);

private:
    void look();

    Document& document_;
    QTimer timer_;
    QLabel* text_;
    std::vector<std::string> changed_, ignored_;
};

}  // namespace plume::app
