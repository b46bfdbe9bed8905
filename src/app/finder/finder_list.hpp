#pragma once
// The rows of the step finder: verbs at the left, at the right what comes of each, captions between groups.

#include <QListWidget>

#include "app/finder/finder_rows.hpp"

namespace plume::app {

class FinderList : public QListWidget {
    Q_OBJECT

public:
    explicit FinderList(QWidget* parent);
    void set_rows(std::vector<FinderRow> rows);
    // The row that is chosen; nullptr where none can be.
    const FinderRow* chosen() const;
    const FinderRow& at(int row) const { return rows_[static_cast<std::size_t>(row)]; }
    // To the next that can be taken, or the one before; by a page with `far`.
    void step(int direction, bool far);
    // As high as all rows are, at most so high.
    int height_up_to(int most) const;

private:
    bool can_be_chosen(int row) const;

    std::vector<FinderRow> rows_;
};

}  // namespace plume::app
