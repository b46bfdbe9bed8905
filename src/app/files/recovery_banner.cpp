#include "app/files/recovery_banner.hpp"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>

#include "app/files/study_files.hpp"
#include "core/exchange/study_file.hpp"

namespace plume::app {

RecoveryBanner::RecoveryBanner(Document& document, StudyFiles& files, QWidget* parent)
    : QFrame(parent), document_(document), files_(files) {
    setObjectName("banner");
    hide();
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 6, 12, 6);
    text_ = new QLabel;
    text_->setWordWrap(true);
    row->addWidget(text_, 1);
    const auto add = [&](const char* name, const QString& text, void (RecoveryBanner::*action)()) {
        auto* button = new QPushButton(text);
        button->setObjectName(name);
        connect(button, &QPushButton::clicked, this, action);
        row->addWidget(button);
    };
    add("recover", tr("&Recover them"), &RecoveryBanner::recover);
    add("forget", tr("&Throw them away"), &RecoveryBanner::forget);
}

void RecoveryBanner::offer() {
    lost_ = Recovery::lost_work();
    setVisible(!lost_.empty());
    if (lost_.empty()) return;
    const LostWork& work = lost_.front();
    const QString what = work.original.isEmpty() ? tr("a study that was never saved")
                                                 : "‘" + QFileInfo(work.original).fileName() + "’";
    text_->setText(tr("The last session ended before its changes to %1 were saved, on %2.")
                       .arg(what, QLocale().toString(work.time, QLocale::ShortFormat)));
}

void RecoveryBanner::recover() {
    if (!files_.may_leave()) return;
    const LostWork work = lost_.front();
    Result<StudyPointer> study = load_study(work.copy.toStdString());
    if (!study) return document_.show_message(text_of(sentence(study.error())));
    document_.replace(*study, work.original);
    document_.mark_unsaved();
    forget();
}

void RecoveryBanner::forget() {
    Recovery::forget(lost_.front());
    offer();  // there may be more than one
}

}  // namespace plume::app
