#include "app/formula/version_menu.hpp"

#include <QLineEdit>
#include <QMenu>

#include "app/formula/term_column.hpp"
#include "app/parts/form_popup.hpp"
#include "app/theme/popup_menu.hpp"

namespace plume::app {
namespace {

using VersionEdit = Edited (*)(const Study&, const StepKind&, ItemId, const std::string&);

QString apply_version(Document& document, ItemId step, VersionEdit edit, const std::string& name,
                      const QString& label) {
    const Step* current = document.study().step(step);
    if (!current) return {};
    const Edited edited = edit(document.study(), *document.kind_of(*current), step, name);
    if (!edited) return text_of(sentence(edited.error()));
    document.apply(edited, label);
    return {};
}

void ask_for_name(Document& document, ItemId step, QWidget* near) {
    auto* form = new FormPopup(near, QObject::tr("Keep this version"));
    const auto number = document.formula(step).versions.size() + 1;
    QLineEdit* name = form->add_line(QObject::tr("Name"), QObject::tr("version %1").arg(number));
    form->open(QObject::tr("Keep"), [&document, step, name]() -> QString {
        return apply_version(document, step, keep_version, text_of(name->text().trimmed()),
                             QObject::tr("keeping of a version"));
    });
}

}  // namespace

QString version_at_hand(const Document& document, ItemId step) {
    const FormulaText formula = document.formula(step);
    for (const FormulaVersion& version : formula.versions)
        if (version.text == formula.text) return text_of(version.name);
    return {};
}

void open_version_menu(Document& document, ItemId step, QWidget* below) {
    QMenu& menu = *new_popup_menu(below);
    const FormulaText formula = document.formula(step);
    menu.addAction(QObject::tr("&Keep this version…"), below,
                   [&document, step, below] { ask_for_name(document, step, below); });
    if (!formula.versions.empty()) menu.addSeparator();
    for (const FormulaVersion& version : formula.versions) {
        const std::string name = version.name;
        const bool at_hand = version.text == formula.text;
        QMenu* each = menu.addMenu(text_of(name) + (at_hand ? QObject::tr(" (at hand)") : QString()));
        each->addAction(QObject::tr("&Switch to it"), below,
                        [&document, step, name] {
                            apply_version(document, step, take_version, name,
                                          QObject::tr("switch to ‘%1’").arg(text_of(name)));
                        })
            ->setEnabled(!at_hand);
        const GhostWish ghost{step, name};
        const bool shown = document.attention().ghost_wish() == ghost;
        each->addAction(
                shown ? QObject::tr("Take its &ghost away") : QObject::tr("Lay its &ghost over the model"),
                below,
                [&document, ghost, shown] { document.attention().set_ghost(shown ? GhostWish{} : ghost); })
            ->setEnabled(shown || !at_hand);
        each->addAction(QObject::tr("&Remove it"), below, [&document, step, name, ghost] {
            if (document.attention().ghost_wish() == ghost) document.attention().set_ghost({});
            apply_version(document, step, remove_version, name,
                          QObject::tr("removal of ‘%1’").arg(text_of(name)));
        });
    }
    menu.popup(below->mapToGlobal(QPoint(0, below->height())));
}

QString ghost_text(const Document& document, ItemId step) {
    const Ghost& ghost = document.results().ghost();
    if (ghost.wish.step != step || ghost.wish != document.attention().ghost_wish()) return {};
    const QString name = QObject::tr("Ghost ‘%1’").arg(text_of(ghost.wish.version));
    if (ghost.error) return name + ": " + text_of(sentence(*ghost.error));
    if (!ghost.difference)
        return QObject::tr("%1: it has other counts, so no distance can be told").arg(name);
    const Difference& apart = *ghost.difference;
    const Units& units = document.study().units;
    QString text = QObject::tr("%1: at most %2 apart, %3 on average")
                       .arg(name, value_text(apart.largest, apart.dimension, units),
                            value_text(apart.mean, apart.dimension, units));
    if (apart.only_one > 0) text += QObject::tr(", %1 points in one only").arg(apart.only_one);
    return text;
}

}  // namespace plume::app
