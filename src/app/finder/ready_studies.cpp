#include "app/finder/ready_studies.hpp"

#include <QDir>
#include <QFile>

#include "app/document/document.hpp"
#include "core/exchange/study_file.hpp"

namespace plume::app {
namespace {

std::vector<ReadyStudy> read_all() {
    std::vector<ReadyStudy> studies;
    const QDir folder(":/beginnings");
    for (const QString& name : folder.entryList({"*.plume"}, QDir::Files, QDir::Name)) {
        QFile file(folder.filePath(name));
        if (!file.open(QIODevice::ReadOnly)) continue;
        if (const auto study = study_from_text(file.readAll().toStdString()))
            studies.push_back({*study, QIcon(folder.filePath(name.chopped(6) + ".png"))});
    }
    return studies;
}

}  // namespace

const std::vector<ReadyStudy>& ready_studies() {
    static const std::vector<ReadyStudy> studies = read_all();
    return studies;
}

}  // namespace plume::app
