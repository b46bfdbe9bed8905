#include "app/code/code_colours.hpp"

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

QColor colour_of(SpanType type) {
    switch (type) {
        case SpanType::number:
        case SpanType::unit:
            return look().accent;
        case SpanType::function:
        case SpanType::keyword:
        case SpanType::constant:
            return look().thread(HeadingColour::slate);
        case SpanType::given_name:
            return look().thread(HeadingColour::plum);
        case SpanType::text:
            return look().thread(HeadingColour::moss);
        case SpanType::comment:
            return look().second_ink;
        case SpanType::name:
        case SpanType::sign:
            break;
    }
    return look().ink;
}

}  // namespace

QTextCharFormat format_of(SpanType type) {
    QTextCharFormat format;
    format.setForeground(colour_of(type));
    if (type == SpanType::comment) format.setFontItalic(true);
    return format;
}

}  // namespace plume::app
