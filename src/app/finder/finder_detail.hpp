#pragma once
// Beside the list of the finder: the row that is chosen, with its picture, its sentence filled in, what it
// does, why it has to be more than one step, and the words it is also found by.

#include <QWidget>

#include "app/finder/finder_rows.hpp"

class QLabel;

namespace plume::app {

class FinderDetail : public QWidget {
    Q_OBJECT

public:
    explicit FinderDetail(QWidget* parent);
    // The study with the row's step in it, and that step; nothing: what can be told of no row.
    struct Preview {
        StudyPointer study;
        ItemId step = 0;
    };
    void show_row(const FinderRow* row, const Catalogue& catalogue, const Preview& preview);
    // All it says, as it is heard.
    QString told() const;

private:
    void show_step(const StepOffer& offer, const Catalogue& catalogue, const Preview& preview);
    void set_picture(const QImage& picture);

    QLabel *picture_, *sentence_, *help_, *first_, *keys_;
};

}  // namespace plume::app
