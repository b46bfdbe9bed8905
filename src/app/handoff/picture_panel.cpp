#include "app/handoff/picture_panel.hpp"

#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/parts/panel_foot.hpp"
#include "app/parts/wrapped_label.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {

// A picture in the middle of its desk; a sentence where there is none.
class PictureView : public QWidget {
public:
    explicit PictureView(std::function<void()> resized) : resized_(std::move(resized)) {
        setObjectName("picture-view");
        setAccessibleName(PicturePanel::tr("The picture"));
        setMinimumSize(200, 160);
    }
    void show_picture(const QImage& image, const QString& instead, bool wrong) {
        image_ = image;
        instead_ = instead;
        wrong_ = wrong;
        update();
    }
    // In pixels of the screen.
    QSize room() const {
        constexpr int margin = 16;
        return (QSizeF(width() - 2 * margin, height() - 2 * margin) * devicePixelRatioF())
            .toSize()
            .expandedTo({1, 1});
    }

protected:
    void paintEvent(QPaintEvent* /*event*/) override {
        QPainter painter(this);
        painter.fillRect(rect(), look().desk);
        if (image_.isNull()) {
            painter.setFont(text_font(14));
            painter.setPen(wrong_ ? look().attention : look().second_ink);
            return painter.drawText(rect().adjusted(60, 20, -60, -20), Qt::AlignCenter | Qt::TextWordWrap,
                                    instead_);
        }
        const QSizeF size = QSizeF(image_.size()) / devicePixelRatioF();
        QRectF place(QPointF(), size);
        place.moveCenter(QRectF(rect()).center());
        paint_chequers(painter, place);
        painter.drawImage(place, image_);
        painter.setPen(look().hairline);
        painter.drawRect(place);
    }
    void resizeEvent(QResizeEvent* event) override {
        QWidget::resizeEvent(event);
        resized_();
    }

private:
    // Behind what lets through what it is laid on.
    void paint_chequers(QPainter& painter, const QRectF& place) const {
        if (!image_.hasAlphaChannel()) return;
        painter.fillRect(place, Qt::white);
        painter.fillRect(place, QBrush(QColor(226, 228, 226), Qt::Dense4Pattern));
    }

    std::function<void()> resized_;
    QImage image_;
    QString instead_;
    bool wrong_ = false;
};

PicturePanel::PicturePanel(Document& document, std::function<std::optional<Camera>()> model, QWidget* parent)
    : QWidget(parent), document_(document), model_(std::move(model)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    view_ = new PictureView([this] { make(); });
    column->addWidget(view_, 1);
    column->addWidget(new_foot());
    connect(&maker_, &PictureMaker::changed, this, &PicturePanel::refresh);
    refresh();
}

QWidget* PicturePanel::new_foot() {
    const auto [foot, row] = panel_foot();
    about_ = wrapped_label("picture-about", text_font(12));
    about_->setProperty("second", true);
    cancel_ = new QPushButton(tr("Stop here"));
    cancel_->setObjectName("picture-cancel");
    cancel_->setToolTip(tr("What is written is drawn to its end"));
    as_model_ = new QPushButton(tr("Look as the model does"));
    as_model_->setObjectName("picture-as-model");
    as_model_->setToolTip(
        tr("Keeps the view of the model as a camera of the study, which this picture looks by"));
    row->addWidget(about_, 1);
    row->addWidget(cancel_);
    row->addWidget(as_model_);
    connect(cancel_, &QPushButton::clicked, this, [this] { maker_.cancel(); });
    connect(as_model_, &QPushButton::clicked, this, [this] {
        const auto camera = model_();
        if (!camera) return;
        document_.apply(with_picture_seen_from(document_.study(), in_hand_.sentence, *camera),
                        tr("view of a picture"));
    });
    return foot;
}

void PicturePanel::show_sentence(ItemId sentence, const HandOffEntry* entry, bool seen) {
    in_hand_.take(sentence, entry, &is_picture);
    seen_ = seen;
    make();
    refresh();
}

void PicturePanel::make() {
    if (seen_) maker_.make(in_hand_.delivery, in_hand_.key, document_.study().units, view_->room());
}

QString PicturePanel::about() const {
    const PictureMaker::State& state = maker_.state();
    if (state.image.isNull()) return {};
    QString text = tr("%1 × %2 pixels in the file").arg(state.wished.width()).arg(state.wished.height());
    const auto pictures = static_cast<int>(in_hand_.delivery->wishes.picture->turn_pictures);
    if (pictures > 0) text += tr(", the first of %1 around").arg(pictures);
    if (in_hand_.delivery->wishes.film) text += tr(", of the film at the moment looked at");
    if (const auto& sun = in_hand_.delivery->wishes.picture->sun) text += ", " + text_of(sun_text(*sun));
    const bool whole = state.passes == state.all_passes;
    // What is whole while there is work is the picture before this one.
    if (whole) return text + (maker_.busy() ? tr(" · is drawn anew …") : tr(" · drawn"));
    text += tr(" · sample %1 of %2").arg(state.passes).arg(state.all_passes);
    if (!maker_.busy()) return text + tr(", stopped");
    return text + (state.seconds_left < 1
                       ? tr(", less than a second left")
                       : tr(", %1 left").arg(text_of(duration_text(std::ceil(state.seconds_left)))));
}

void PicturePanel::refresh() {
    const bool drawn = in_hand_.delivery != nullptr;
    const PictureMaker::State& state = maker_.state();
    const std::optional<Error> wrong = in_hand_.wrong(document_, state.error);
    const QString instead =
        wrong   ? text_of(sentence(*wrong))
        : drawn ? tr("The picture is drawn …")
                : tr("Take a sentence that gives a picture in hand, at the left, and it is seen here.");
    view_->show_picture(drawn && !wrong ? state.image : QImage(), instead, wrong.has_value());
    about_->setText(drawn && !wrong ? about() : QString());
    cancel_->setVisible(drawn && maker_.busy());
    as_model_->setVisible(drawn);
}

}  // namespace plume::app
