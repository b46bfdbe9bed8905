#pragma once
// Offers work that an earlier session left unsaved.

#include "app/document/document.hpp"
#include "app/files/recovery.hpp"
#include "app/parts/banner.hpp"

namespace plume::app {

class StudyFiles;

class RecoveryBanner : public Banner {
    Q_OBJECT

public:
    RecoveryBanner(Document& document, StudyFiles& files, QWidget* parent);
    // Shows itself while there is such work.
    void look();

private:
    void recover();
    void forget();

    Document& document_;
    StudyFiles& files_;
    std::vector<LostWork> lost_;
};

}  // namespace plume::app
