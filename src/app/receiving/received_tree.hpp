#pragma once
// A received model's parts by storey, class and material, with what they come to.

#include <QTreeWidget>

#include "app/receiving/receiver.hpp"
#include "core/receiving/model_groups.hpp"

namespace plume::app {

class ReceivedTree : public QTreeWidget {
    Q_OBJECT

public:
    explicit ReceivedTree(QWidget* parent = nullptr);

    // What was open stays open, and what is in hand stays so where it is still there.
    void show_state(const Receiver::StatePointer& state, const std::vector<GroupBy>& by);
    // Places in the model's parts: of the row in hand, or of all below it.
    std::vector<std::size_t> parts_in_hand() const;
    void take_in_hand(std::size_t part);

private:
    void add_group(const ModelGroup& group, QTreeWidgetItem* above, const QString& path);
    void add_parts(const ModelGroup& group, QTreeWidgetItem* above, const QString& path);
    QString state_text(const Received::Part& part) const;

    Receiver::StatePointer state_;  // parts are in it
    std::vector<Received::Part> parts_;
    std::map<std::string, Arriving> arriving_;  // by identity
};

}  // namespace plume::app
