#pragma once
// Results to tick that are handed off together, each with a word for what it is given as; or all that are
// seen, or all below a heading. The study follows each tick.

#include "app/parts/popup.hpp"
#include "app/sheet/slot_parts.hpp"

class QComboBox;
class QLabel;
class QTreeWidget;

namespace plume::app {

class ResultsPopup : public Popup {
    Q_OBJECT

public:
    ResultsPopup(const SlotAccess& access, QWidget* near);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    ResultList list() const { return std::get<ResultList>(access_.value()); }
    void refresh();
    void refresh_ways();
    void refresh_rows();
    void choose_way(int index);
    void take_over();
    void give_as(const std::string& name, const std::string& word);
    QComboBox* word_box(const std::string& name);

    SlotAccess access_;
    QComboBox* way_;
    QTreeWidget* rows_;
    QLabel* about_;
};

void open_results_popup(const SlotAccess& access, QWidget* near);

}  // namespace plume::app
