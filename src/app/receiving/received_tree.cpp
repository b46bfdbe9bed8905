#include "app/receiving/received_tree.hpp"

#include <QHeaderView>
#include <QSignalBlocker>
#include <set>

#include "app/document/document.hpp"
#include "app/receiving/received_view.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

enum Column { name, count, area, volume, becomes, column_count };
constexpr int part_role = Qt::UserRole, path_role = Qt::UserRole + 1;
constexpr int most_open = 60;  // rows of groups that are opened by themselves

void align_numbers(QTreeWidgetItem& row) {
    for (const int column : {count, area, volume})
        row.setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
}

template <class Each>
void for_each_row(QTreeWidgetItem* row, const Each& each) {
    for (int at = 0; at < row->childCount(); ++at) {
        each(row->child(at));
        for_each_row(row->child(at), each);
    }
}

}  // namespace

ReceivedTree::ReceivedTree(QWidget* parent) : QTreeWidget(parent) {
    setObjectName("received-parts");
    setAccessibleName(tr("Parts that arrived"));
    setColumnCount(column_count);
    setHeaderLabels({tr("part"), tr("parts"), tr("area"), tr("volume"), tr("state")});
    for (const int column : {count, area, volume})
        headerItem()->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    header()->setStretchLastSection(false);
    header()->setSectionResizeMode(QHeaderView::ResizeToContents);
    header()->setSectionResizeMode(name, QHeaderView::Stretch);
    header()->setMinimumSectionSize(50);
    setUniformRowHeights(true);
    setIndentation(16);
    setSelectionMode(QAbstractItemView::SingleSelection);
}

void ReceivedTree::show_state(const Receiver::StatePointer& now, const std::vector<GroupBy>& by) {
    std::set<QString> folded;
    QString in_hand = currentItem() ? currentItem()->data(name, path_role).toString() : QString();
    for_each_row(invisibleRootItem(), [&](const QTreeWidgetItem* row) {
        if (row->childCount() > 0 && !row->isExpanded()) folded.insert(row->data(name, path_role).toString());
    });
    const bool first = topLevelItemCount() == 0;
    {
        const QSignalBlocker quiet(this);
        clear();
        state_ = now;
        parts_ = now ? now->here.parts() : std::vector<Received::Part>();
        arriving_.clear();
        if (now)
            for (const ArrivedFile& file : now->arrival.files)
                for (const ArrivingPart& part : file.parts)
                    arriving_.emplace(part.identity, part.state);
        if (!parts_.empty()) add_group(grouped(parts_, by), invisibleRootItem(), {});
        int groups = 0;
        for_each_row(invisibleRootItem(), [&](QTreeWidgetItem* row) {
            if (row->childCount() == 0) return;
            // At first groups are open and what is in them is not, so that sums are seen.
            const bool innermost = row->child(0)->childCount() == 0;
            const bool open = first ? !innermost && ++groups < most_open
                                    : !folded.contains(row->data(name, path_role).toString());
            row->setExpanded(open);
        });
        for_each_row(invisibleRootItem(), [&](QTreeWidgetItem* row) {
            if (!in_hand.isEmpty() && row->data(name, path_role).toString() == in_hand) setCurrentItem(row);
        });
    }
    Q_EMIT currentItemChanged(currentItem(), nullptr);
}

void ReceivedTree::add_group(const ModelGroup& group, QTreeWidgetItem* above, const QString& path) {
    for (const ModelGroup& inner : group.groups) {
        auto* row = new QTreeWidgetItem(above);
        const QString own_path = path + '/' + text_of(inner.name);
        row->setText(name, text_of(inner.name));
        row->setText(count, QString::number(inner.parts));
        row->setText(area, text_of(figure_text(inner.area_m2, {2, 0})));
        row->setText(volume, text_of(figure_text(inner.volume_m3, {3, 0})));
        row->setData(name, path_role, own_path);
        row->setToolTip(name, text_of(inner.name));
        align_numbers(*row);
        QFont font = row->font(name);
        font.setWeight(QFont::DemiBold);
        row->setFont(name, font);
        add_group(inner, row, own_path);
        add_parts(inner, row, own_path);
    }
}

void ReceivedTree::add_parts(const ModelGroup& group, QTreeWidgetItem* above, const QString& path) {
    for (const std::size_t at : group.members) {
        const Received::Part& part = parts_[at];
        auto* row = new QTreeWidgetItem(above);
        row->setText(name, text_of(part.taken->element.name));
        row->setToolTip(name, text_of(part.taken->element.name));
        row->setText(area, text_of(figure_text(part.area_m2(), {2, 0})));
        row->setText(volume, text_of(figure_text(part.volume_m3(), {3, 0})));
        row->setText(becomes, state_text(part));
        row->setData(name, part_role, static_cast<qulonglong>(at));
        row->setData(name, path_role, path + '/' + text_of(part.placed->identity));
        row->setForeground(becomes, look().attention);
        align_numbers(*row);
    }
}

QString ReceivedTree::state_text(const Received::Part& part) const {
    QStringList texts;
    if (part.placed->source.empty()) texts << text_of(origin_text(*part.placed));
    if (part.placed->locked) texts << tr("locked");
    const auto found = arriving_.find(part.placed->identity);
    if (found != arriving_.end()) {
        if (found->second == Arriving::changed) texts << tr("changed in its file");
        if (found->second == Arriving::gone) texts << tr("gone from its file");
        if (found->second == Arriving::locked) texts << tr("its file has it otherwise");
    }
    return texts.join(", ");
}

std::vector<std::size_t> ReceivedTree::parts_in_hand() const {
    std::vector<std::size_t> parts;
    const auto add = [&](const QTreeWidgetItem* row) {
        const QVariant part = row->data(name, part_role);
        if (part.isValid()) parts.push_back(part.toULongLong());
    };
    if (QTreeWidgetItem* row = currentItem()) {
        add(row);
        for_each_row(row, add);
    }
    return parts;
}

void ReceivedTree::take_in_hand(std::size_t part) {
    for_each_row(invisibleRootItem(), [&](QTreeWidgetItem* row) {
        const QVariant own = row->data(name, part_role);
        if (!own.isValid() || own.toULongLong() != part) return;
        setCurrentItem(row);
        scrollToItem(row);
    });
}

}  // namespace plume::app
