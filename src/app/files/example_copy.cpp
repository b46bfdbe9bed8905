#include "app/files/example_copy.hpp"

#include <QDir>
#include <QFile>
#include <QStandardPaths>

#include "app/document/document.hpp"
#include "core/exchange/study_file.hpp"
#include "core/reference/examples.hpp"

namespace plume::app {
namespace {

// The folder that files of examples lie below; those that are there already stay.
QString example_folder() {
    QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/examples";
    const QDir carried(":/examples/files");
    QDir().mkpath(folder + "/files");
    for (const QString& name : carried.entryList(QDir::Files)) {
        const QString path = folder + "/files/" + name;
        if (!QFile::exists(path) && QFile::copy(carried.filePath(name), path))
            QFile::setPermissions(path, QFile::ReadOwner | QFile::WriteOwner);
    }
    return folder;
}

}  // namespace

Result<StudyPointer> copy_of_example(const std::string& kind) {
    const Example* example = example_of(kind);
    if (!example)
        return Error{ErrorCode::file_missing, "The example of ‘" + kind + "’", "is not there",
                     "Choose another one."};
    Result<StudyPointer> study = study_from_text(example->text);
    if (!study) return study;
    if (linked_files(**study).empty()) return study;
    return with_links_from(**study, text_of(example_folder()), "");
}

}  // namespace plume::app
