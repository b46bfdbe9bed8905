#include "app/start/recent_row.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include "app/parts/fitted_image.hpp"

namespace plume::app {
namespace {

constexpr QSize picture_size(48, 32);

}  // namespace

RecentRow::RecentRow(const RecentStudy& study, const QDateTime& now, QWidget* parent) : QWidget(parent) {
    setObjectName("recent-row");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 2, 0, 2);
    row->setSpacing(12);
    auto* picture = new QLabel;
    picture->setFixedSize(picture_size);
    if (const QImage seen = picture_of_study(study.path); !seen.isNull())
        picture->setPixmap(sharp(seen, picture_size, devicePixelRatioF()));
    row->addWidget(picture);
    auto* name = new QPushButton(study.title());
    name->setObjectName("recent-study");
    name->setFlat(true);
    name->setCursor(Qt::PointingHandCursor);
    name->setToolTip(study.path);
    name->setEnabled(study.is_there);
    row->addWidget(name);
    auto* where = new QLabel(study.is_there ? when_text(study.changed, now) + " · " + study.folder()
                                            : tr("gone from %1").arg(study.folder()));
    where->setProperty("second", true);
    row->addWidget(where);
    if (!study.is_there) {
        auto* forget = new QPushButton(tr("Forget it"));
        forget->setObjectName("forget-study");
        forget->setFlat(true);
        forget->setCursor(Qt::PointingHandCursor);
        forget->setAccessibleName(tr("Forget %1").arg(study.title()));
        row->addWidget(forget);
        connect(forget, &QPushButton::clicked, this, &RecentRow::forgotten);
    }
    row->addStretch(1);
    connect(name, &QPushButton::clicked, this, &RecentRow::opened);
}

}  // namespace plume::app
