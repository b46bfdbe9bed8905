#pragma once
// The usual ways to look, to be chosen from in dialogues.

#include <QComboBox>

#include "core/data/camera.hpp"

namespace plume::app {

// Each with its StandardView as its number.
inline void add_standard_views(QComboBox& view) {
    const std::pair<QString, StandardView> views[] = {{QObject::tr("at an angle"), StandardView::above},
                                                      {QObject::tr("in plan"), StandardView::plan},
                                                      {QObject::tr("from the front"), StandardView::front},
                                                      {QObject::tr("from the side"), StandardView::side}};
    for (const auto& [words, standard] : views)
        view.addItem(words, static_cast<int>(standard));
}

}  // namespace plume::app
