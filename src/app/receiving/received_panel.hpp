#pragma once
// What arrived: what the files of a folder have brought and would bring, the model that takes them, its parts
// by storey, class and material, and what is known of the one in hand.

#include <QTimer>
#include <QWidget>

#include "app/receiving/receiver.hpp"
#include "core/receiving/model_groups.hpp"

class QComboBox;
class QLabel;
class QPushButton;
class QToolButton;
class QTreeWidget;

namespace plume::app {

class ReceivedTree;
class ReceivedView;
class ViewTools;

class ReceivedPanel : public QWidget {
    Q_OBJECT

public:
    explicit ReceivedPanel(QWidget* parent = nullptr);

    Receiver& receiver() { return receiver_; }
    // Looks at the files of the folder, which may not be there yet.
    void look_at(const std::filesystem::path& folder);
    // Why there is no folder to look at.
    void tell(const QString& why);

protected:
    void changeEvent(QEvent* event) override;

private:
    QWidget* new_head();
    QWidget* new_model();
    QWidget* new_below();
    void refresh();
    void refresh_head();
    void refresh_part();
    void show_selection();
    std::optional<Received::Part> part_in_hand() const;
    std::vector<GroupBy> grouping() const;
    void open_what_if();
    void choose_others();

    Receiver receiver_;
    Receiver::StatePointer shown_;
    QString instead_of_a_model_;
    QLabel *title_, *files_, *doubts_, *instead_, *hint_, *part_name_, *part_figures_;
    QPushButton *take_in_, *cancel_, *lock_, *remove_;
    QToolButton* what_if_;
    QComboBox* by_;
    QWidget* below_;
    ReceivedView* view_ = nullptr;  // nullptr when no model can be drawn
    ViewTools* tools_ = nullptr;
    ReceivedTree* tree_;
    QTreeWidget* properties_;
    QTimer progress_timer_;
};

}  // namespace plume::app
