#include "app/window/history_pictures.hpp"

#include <algorithm>

#include "app/parts/fitted_image.hpp"

namespace plume::app {
namespace {

// A picture takes a few frames' time, which nobody misses at rest.
constexpr int rest_ms = 500;
constexpr std::size_t most = 200;  // some 50 kB each

}  // namespace

HistoryPictures::HistoryPictures(Document& document, std::function<QImage()> seen, QObject* parent)
    : QObject(parent), document_(document), seen_(std::move(seen)) {
    rest_.setSingleShot(true);
    rest_.setInterval(rest_ms);
    connect(&rest_, &QTimer::timeout, this, &HistoryPictures::take);
    connect(&document.results(), &Results::evaluation_changed, &rest_, qOverload<>(&QTimer::start));
    connect(&document, &Document::replaced, this, [this] { pictures_.clear(); });
}

void HistoryPictures::take() {
    const Results& results = document_.results();
    if (results.behind() || results.progress().busy || document_.study().items.empty()) return;
    const StudyPointer& now = document_.snapshot();
    if (std::ranges::find(pictures_, now, &Picture::of) != pictures_.end()) return;
    const QImage seen = seen_();
    if (seen.isNull()) return;
    if (pictures_.size() == most) pictures_.pop_front();
    pictures_.push_back({now, filling(seen, size * 2)});
}

QImage HistoryPictures::of(const StudyPointer& study) const {
    const auto found = std::ranges::find(pictures_, study, &Picture::of);
    return found == pictures_.end() ? QImage() : found->image;
}

}  // namespace plume::app
