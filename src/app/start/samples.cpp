#include "app/start/samples.hpp"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QObject>
#include <map>

#include "app/document/document.hpp"
#include "core/exchange/study_file.hpp"

namespace plume::app {
namespace {

QString first_sentence_of(const QString& text) {
    const qsizetype end = text.indexOf(". ");
    return end < 0 ? text : text.left(end + 1);
}

// By the names of their files, without ending. Files that hold no study are not listed.
std::map<QString, Sample> all_in(const QDir& folder) {
    std::map<QString, Sample> samples;
    for (const QFileInfo& file : folder.entryInfoList({"*.plume"}, QDir::Files, QDir::Name)) {
        const Result<StudyPointer> study = load_study(text_of(file.absoluteFilePath()));
        if (!study) continue;
        const QString name = file.completeBaseName();
        samples[name] = {file.absoluteFilePath(), text_of((*study)->title),
                         first_sentence_of(text_of((*study)->note)),
                         folder.filePath("covers/" + name + ".png")};
    }
    return samples;
}

QJsonObject read_index(const QDir& folder) {
    QFile file(folder.filePath("index.json"));
    if (!file.open(QIODevice::ReadOnly)) return {};
    return QJsonDocument::fromJson(file.readAll()).object();
}

}  // namespace

std::size_t Samples::count() const {
    std::size_t number = 0;
    for (const SampleGroup& group : groups)
        number += group.samples.size();
    return number;
}

QString samples_folder() {
    const QDir program(QCoreApplication::applicationDirPath());
    const QString installed = program.filePath("../share/plume-lattice/demo");
    if (QFile::exists(installed)) return QDir(installed).absolutePath();
    constexpr int highest = 5;
    QDir above = program;
    for (int level = 0; level < highest && above.cdUp(); ++level)
        if (above.exists("demo/index.json")) return above.filePath("demo");
    return {};
}

Samples read_samples(const QString& folder) {
    Samples samples;
    std::map<QString, Sample> left;
    if (!folder.isEmpty()) left = all_in(QDir(folder));
    if (left.empty()) {
        samples.problem =
            folder.isEmpty()
                ? QObject::tr("The samples are not installed. The examples of single steps are: F2.")
                : QObject::tr(
                      "There is no study in ‘%1’, where the samples should be. The "
                      "examples of single steps are at hand: F2.")
                      .arg(folder);
        return samples;
    }
    const QJsonObject index = read_index(QDir(folder));
    for (const QJsonValue name : index["first"].toArray())
        if (const auto found = left.find(name.toString()); found != left.end())
            samples.first.push_back(found->second);
    for (const QJsonValue entry : index["groups"].toArray()) {
        SampleGroup group{entry["title"].toString(), {}};
        for (const QJsonValue name : entry["studies"].toArray())
            if (auto found = left.extract(name.toString())) group.samples.push_back(found.mapped());
        if (!group.samples.empty()) samples.groups.push_back(std::move(group));
    }
    SampleGroup others{QObject::tr("Others"), {}};
    for (const auto& [name, sample] : left)
        others.samples.push_back(sample);
    if (!others.samples.empty()) samples.groups.push_back(std::move(others));
    constexpr std::size_t few = 5;
    if (samples.first.empty())
        for (const SampleGroup& group : samples.groups)
            for (const Sample& sample : group.samples)
                if (samples.first.size() < few) samples.first.push_back(sample);
    return samples;
}

}  // namespace plume::app
