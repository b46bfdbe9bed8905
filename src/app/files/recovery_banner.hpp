#pragma once
// Offers work that an earlier session left unsaved.

#include <QFrame>

#include "app/document/document.hpp"
#include "app/files/recovery.hpp"

class QLabel;
class QPushButton;

namespace plume::app {

class StudyFiles;

class RecoveryBanner : public QFrame {
    Q_OBJECT

public:
    RecoveryBanner(Document& document, StudyFiles& files, QWidget* parent);
    // Shows itself while there is such work.
    void offer();

private:
    void recover();
    void forget();

    Document& document_;
    StudyFiles& files_;
    QLabel* text_;
    std::vector<LostWork> lost_;
};

}  // namespace plume::app
