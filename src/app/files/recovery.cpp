#include "app/files/recovery.hpp"

#include <signal.h>
#include <unistd.h>

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QStandardPaths>

#include "core/base/file.hpp"
#include "core/exchange/study_file.hpp"

namespace plume::app {
namespace {

QDir folder() {
    const QDir place(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovery");
    place.mkpath(".");
    return place;
}

QString own_copy() {
    return folder().filePath(QString("%1.plume").arg(getpid()));
}

QString note_of(const QString& copy) {
    return copy + ".origin";
}

bool alive(qlonglong process) {
    return process > 0 && (::kill(static_cast<pid_t>(process), 0) == 0 || errno == EPERM);
}

}  // namespace

Recovery::Recovery(Document& document, QObject* parent) : QObject(parent), document_(document) {
    timer_.setSingleShot(true);
    timer_.setInterval(delay_ms);
    connect(&timer_, &QTimer::timeout, this, &Recovery::write);
    connect(&document, &Document::saved_changed, this, [this] {
        if (document_.saved()) {
            timer_.stop();
            remove_own();
        } else if (!timer_.isActive()) {
            timer_.start();
        }
    });
}

Recovery::~Recovery() {
    remove_own();
}

void Recovery::write() {
    const Status copied = save_study(document_.study(), own_copy().toStdString());
    const Status noted = write_file(note_of(own_copy()).toStdString(), document_.path().toStdString());
    if (!copied || !noted)
        document_.show_message(tr("No recovery copy could be written. %1")
                                   .arg(text_of(sentence((copied ? noted : copied).error()))));
}

void Recovery::remove_own() {
    QFile::remove(own_copy());
    QFile::remove(note_of(own_copy()));
}

std::vector<LostWork> Recovery::lost_work() {
    std::vector<LostWork> found;
    const auto files = folder().entryInfoList({"*.plume"}, QDir::Files, QDir::Time);
    for (const QFileInfo& file : files) {
        if (alive(file.completeBaseName().toLongLong())) continue;
        QFile note(note_of(file.filePath()));
        const QString original =
            note.open(QIODevice::ReadOnly) ? QString::fromUtf8(note.readAll()) : QString();
        found.push_back({file.filePath(), original, file.lastModified()});
    }
    return found;
}

void Recovery::forget(const LostWork& work) {
    QFile::remove(work.copy);
    QFile::remove(note_of(work.copy));
}

}  // namespace plume::app
