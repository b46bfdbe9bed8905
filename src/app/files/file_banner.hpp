#pragma once
// Tells when a linked file is no longer as the study read it, and offers to read it again.

#include <QTimer>

#include "app/document/document.hpp"
#include "app/parts/banner.hpp"

namespace plume::app {

class FileBanner : public Banner {
    Q_OBJECT

public:
    FileBanner(Document& document, QWidget* parent);

private:
    void look();

    Document& document_;
    QTimer timer_;
    std::vector<std::string> changed_, ignored_;
};

}  // namespace plume::app
