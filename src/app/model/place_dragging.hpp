#pragma once
// Places that are taken hold of in the model: drawn as small squares, those with keys as discs, several
// chosen with Ctrl, dragged together, held to an axis or a plane by keys.

#include <QCoreApplication>
#include <QPainter>
#include <set>

#include "app/document/document.hpp"
#include "core/picture/picking.hpp"
#include "core/study/edits/place_handles.hpp"

class QKeyEvent;

namespace plume::app {

class ModelView;

class PlaceDragging {
    Q_DECLARE_TR_FUNCTIONS(plume::app::PlaceDragging)

public:
    PlaceDragging(Document& document, ModelView& view) : document_(document), view_(view) {}

    // The handles of what is shown of the present study.
    void collect();
    bool empty() const { return handles_.empty(); }
    bool over_handle(QPointF cursor) const { return at(cursor).has_value(); }
    // Takes hold of the handle there; false where there is none. With Ctrl it is chosen beside the others, or
    // let go.
    bool press(QPointF cursor, bool beside);
    void drag(QPointF cursor);
    void release();
    // X, Y and Z hold a drag to an axis, with Shift to the plane square to it, again they free it; K keys
    // what is in hand; Escape lets go what is chosen. False when the key means nothing here.
    bool key(const QKeyEvent& event);
    bool dragging() const { return grabbed_.has_value(); }
    // What can be done, while something is dragged.
    QString hint() const;
    void paint(QPainter& painter) const;

private:
    using Name = std::tuple<ItemId, std::string, std::size_t>;
    static Name name_of(const PlaceHandle& handle) { return {handle.step, handle.slot, handle.index}; }
    ShownValue shown_value() const;
    std::optional<std::size_t> at(QPointF cursor) const;
    void take_in_hand(const std::vector<PlaceHandle>& beside) const;
    bool drawn_elsewhere(const PlaceHandle& handle) const;
    void paint_lines(QPainter& painter) const;

    Document& document_;
    ModelView& view_;
    std::vector<PlaceHandle> handles_;
    std::vector<std::pair<std::size_t, std::size_t>> lines_;
    std::set<Name> chosen_;
    std::optional<PlaceHandle> grabbed_;  // where it stood when it was taken
    std::vector<PlaceHandle> taken_;      // it and those chosen beside it, as they stood
    Vec3 now_;                            // where it stands
    QPointF cursor_;
    DragHold hold_ = DragHold::free;
};

}  // namespace plume::app
