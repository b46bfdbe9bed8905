#include "app/files/picture_dialog.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>

#include "app/files/view_words.hpp"
#include "app/parts/number_field.hpp"

namespace plume::app {
namespace {

// As large as a screen, in the proportions of what is seen.
QSize picture_size(QSize seen) {
    return seen.scaled(1920, 1920, Qt::KeepAspectRatio);
}

}  // namespace

PictureDialog::PictureDialog(Document& study, std::optional<Camera> camera, QSize size, QWidget* parent)
    : WritingDialog(study, "picture", parent), camera_(camera) {
    setWindowTitle(tr("Save a picture"));
    add_views();
    add_size(picture_size(size));
    transparent_ = new QCheckBox(tr("Nothing behind it but its shadow"));
    transparent_->setObjectName("picture-transparent");
    transparent_->setToolTip(tr("The ground lets through what the picture is laid on"));
    form()->addRow(QString(), transparent_);
    add_file_rows();
    const QString& path = study.path();
    const QString folder = path.isEmpty() ? QDir::homePath() : QFileInfo(path).absolutePath();
    const QString name = path.isEmpty() ? tr("picture") : QFileInfo(path).completeBaseName();
    file()->setText(QDir(folder).filePath(name + ".png"));
    for (QLineEdit* field : {width_, height_, scale_, dots_})
        connect(field, &QLineEdit::textChanged, this, &PictureDialog::refresh_note);
    connect(measure_, &QComboBox::currentIndexChanged, this, &PictureDialog::show_what_it_asks);
    show_what_it_asks();
    file()->setFocus();
    file()->selectAll();
}

void PictureDialog::add_views() {
    view_ = new QComboBox;
    view_->setObjectName("picture-view");
    view_->setAccessibleName(tr("Seen"));
    if (camera_) view_->addItem(tr("as the model is seen now"), -1);
    add_standard_views(*view_);
    form()->addRow(tr("Seen"), view_);
}

void PictureDialog::add_size(QSize size) {
    measure_ = new QComboBox;
    measure_->setObjectName("picture-measure");
    measure_->setAccessibleName(tr("Size"));
    measure_->addItems({tr("in pixels"), tr("to a scale, on paper")});
    form()->addRow(tr("Size"), measure_);
    width_ =
        number_field("picture-width", tr("Pixels wide"), QString::number(size.width()), 1, largest_still, 0);
    height_ = number_field("picture-height", tr("Pixels high"), QString::number(size.height()), 1,
                           largest_still, 0);
    pixels_ = row_of({width_, new QLabel(tr("×")), height_, new QLabel(tr("px"))});
    form()->addRow(tr("Pixels"), pixels_);
    scale_ = number_field("picture-scale", tr("Scale 1 :"), "100", 1e-6, 1e9, 6);
    dots_ = number_field("picture-dots", tr("Pixels an inch"), "150", 1, 2400, 3);
    scaled_ = row_of({scale_, new QLabel(tr("with")), dots_, new QLabel(tr("pixels an inch"))});
    form()->addRow(tr("Scale 1 :"), scaled_);
}

bool PictureDialog::to_scale() const {
    return measure_->currentIndex() == 1;
}

void PictureDialog::show_what_it_asks() {
    form()->setRowVisible(pixels_, !to_scale());
    form()->setRowVisible(scaled_, to_scale());
    refresh_note();
}

std::vector<ExportedResult> PictureDialog::shown() const {
    std::vector<ExportedResult> results;
    for (const Item& item : document().study().items) {
        const Step* step = step_of(item);
        const bool seen = step && step->show.visible && page_of(*step) == Page::sheet;
        const Shown* shown = seen ? document().results().shown(step->id) : nullptr;
        if (shown && shown->value) results.push_back({shown->value, step->name, step->show});
    }
    return results;
}

QString PictureDialog::hindrance() const {
    if (shown().empty()) return tr("Nothing is shown in the model yet.");
    const auto fine = [](const QLineEdit* field) { return field->hasAcceptableInput(); };
    if (to_scale() && !fine(scale_)) return tr("Type a scale above 0: 50 for 1 : 50.");
    if (to_scale() && !fine(dots_)) return tr("Type from 1 to 2400 pixels an inch.");
    if (!to_scale() && !(fine(width_) && fine(height_)))
        return tr("Type from 1 to %1 pixels each way.").arg(largest_still);
    return {};
}

WritingDialog::Work PictureDialog::work() const {
    PictureJob job{shown(), document().study().units};
    const int view = view_->currentData().toInt();
    job.still.camera = camera_.value_or(Camera());
    job.still.fit = view >= 0;
    if (view >= 0) job.still.camera = seen_from(static_cast<StandardView>(view), job.still.camera);
    job.still.width = width_->text().toInt();
    job.still.height = height_->text().toInt();
    if (transparent_->isChecked()) job.still.ground = StillGround::none;
    if (to_scale()) {
        job.scale = QLocale::c().toDouble(scale_->text());
        job.dots_an_inch = QLocale::c().toDouble(dots_->text());
    }
    return [job = std::move(job)](const std::string& path, const Run& run) {
        return write_picture(job, path, run);
    };
}

}  // namespace plume::app
