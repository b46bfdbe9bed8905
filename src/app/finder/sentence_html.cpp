#include "app/finder/sentence_html.hpp"

#include "app/document/document.hpp"
#include "app/theme/look.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

QString part_html(const SlotSpec& slot, const Step& step) {
    const QString text = text_of(slot_text(slot, step)).toHtmlEscaped();
    if (slot.type == SlotType::reference)
        return QString("<span style='font-family:\"%1\"; font-style:italic'>%2</span>")
            .arg(result_font(15).family(), text);
    // A number stays on one line with its unit.
    if (slot.numeric())
        return QString("<span style='color:%1; font-weight:600; white-space:nowrap'>%2</span>")
            .arg(look().accent.name(), text);
    return QString("<u>%1</u>").arg(text);
}

}  // namespace

QString sentence_html(const StepKind& kind, const Step& step, PartsAre parts) {
    QString html;
    for (const SentencePart& part : sentence_parts(kind, step)) {
        if (part.waits) continue;
        if (!part.slot) {
            html += text_of(part.text).toHtmlEscaped();
            continue;
        }
        const QString shown = part_html(*part.slot, step);
        html += parts == PartsAre::links
                    ? QString("<a href='%1' style='color:%2; text-decoration:none'>%3</a>")
                          .arg(text_of(part.slot->key), look().ink.name(), shown)
                    : shown;
    }
    return html;
}

}  // namespace plume::app
