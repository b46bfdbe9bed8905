#include "app/files/recent_studies.hpp"

#include <QCryptographicHash>
#include <QDir>
#include <QFileInfo>
#include <QLocale>
#include <QObject>
#include <QSettings>
#include <QStandardPaths>

#include "app/parts/fitted_image.hpp"

namespace plume::app {
namespace {

constexpr const char* setting = "recent";
constexpr qsizetype most = 12;
constexpr QSize picture_size(300, 200);

QString picture_path(const QString& path) {
    const QByteArray name = QCryptographicHash::hash(path.toUtf8(), QCryptographicHash::Sha1).toHex();
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/pictures/" +
           QString::fromLatin1(name) + ".png";
}

QStringList kept_paths() {
    QStringList paths = QSettings().value(setting).toStringList().mid(0, most);
    paths.removeAll(QString());
    return paths;
}

}  // namespace

QString RecentStudy::title() const {
    return QFileInfo(path).completeBaseName();
}

QString RecentStudy::folder() const {
    const QStringList folders = QFileInfo(path).absolutePath().split('/', Qt::SkipEmptyParts);
    return folders.mid(qMax(qsizetype{0}, folders.size() - 2)).join('/');
}

std::vector<RecentStudy> recent_studies() {
    std::vector<RecentStudy> studies;
    for (const QString& path : kept_paths()) {
        const QFileInfo file(path);
        studies.push_back({path, file.isFile(), file.lastModified()});
    }
    return studies;
}

void remember_study(const QString& path) {
    QStringList paths = kept_paths();
    paths.removeAll(path);
    paths.prepend(path);
    for (const QString& last : paths.mid(most))
        QFile::remove(picture_path(last));
    QSettings().setValue(setting, paths.mid(0, most));
}

void forget_study(const QString& path) {
    QStringList paths = kept_paths();
    paths.removeAll(path);
    QFile::remove(picture_path(path));
    QSettings().setValue(setting, paths);
}

QImage picture_of_study(const QString& path) {
    return QImage(picture_path(path));
}

void keep_picture_of_study(const QString& path, const QImage& seen) {
    if (path.isEmpty() || seen.isNull()) return;
    const QString file = picture_path(path);
    QDir().mkpath(QFileInfo(file).absolutePath());
    // Packed less hard it is there in half the time, and hardly larger.
    constexpr int quickly = 70;
    filling(seen, picture_size).save(file, "PNG", quickly);
}

QString when_text(const QDateTime& when, const QDateTime& now) {
    const QLocale english(QLocale::English);
    const qint64 days = when.date().daysTo(now.date());
    if (days == 0) return QObject::tr("today %1").arg(english.toString(when.time(), "HH:mm"));
    if (days == 1) return QObject::tr("yesterday %1").arg(english.toString(when.time(), "HH:mm"));
    if (days > 0 && days < 7) return english.toString(when.date(), "dddd");
    return english.toString(when.date(), when.date().year() == now.date().year() ? "d MMMM" : "d MMMM yyyy");
}

}  // namespace plume::app
