#include "app/files/file_banner.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace plume::app {
namespace {

constexpr int interval_ms = 1200;

}  // namespace

FileBanner::FileBanner(Document& document, QWidget* parent) : QFrame(parent), document_(document) {
    setObjectName("banner");
    hide();
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 6, 12, 6);
    text_ = new QLabel;
    text_->setWordWrap(true);
    row->addWidget(text_, 1);
    auto* read = new QPushButton(tr("&Read again"));
    read->setObjectName("read-again");
    auto* keep = new QPushButton(tr("&Keep what was read"));
    keep->setObjectName("keep-read");
    row->addWidget(read);
    row->addWidget(keep);
    connect(read, &QPushButton::clicked, this, [this] {
        for (const std::string& name : changed_)
            document_.read_again(name);
        changed_.clear();
        hide();
    });
    connect(keep, &QPushButton::clicked, this, [this] {
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
    text_->setText(names.size() == 1
                       ? tr("%1 has changed on the disk since the study read it.").arg(names.front())
                       : tr("%1 have changed on the disk since the study read them.").arg(names.join(", ")));
    show();
}

}  // namespace plume::app
