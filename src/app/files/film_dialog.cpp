#include "app/files/film_dialog.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <cmath>
#include <numbers>

#include "app/files/view_words.hpp"
#include "app/parts/number_field.hpp"
#include "core/base/numbers.hpp"
#include "core/exchange/film_encoder.hpp"

namespace plume::app {
namespace {

QString seconds_text(double seconds) {
    return text_of(short_text(seconds, 6));
}

QString grouped(std::size_t count) {
    return text_of(grouped_text(static_cast<std::int64_t>(count)));
}

// In the proportions of what is seen, with even numbers of rows and columns, as films want them.
QSize film_size(QSize seen) {
    const QSize size = seen.scaled(1280, 1280, Qt::KeepAspectRatio);
    return {size.width() / 2 * 2, size.height() / 2 * 2};
}

// As many results as are shown of a frame.
Result<std::vector<ExportedResult>> seen_of(const Evaluation& evaluation) {
    std::vector<ExportedResult> results;
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        if (!step || !step->show.visible || page_of(*step) != Page::sheet) continue;
        const Outcome* outcome = evaluation.outcome(step->id);
        if (outcome && outcome->value) results.push_back({outcome->value, step->name, step->show});
    }
    return results;
}

}  // namespace

FilmDialog::FilmDialog(Document& study, std::optional<Camera> camera, QSize size, QWidget* parent)
    : WritingDialog(study, "film", parent), camera_(camera) {
    setWindowTitle(tr("Write a film"));
    add_forms();
    const double end = study.study().time.seconds;
    from_ = number_field("film-from", tr("From, in seconds"), "0", 0, end, 6);
    to_ = number_field("film-to", tr("To, in seconds"), seconds_text(end), 0, end, 6);
    form()->addRow(tr("From"), row_of({from_, new QLabel(tr("to")), to_, new QLabel(tr("s"))}));
    many_ = new QCheckBox(tr("all of them, more than %1").arg(grouped(most_film_frames)));
    many_->setObjectName("film-many");
    form()->addRow(tr("Frames"), many_);
    add_views();
    turn_ = number_field("film-turn", tr("Degrees that the camera goes around"), "0", -36'000, 36'000, 3);
    form()->addRow(tr("Going around"), row_of({turn_, new QLabel(tr("°"))}));
    const QSize pixels = film_size(size);
    width_ =
        number_field("film-width", tr("Pixels wide"), QString::number(pixels.width()), 2, largest_still, 0);
    height_ =
        number_field("film-height", tr("Pixels high"), QString::number(pixels.height()), 2, largest_still, 0);
    form()->addRow(tr("Pixels"), row_of({width_, new QLabel(tr("×")), height_, new QLabel(tr("px"))}));
    add_file_rows();
    const QString& path = study.path();
    const QString folder = path.isEmpty() ? QDir::homePath() : QFileInfo(path).absolutePath();
    const QString name = path.isEmpty() ? tr("film") : QFileInfo(path).completeBaseName();
    file()->setText(QDir(folder).filePath(name + ending()));
    for (QLineEdit* field : {from_, to_})
        connect(field, &QLineEdit::textChanged, this, &FilmDialog::follow_moments);
    for (QLineEdit* field : {width_, height_})
        connect(field, &QLineEdit::textChanged, this, &FilmDialog::refresh_note);
    connect(many_, &QCheckBox::toggled, this, &FilmDialog::refresh_note);
    connect(into_, &QComboBox::currentIndexChanged, this, &FilmDialog::follow_form);
    follow_moments();
    file()->setFocus();
    file()->selectAll();
}

void FilmDialog::add_forms() {
    into_ = new QComboBox;
    into_->setObjectName("film-into");
    into_->setAccessibleName(tr("Into"));
    into_->addItem(tr("a film"), ".mp4");
    into_->addItem(tr("a PNG that moves"), ".png");
    into_->addItem(tr("a folder of PNGs"), "");
    // What can be written here comes first.
    if (!can_encode_films()) into_->setCurrentIndex(1);
    form()->addRow(tr("Into"), into_);
}

