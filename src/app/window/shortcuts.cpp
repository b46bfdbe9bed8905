#include "app/window/shortcuts.hpp"

#include <QDialog>
#include <QGridLayout>
#include <QLabel>
#include <QMenu>
#include <QMenuBar>
#include <QPushButton>

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

struct Group {
    QString title;
    std::vector<std::pair<QString, QString>> keys;  // keys, what they do
};

Group group_of(const QMenu& menu) {
    Group group{menu.title().remove('&'), {}};
    for (const QAction* action : menu.actions())
        if (!action->shortcut().isEmpty())
            group.keys.emplace_back(action->shortcut().toString(QKeySequence::NativeText),
                                    action->text().remove('&').remove(QChar(0x2026)));
    return group;
}

std::vector<Group> further_groups() {
    const auto tr = [](const char* text) { return QObject::tr(text); };
    return {{tr("On a step"),
             {{tr("Up, Down"), tr("go to the next step")},
              {tr("Return"), tr("go into the sentence")},
              {tr("Space"), tr("show or hide its result")},
              {tr("L"), tr("number its points, or no longer")},
              {"M", tr("mute")},
              {"F2", tr("its page in the reference")},
              {"Shift+F2", tr("rename")},
              {tr("Insert"), tr("insert a step below")},
              {tr("Alt+Up, Alt+Down"), tr("move it")},
              {tr("Shift+Up, Shift+Down"), tr("select several")},
              {tr("Delete"), tr("remove it")},
              {tr("Menu"), tr("everything else")}}},
            {tr("On a number"),
             {{tr("drag sideways"), tr("change it")},
              {tr("Shift, Ctrl"), tr("finer, coarser")},
              {tr("Up, Down"), tr("one step")},
              {tr("Return or typing"), tr("value, unit or expression")},
              {tr("Menu"), tr("make it a control")}}},
            {tr("In a formula"),
             {{tr("drag a number"), tr("change it")},
              {tr("Alt+Up, Alt+Down"), tr("step the number at the cursor")},
              {tr("Ctrl+Space"), tr("names that fit")},
              {tr("Ctrl+M"), tr("mute the line")},
              {tr("Escape"), tr("back to the step")},
              {tr("Menu"), tr("make a number a control")}}},
            {tr("In a script"),
             {{tr("Ctrl+Return"), tr("run it now; else at a pause")},
              {tr("Ctrl+Space"), tr("names that fit")},
              {tr("Tab, Shift+Tab"), tr("set lines in, out")},
              {tr("Ctrl+M"), tr("mute the lines")},
              {tr("Escape"), tr("back to the step")}}},
            {tr("On the model"),
             {{tr("drag"), tr("turn")},
              {tr("Shift or right drag"), tr("move")},
              {tr("wheel, +, -"), tr("zoom")},
              {tr("arrows"), tr("turn, with Shift move")},
              {"F", tr("fit everything into view")},
              {tr("drag an attractor"), tr("move it")}}}};
}

QWidget* block_of(const Group& group) {
    auto* block = new QWidget;
    auto* grid = new QGridLayout(block);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(16);
    grid->setVerticalSpacing(5);
    auto* title = new QLabel(group.title);
    title->setFont(text_font(13, QFont::DemiBold));
    grid->addWidget(title, 0, 0, 1, 2);
    int row = 1;
    for (const auto& [keys, what] : group.keys) {
        auto* key = new QLabel(keys);
        key->setFont(text_font(12, QFont::Medium));
        auto* does = new QLabel(what);
        does->setProperty("second", true);
        grid->addWidget(key, row, 0);
        grid->addWidget(does, row++, 1);
    }
    grid->setRowStretch(row, 1);
    grid->setColumnStretch(1, 1);
    return block;
}

}  // namespace

void open_shortcut_overview(QMenuBar& menus, QWidget* parent) {
    QDialog dialog(parent);
    dialog.setWindowTitle(QObject::tr("Shortcuts"));
    auto* grid = new QGridLayout(&dialog);
    grid->setContentsMargins(24, 20, 24, 20);
    grid->setHorizontalSpacing(36);
    grid->setVerticalSpacing(18);
    std::vector<Group> groups;
    for (const QAction* action : menus.actions())
        if (action->menu()) groups.push_back(group_of(*action->menu()));
    groups.pop_back();  // Help itself
    for (Group& group : further_groups())
        groups.push_back(std::move(group));
    for (std::size_t index = 0; index < groups.size(); ++index)
        grid->addWidget(block_of(groups[index]), static_cast<int>(index / 3), static_cast<int>(index % 3),
                        Qt::AlignTop);
    auto* close = new QPushButton(QObject::tr("Close"));
    close->setDefault(true);
    QObject::connect(close, &QPushButton::clicked, &dialog, &QDialog::accept);
    grid->addWidget(close, static_cast<int>(groups.size() + 2) / 3, 2, Qt::AlignRight);
    dialog.exec();
}

}  // namespace plume::app
