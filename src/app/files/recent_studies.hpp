#pragma once
// Studies that were opened or saved lately, with a picture of each as it was last seen.

#include <QDateTime>
#include <QImage>
#include <QString>
#include <vector>

namespace plume::app {

struct RecentStudy {
    QString path;
    QString title() const;   // of its file
    QString folder() const;  // the last two of its folders
    bool is_there = false;
    QDateTime changed;  // the file
};

// The last one first; at most so many, however many a file of settings holds.
std::vector<RecentStudy> recent_studies();
void remember_study(const QString& path);
void forget_study(const QString& path);

// As it was last seen; null where it was not.
QImage picture_of_study(const QString& path);
void keep_picture_of_study(const QString& path, const QImage& seen);

// "today 18:40", "Tuesday", "3 March".
QString when_text(const QDateTime& when, const QDateTime& now);

}  // namespace plume::app
