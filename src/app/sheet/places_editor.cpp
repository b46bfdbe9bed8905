#include "app/sheet/places_editor.hpp"

#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>

#include "app/parts/form_popup.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

// Rows of name, x, y, z, weight; expressions are allowed everywhere but in the name.
class PlacesTable : public QWidget {
public:
    PlacesTable(const Document& document, const Places& places, const SlotSpec& slot)
        : seconds_(document.playing().seconds()),
          columns_(slot.weighted ? 5 : 4),
          told_(!slot.told_by.empty()) {
        grid_ = new QGridLayout(this);
        grid_->setContentsMargins(0, 0, 0, 0);
        grid_->setHorizontalSpacing(6);
        grid_->setVerticalSpacing(4);
        const char* const in_space[] = {"name", "x", "y", "z", "weight"};
        const char* const along_a_curve[] = {"name", "share", "across", "up", "weight"};
        const auto& titles = told_ ? along_a_curve : in_space;
        for (int column = 0; column < columns_; ++column) {
            auto* title = new QLabel(tr(titles[column]));
            title->setProperty("second", true);
            grid_->addWidget(title, 0, column);
        }
        for (const Place& place : places) {
            const Result<PlaceKey> now = key_of_place(document.study(), slot, place, seconds_);
            add(place, now ? *now : PlaceKey{seconds_, place.x, place.y, place.z});
        }
    }

    // A new one.
    void add(const Place& place) { add(place, {seconds_, place.x, place.y, place.z}); }
    // With its coordinates of the moment.
    void add(const Place& place, const PlaceKey& now) {
        const int row = grid_->rowCount();
        const std::string* texts[] = {&place.name, &now.x, &now.y, &now.z, &place.weight};
        const char* const in_space[] = {"Name", "x", "y", "z", "Weight"};
        const char* const along_a_curve[] = {"Name", "Share", "Across", "Up", "Weight"};
        const auto& names = told_ ? along_a_curve : in_space;
        Row made{place, now};
        for (int column = 0; column < 5; ++column) {
            auto* line = new QLineEdit(text_of(*texts[column]));
            line->setMinimumWidth(column == 0 ? 110 : 66);
            line->setMaximumWidth(column == 0 ? 150 : 90);
            line->setAccessibleName(tr("%1 of place %2").arg(tr(names[column])).arg(row));
            line->setObjectName(QString("place-%1-%2").arg(row - 1).arg(column));
            made.lines[static_cast<std::size_t>(column)] = line;
            if (column < columns_)
                grid_->addWidget(line, row, column);
            else
                line->setParent(this), line->hide();  // kept, but it counts for nothing here
        }
        made.remove = new QToolButton;
        made.remove->setIcon(icon("remove", look().second_ink));
        made.remove->setToolTip(tr("Remove this place"));
        made.remove->setAccessibleName(tr("Remove place %1").arg(row));
        grid_->addWidget(made.remove, row, 5);
        rows_.push_back(made);
        connect(made.remove, &QToolButton::clicked, this,
                [this, button = made.remove] { take_away(button); });
    }

    bool any_moves() const {
        return std::ranges::any_of(rows_, [](const Row& row) { return !row.before.keys.empty(); });
    }
    Places places() const {
        Places result;
        for (const Row& row : rows_)
            result.push_back(place_of(row));
        return result;
    }

private:
    struct Row {
        Place before;
        PlaceKey now;  // as it is seen
        std::array<QLineEdit*, 5> lines{};
        QToolButton* remove = nullptr;
    };
    // Of one with keys: its key at the moment, where it was changed.
    Place place_of(const Row& row) const {
        const auto typed = [&](std::size_t column) { return text_of(row.lines[column]->text().trimmed()); };
        Place place = row.before;
        place.name = typed(0);
        place.weight = typed(4);
        const PlaceKey at{seconds_, typed(1), typed(2), typed(3)};
        if (place.keys.empty()) {
            place.x = at.x;
            place.y = at.y;
            place.z = at.z;
        } else if (at.x != row.now.x || at.y != row.now.y || at.z != row.now.z) {
            put_key(place.keys, at);
        }
        return place;
    }
    void take_away(const QToolButton* button) {
        const auto row = std::ranges::find(rows_, button, [](const Row& r) { return r.remove; });
        if (row == rows_.end()) return;
        for (QLineEdit* line : row->lines)
            line->deleteLater();
        row->remove->deleteLater();
        rows_.erase(row);
    }

    double seconds_;  // the moment
    int columns_;
    bool told_;  // by a curve
    QGridLayout* grid_;
    std::vector<Row> rows_;
};

}  // namespace

void open_places_editor(const SlotAccess& access, QWidget* near) {
    auto* form = new FormPopup(near, text_of(access.slot->label));
    auto* table = new PlacesTable(*access.document, std::get<Places>(access.value()), *access.slot);
    form->add_widget(table);
    auto* more = new QPushButton(icon("plus"), QObject::tr("Add a place"));
    more->setAutoDefault(false);
    QObject::connect(more, &QPushButton::clicked, form, [access, table, form] {
        const std::string first = access.slot->told_by.empty() ? "0 m" : "1";
        table->add({"place " + std::to_string(table->places().size() + 1), first, "0 m", "0 m", "1"});
        form->adjustSize();
    });
    form->add_widget(more);
    form->add_text(
        access.slot->told_by.empty()
            ? QObject::tr("Lengths with or without a unit, or expressions. Places can also be dragged in "
                          "the model.")
            : QObject::tr("Share: 0 at the start of the base, 1 at its end. Across and up: lengths. All may "
                          "be expressions. Places can also be dragged in the model."));
    if (table->any_moves())
        form->add_text(
            QObject::tr("Places with keys are shown as they are at %1 s; changing one sets its key there.")
                .arg(access.document->playing().seconds(), 0, 'f', 2));
    if (access.slot->corners && access.slot->told_by.empty())
        form->add_action(QObject::tr("&Draw in the model"), [access] {
            if (access.current()) access.document->attention().ask_to_draw(access.step, access.slot->key);
        });
    form->open(QObject::tr("Set places"), [access, table]() -> QString {
        if (access.current()) access.set(table->places());
        return {};
    });
}

}  // namespace plume::app
