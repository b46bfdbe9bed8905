#pragma once
// The step finder's list and detail, over the page and what is beside it. It takes no focus: the line that is
// typed into keeps it, and hands keys over.

#include <QFrame>
#include <QPointer>

#include "app/finder/finder_detail.hpp"
#include "app/finder/finder_list.hpp"

namespace plume::app {

class FinderPanel : public QFrame {
    Q_OBJECT

public:
    // Stands below `line`, or above it where there is more room.
    FinderPanel(QWidget* line, Document& document, const QString& list_name);
    ~FinderPanel() override;

    void open(FinderPlace where, const QString& typed);
    bool is_open() const { return isVisible(); }
    // Up, Down, Page Up, Page Down; whether it was one of them.
    bool take_key(int key);
    // Adds what is chosen; the id of what is then to be selected, 0 where nothing could be added.
    ItemId take();
    // The key of the kind that is chosen; empty where it is no step.
    std::string chosen_kind() const;

Q_SIGNALS:
    void taken();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void place();
    void show_chosen();
    void describe_line();
    Result<Added> added(const FinderRow& row) const;

    QPointer<QWidget> line_;
    Document& document_;
    FinderPlace where_;
    QString typed_;
    OwnSteps own_;  // as they were when the list was opened
    FinderList* list_;
    FinderDetail* detail_;
};

}  // namespace plume::app
