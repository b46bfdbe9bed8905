#include "app/files/recovery_banner.hpp"

#include <QFileInfo>
#include <QLocale>

#include "app/files/study_files.hpp"
#include "core/exchange/study_file.hpp"

namespace plume::app {

RecoveryBanner::RecoveryBanner(Document& document, StudyFiles& files, QWidget* parent)
    : Banner(parent), document_(document), files_(files) {
    offer("recover", tr("&Recover them"), [this] { recover(); });
    offer("forget", tr("&Throw them away"), [this] { forget(); });
}

void RecoveryBanner::look() {
    lost_ = Recovery::lost_work();
    if (lost_.empty()) return hide();
    const LostWork& work = lost_.front();
    const QString what = work.original.isEmpty() ? tr("a study that was never saved")
                                                 : "‘" + QFileInfo(work.original).fileName() + "’";
    tell(tr("The last session ended before its changes to %1 were saved, on %2.")
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
    look();  // there may be more than one
}

}  // namespace plume::app