void FilmDialog::add_views() {
    view_ = new QComboBox;
    view_->setObjectName("film-view");
    view_->setAccessibleName(tr("Seen"));
    if (camera_) view_->addItem(tr("as the model is seen now"));
    for (const KeptCamera& kept : document().study().cameras)
        view_->addItem(kept.keys.empty() ? tr("by ‘%1’").arg(text_of(kept.name))
                                         : tr("by ‘%1’, along its keys").arg(text_of(kept.name)),
                       text_of(kept.name));
    add_standard_views(*view_);
    form()->addRow(tr("Seen"), view_);
}

QString FilmDialog::ending() const {
    return into_->currentData().toString();
}

void FilmDialog::follow_form() {
    const QFileInfo now(file()->text());
    file()->setText(now.dir().filePath(now.completeBaseName() + ending()));
    refresh_note();
}

std::optional<double> FilmDialog::number_in(const QLineEdit* field) const {
    if (!field->hasAcceptableInput()) return {};
    return QLocale::c().toDouble(field->text());
}

std::size_t FilmDialog::first_frame() const {
    return moment_at(document().study().time, number_in(from_).value_or(0)).frame;
}

std::size_t FilmDialog::frame_count() const {
    const std::size_t last = moment_at(document().study().time, number_in(to_).value_or(0)).frame;
    return last < first_frame() ? 0 : last - first_frame() + 1;
}

void FilmDialog::follow_moments() {
    form()->setRowVisible(many_, frame_count() > most_film_frames);
    refresh_note();
}

QString FilmDialog::hindrance() const {
    const QString end = seconds_text(document().study().time.seconds);
    if (!number_in(from_) || !number_in(to_)) return tr("Type moments from 0 to %1 s.").arg(end);
    if (frame_count() == 0) return tr("It ends before it begins: type a later end.");
    if (!number_in(turn_)) return tr("Type how many degrees the camera goes around; 0 for not at all.");
    if (!number_in(width_) || !number_in(height_))
        return tr("Type from 2 to %1 pixels each way.").arg(largest_still);
    if (frame_count() > most_film_frames && !many_->isChecked())
        return tr("These are %1 frames. Choose ‘%2’ if so many are meant, or type a later beginning or an "
                  "earlier end.")
            .arg(grouped(frame_count()), many_->text());
    if (ending() == ".mp4" && !can_encode_films())
        return tr(
            "A film needs the program ffmpeg, which is not installed. Install it (on Debian: apt install "
            "ffmpeg), or choose a PNG that moves or a folder.");
    return {};
}

QString FilmDialog::remark() const {
    return frame_count() == 1 ? tr("1 frame") : tr("%1 frames").arg(grouped(frame_count()));
}

WritingDialog::Work FilmDialog::work() const {
    FilmJob job;
    job.study = document().snapshot();
    job.plan = document().results().plan();
    job.seen = seen_of;
    job.first = first_frame();
    job.count = frame_count();
    job.turn_rad = number_in(turn_).value_or(0) * std::numbers::pi / 180;
    job.how.study_units = document().study().units;
    StillOptions& still = job.how.still;
    still.width = width_->text().toInt();
    still.height = height_->text().toInt();
    still.camera = camera_.value_or(Camera());
    const QVariant chosen = view_->currentData();
    still.fit = chosen.typeId() == QMetaType::Int;
    if (still.fit) still.camera = seen_from(static_cast<StandardView>(chosen.toInt()), still.camera);
    if (chosen.typeId() == QMetaType::QString) job.camera = text_of(chosen.toString());
    return [job = std::move(job)](const std::string& path, const Run& run) {
        return write_film(job, path, run);
    };
}

}  // namespace plume::app
