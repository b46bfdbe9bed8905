#pragma once
// A study of 500 steps in a real window.

class QTemporaryDir;

namespace bench {

struct LongStudyFigures {
    double opened_ms = 0;          // from its file to its sheet, painted
    double scrolled_a_second = 0;  // pictures of the sheet while it is scrolled from its top to its end
    double edited_ms = 0;          // a number changed at its top, to the sheet, painted
};
LongStudyFigures long_study_figures(const QTemporaryDir& folder);

}  // namespace bench
