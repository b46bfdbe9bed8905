#include "core/readers/xml_tree.hpp"

#include <expat.h>

#include <algorithm>
#include <limits>
#include <memory>

namespace plume {

// Follows the parser's events.
class XmlBuilder {
public:
    XmlBuilder() : parser_(XML_ParserCreate(nullptr), XML_ParserFree) {
        XML_SetUserData(parser_.get(), this);
        XML_SetElementHandler(parser_.get(), begin, end);
        XML_SetCharacterDataHandler(parser_.get(), characters);
    }

    Result<XmlTree> read(std::string_view bytes) {
        // The parser counts in int.
        constexpr std::size_t piece = std::numeric_limits<int>::max() / 2;
        XML_Status status = XML_STATUS_OK;
        for (std::size_t at = 0; at <= bytes.size() && status == XML_STATUS_OK; at += piece) {
            const std::string_view part = bytes.substr(at, piece);
            status = XML_Parse(parser_.get(), part.data(), static_cast<int>(part.size()),
                               at + piece > bytes.size());
        }
        if (too_deep_)
            return Error{ErrorCode::too_deep, "", "is nested too deeply" + in_line(), "Choose another file."};
        if (too_many_)
            return Error{ErrorCode::file_too_large, "",
                         "has more than " + std::to_string(most_elements) + " elements", "Save less of it."};
        if (status != XML_STATUS_OK || tree_.elements_.empty())
            return Error{ErrorCode::file_damaged, "",
                         std::string("is no XML that can be read: ") +
                             XML_ErrorString(XML_GetErrorCode(parser_.get())) + in_line(),
                         "Get it anew, or mend that line."};
        return std::move(tree_);
    }

private:
    static constexpr std::size_t deepest = 256, most_elements = 20'000'000;

    std::string in_line() const {
        return " in line " + std::to_string(XML_GetCurrentLineNumber(parser_.get()));
    }

    static std::string without_namespace(std::string_view name) {
        const std::size_t colon = name.rfind(':');
        return std::string(colon == std::string_view::npos ? name : name.substr(colon + 1));
    }
    static void begin(void* self, const XML_Char* name, const XML_Char** attributes) {
        auto& builder = *static_cast<XmlBuilder*>(self);
        builder.too_deep_ = builder.open_.size() >= deepest;
        builder.too_many_ = builder.tree_.elements_.size() >= most_elements;
        if (builder.too_deep_ || builder.too_many_) {
            XML_StopParser(builder.parser_.get(), XML_FALSE);
            return;
        }
        XmlElement& element = builder.tree_.elements_.emplace_back();
        element.name = without_namespace(name);
        element.line = XML_GetCurrentLineNumber(builder.parser_.get());
        for (const XML_Char** attribute = attributes; *attribute; attribute += 2)
            element.attributes.emplace_back(without_namespace(attribute[0]), attribute[1]);
        if (!builder.open_.empty()) builder.open_.back()->children.push_back(&element);
        builder.open_.push_back(&element);
    }
    static void end(void* self, const XML_Char* /*name*/) {
        auto& builder = *static_cast<XmlBuilder*>(self);
        if (!builder.open_.empty()) builder.open_.pop_back();
    }
    static void characters(void* self, const XML_Char* text, int size) {
        auto& builder = *static_cast<XmlBuilder*>(self);
        if (!builder.open_.empty() && builder.open_.back()->name == "title")
            builder.open_.back()->text.append(text, static_cast<std::size_t>(size));
    }

    std::unique_ptr<std::remove_pointer_t<XML_Parser>, void (*)(XML_Parser)> parser_;
    XmlTree tree_;
    std::vector<XmlElement*> open_;
    bool too_deep_ = false, too_many_ = false;
};

std::string_view XmlElement::attribute(std::string_view wanted) const {
    const auto found = std::ranges::find(attributes, wanted, &std::pair<std::string, std::string>::first);
    return found == attributes.end() ? std::string_view() : std::string_view(found->second);
}

Result<XmlTree> XmlTree::read(std::string_view bytes) {
    return XmlBuilder().read(bytes);
}

}  // namespace plume
