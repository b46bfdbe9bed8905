#pragma once
// A study that was opened lately, on one line: a small picture, its name, when it was saved and where it
// lies. One that is gone says so, and can be forgotten.

#include <QWidget>

#include "app/files/recent_studies.hpp"

namespace plume::app {

class RecentRow : public QWidget {
    Q_OBJECT

public:
    RecentRow(const RecentStudy& study, const QDateTime& now, QWidget* parent);

Q_SIGNALS:
    void opened();
    void forgotten();
};

}  // namespace plume::app
