#include "long_study.hpp"

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QImage>
#include <QScrollArea>
#include <QScrollBar>
#include <QTemporaryDir>

#include "app/sheet/sheet_page.hpp"
#include "app/window/main_window.hpp"
#include "core/exchange/study_file.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/edits/edits.hpp"
#include "waiting.hpp"

namespace bench {
namespace {

using namespace plume;
using namespace plume::app;

constexpr int steps = 500;

StudyPointer long_study() {
    StudyPointer study = std::make_shared<const Study>();
    const Catalogue& catalogue = standard_catalogue();
    for (int number = 0; number < steps; ++number) {
        const char* kind = number % 3 == 0 ? "lattice.rectangular" : number % 3 == 1 ? "skin" : "thing.move";
        if (number % 25 == 0)
            study = add_heading(*study, study->items.size(), "Part " + std::to_string(number / 25)).study;
        const Added added = *add_step(*study, catalogue, *catalogue.find(kind), study->items.size());
        // As in any study that long, few of the results are looked at.
        Show show = added.study->step(added.id)->show;
        show.visible = number + 3 > steps;
        study = *set_show(*added.study, added.id, show);
    }
    return study;
}

double ms_of(const QElapsedTimer& timer) {
    return static_cast<double>(timer.nsecsElapsed()) * 1e-6;
}

// Into a picture: what a display without a graphics card takes to show it beside the model is not the
// sheet's.
void painted(QScrollArea& sheet) {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::LayoutRequest);
    QImage picture(sheet.viewport()->size(), QImage::Format_ARGB32_Premultiplied);
    sheet.viewport()->render(&picture);
}

}  // namespace

LongStudyFigures long_study_figures(const QTemporaryDir& folder) {
    const QString file = folder.filePath("long.plume");
    if (!save_study(*long_study(), file.toStdString())) return {};
    MainWindow window;
    window.resize(1280, 800);
    window.show();
    wait_for(800);
    LongStudyFigures figures;
    QElapsedTimer timer;
    timer.start();
    if (!window.open_file(file)) return {};
    auto* sheet = window.findChild<QScrollArea*>("sheet");
    painted(*sheet);
    figures.opened_ms = ms_of(timer);
    wait_until([&] {
        return !window.document().results().behind() && !window.document().results().progress().busy;
    });
    constexpr int pictures = 240;
    QScrollBar& bar = *sheet->verticalScrollBar();
    timer.restart();
    for (int picture = 0; picture < pictures; ++picture) {
        bar.setValue(bar.maximum() * picture / (pictures - 1));
        painted(*sheet);
    }
    figures.scrolled_a_second = pictures * 1000.0 / ms_of(timer);
    bar.setValue(0);
    Document& document = window.document();
    const ItemId first = step_of(document.study().items[1])->id;
    timer.restart();
    document.apply(set_slot(document.study(), first, "columns", NumberText{"30"}), "columns");
    painted(*sheet);
    figures.edited_ms = ms_of(timer);
    return figures;
}

}  // namespace bench
