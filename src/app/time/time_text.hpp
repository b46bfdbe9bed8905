#pragma once
// Moments as the strip of time tells them.

#include <QString>

namespace plume::app {

inline QString seconds_text(double seconds) {
    return QString::number(seconds, 'f', 2) + " s";
}

}  // namespace plume::app
