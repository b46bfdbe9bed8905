#include "app/files/file_banner.hpp"

namespace plume::app {
namespace {

constexpr int interval_ms = 1200;

}  // namespace

FileBanner::FileBanner(Document& document, QWidget* parent) : Banner(parent), document_(document) {
    offer("read-again", tr("&Read again"), [this] {
        for (const std::string& name : changed_)
            document_.read_again(name);
        changed_.clear();
        hide();
    });
    offer("keep-read", tr("&Keep what was read"), [this] {
        ignored_ = changed_;
        hide();
    });
    timer_.setInterval(interval_ms);
    connect(&timer_, &QTimer::timeout, this, &FileBanner::look);
    connect(&document, &Document::replaced, this, [this] {
        ignored_.clear();
        hide();
    });
    timer_.start();
}

void FileBanner::look() {
    changed_ = document_.changed_files();
    if (changed_.empty() || changed_ == ignored_) {
        if (changed_.empty()) ignored_.clear();
        return hide();
    }
    QStringList names;
    for (const std::string& name : changed_)
        names << "‘" + text_of(name) + "’";
    tell(names.size() == 1
             ? tr("%1 has changed on the disk since the study read it.").arg(names.front())
             : tr("%1 have changed on the disk since the study read them.").arg(names.join(", ")));
}

}  // namespace plume::app
