#pragma once
// A sheet that hangs from handles in a window: scrubbed, and dragged by one of them.

#include <QTemporaryDir>

namespace bench {

struct MovingFigures {
    double turned_a_second = 0;    // the model turned: what the machine's graphics allow
    double scrubbed_a_second = 0;  // moments that are kept already, each seen
    double first_change_ms = 0;    // from the drag of a handle until the sheet is seen to follow; the median
};
// Of so many points a side; zeros where it is never shown.
MovingFigures moving_figures(int side, const QTemporaryDir& folder);

}  // namespace bench
