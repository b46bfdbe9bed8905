#pragma once
// Names to tick out of what a file has, with what each is; none ticked means all. The study follows each
// tick.

#include "app/parts/popup.hpp"
#include "app/sheet/slot_parts.hpp"

class QLabel;
class QLineEdit;
class QTreeWidget;

namespace plume::app {

class PicksPopup : public Popup {
    Q_OBJECT

public:
    PicksPopup(const SlotAccess& access, QWidget* near);
    ~PicksPopup() override;

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    // What can be chosen is shown as soon as it is known, ticks as the study has them.
    void refresh();
    void take_over();
    void filter(const QString& wanted);
    std::vector<std::string> picked() const;

    SlotAccess access_;
    QLabel* about_;
    QLineEdit* filter_;
    QTreeWidget* list_;
};

void open_picks_popup(const SlotAccess& access, QWidget* near);

}  // namespace plume::app
