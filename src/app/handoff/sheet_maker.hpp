#pragma once
// Draws the sheet of a drawing on a thread of its own, and pictures of parts of it.

#include <QImage>
#include <QObject>
#include <QRectF>
#include <memory>

#include "app/parts/latest_work.hpp"
#include "core/handoff/drawn_sheet.hpp"

namespace plume::app {

class SheetMaker : public QObject {
    Q_OBJECT

public:
    // A part of the paper, in millimetres from its lower left corner, y up.
    struct Picture {
        QImage image;
        QRectF area;
    };

    explicit SheetMaker(QObject* parent = nullptr);

    // The drawing of a state that the key names; nullptr: none.
    void make(const Delivery& delivery, const Hash& key, const Units& units);
    void picture(const QRectF& area, QSize pixels);

    // nullptr while there is none. While another one is made, the one before.
    const std::shared_ptr<const Plan>& plan() const { return plan_; }
    const std::optional<Error>& error() const { return error_; }
    const Picture& picture() const { return picture_; }
    bool busy() const { return work_.busy() && made_key_ != key_; }
    double fraction() const { return work_.fraction(); }
    void cancel() { work_.cancel(); }

Q_SIGNALS:
    void changed();

private:
    struct Made {
        Hash key;
        std::shared_ptr<const Plan> plan;
        std::optional<Error> error;
        Picture picture;
    };
    LatestWork<Made>::Work next() const;
    void take(const Made& made, bool more);

    Delivery delivery_;
    Hash key_, made_key_;
    Units units_;
    QRectF area_;
    QSize pixels_;
    std::shared_ptr<const Plan> plan_;
    std::optional<Error> error_;
    Picture picture_;
    LatestWork<Made> work_;
};

// The paper's millimetres as the painter has them, y up; lines are at least so thin that they are seen.
void paint_sheet(QPainter& painter, const Plan& plan, const QRectF& area, QSize pixels, const Run& run);

}  // namespace plume::app
