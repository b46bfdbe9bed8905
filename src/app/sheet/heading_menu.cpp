#include "app/sheet/heading_menu.hpp"

#include <QMenu>
#include <QPainter>
#include <algorithm>

#include "app/theme/look.hpp"
#include "core/base/text.hpp"

namespace plume::app {
namespace {

QIcon swatch(HeadingColour colour) {
    QPixmap drawn(28, 28);
    drawn.fill(Qt::transparent);
    drawn.setDevicePixelRatio(2);
    QPainter painter(&drawn);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(look().thread(colour));
    painter.drawRoundedRect(QRectF(2, 2, 10, 10), 3, 3);
    return drawn;
}

// A menu takes what follows & for a key.
QString shown_title(const Heading& heading) {
    return text_of(heading.title).replace('&', "&&");
}

}  // namespace

void fill_heading_menu(QMenu& menu, std::span<const Item> items, const std::function<void(ItemId)>& go_to) {
    for (auto at = items.begin(); at != items.end(); ++at) {
        const Heading* heading = heading_of(*at);
        if (!heading) continue;
        const auto end = std::find_if(at + 1, items.end(), [](const Item& item) { return heading_of(item); });
        const auto steps = static_cast<std::size_t>(end - at - 1);
        menu.addAction(swatch(heading->colour),
                       shown_title(*heading) + "\t" + text_of(count_text(steps, "step", "steps")), &menu,
                       [go_to, id = id_of(*at)] { go_to(id); });
    }
    if (menu.isEmpty()) menu.addAction(QObject::tr("This page has no headings yet"))->setEnabled(false);
}

}  // namespace plume::app
