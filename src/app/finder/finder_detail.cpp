#include "app/finder/finder_detail.hpp"

#include <QLabel>
#include <QTextDocumentFragment>
#include <QVBoxLayout>

#include "app/finder/ready_studies.hpp"
#include "app/finder/sentence_html.hpp"
#include "app/parts/fitted_image.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr QSize picture_size(150, 100);

QLabel* label(const char* name, QVBoxLayout* column, bool second) {
    auto* made = new QLabel;
    made->setObjectName(name);
    made->setWordWrap(true);
    made->setTextFormat(Qt::RichText);
    if (second) made->setProperty("second", true);
    column->addWidget(made);
    return made;
}

// As much as is read at a glance; the rest is on its page.
QString first_sentences(const std::string& help) {
    constexpr qsizetype enough = 190;
    const QString text = text_of(help);
    if (text.size() <= enough) return text.toHtmlEscaped();
    const qsizetype end = text.lastIndexOf(". ", enough);
    return (end > 0 ? text.left(end + 1) : text.left(text.lastIndexOf(' ', enough)) + " …").toHtmlEscaped();
}

}  // namespace

FinderDetail::FinderDetail(QWidget* parent) : QWidget(parent) {
    setObjectName("finder-detail");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 10);
    column->setSpacing(8);
    auto* top = new QHBoxLayout;
    top->setSpacing(12);
    picture_ = new QLabel;
    picture_->setObjectName("finder-picture");
    picture_->setFixedSize(picture_size);
    top->addWidget(picture_, 0, Qt::AlignTop);
    auto* told = new QVBoxLayout;
    told->setSpacing(4);
    sentence_ = label("finder-sentence", told, false);
    sentence_->setFont(text_font(14));
    told->addStretch(1);
    top->addLayout(told, 1);
    column->addLayout(top);
    help_ = label("finder-help", column, true);
    first_ = label("finder-first", column, false);
    column->addStretch(1);
    keys_ = label("finder-keys", column, true);
    keys_->setFont(text_font(12));
}

void FinderDetail::set_picture(const QImage& picture) {
    picture_->setVisible(!picture.isNull());
    if (!picture.isNull()) picture_->setPixmap(sharp(picture, picture_size, devicePixelRatioF()));
}

void FinderDetail::show_row(const FinderRow* row, const Catalogue& catalogue, const Preview& preview) {
    first_->hide();
    if (row && row->what == FinderRow::What::step) return show_step(row->offer, catalogue, preview);
    set_picture({});
    sentence_->clear();
    help_->clear();
    keys_->setText(row ? tr("<b>Return</b> adds it") : QString());
    if (!row) return;
    if (row->what == FinderRow::What::heading) {
        sentence_->setText(tr("A heading"));
        help_->setText(tr("Parts the page, gives what follows a colour, and folds it to one line."));
    }
    if (row->what == FinderRow::What::ready) {
        const ReadyStudy& ready = ready_studies()[row->ready];
        set_picture(ready.picture.pixmap(picture_size).toImage());
        sentence_->setText(text_of(ready.study->title).toHtmlEscaped());
        help_->setText(text_of(ready.study->note).section(" · ", 0, 0).toHtmlEscaped());
    }
}

QString FinderDetail::told() const {
    QStringList told;
    for (const QLabel* label : {sentence_, first_, help_, keys_})
        if (!label->isHidden() && !label->text().isEmpty())
            told << QTextDocumentFragment::fromHtml(label->text()).toPlainText();
    return told.join(' ');
}

void FinderDetail::show_step(const StepOffer& offer, const Catalogue& catalogue, const Preview& preview) {
    set_picture(QImage(":/examples/" + text_of(offer.kind->key) + ".png"));
    const Step* step = preview.study ? preview.study->step(preview.step) : nullptr;
    sentence_->setText(step ? sentence_html(*catalogue.find(*step), *step) : text_of(offer.kind->verb));
    help_->setText(first_sentences(offer.kind->help));
    if (!offer.fits) {
        QStringList needed;
        for (const Step& one : offer.needed)
            needed << QString("‘%1’").arg(text_of(catalogue.find(one.kind)->verb));
        first_->setText(
            tr("<span style='color:%1'>It reads %2, and there is none above.</span> %3 %4 added with it.")
                .arg(look().attention.name(), text_of(with_article(*offer.missing)),
                     needed.join(tr(" and ")).toHtmlEscaped(), needed.size() > 1 ? tr("are") : tr("is")));
        first_->show();
    }
    const QString words = text_of(offer.kind->synonyms).split(' ', Qt::SkipEmptyParts).join(", ");
    keys_->setText(tr("<b>Return</b> adds it · <b>F2</b> reads on") +
                   (words.isEmpty() ? QString() : tr(" · also found by: %1").arg(words.toHtmlEscaped())));
}

}  // namespace plume::app
