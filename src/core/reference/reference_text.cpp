#include "core/reference/reference_text.hpp"

#include <algorithm>

#include "core/reference/trade_words.hpp"
#include "core/study/subjects.hpp"

namespace plume {
namespace {

std::string link(const std::string& text, const std::string& to) {
    return '[' + text + "](" + to + ')';
}

// What would be read as Markdown stands for itself.
std::string plain(std::string_view text) {
    std::string safe;
    for (const char c : text) {
        if (c == '*' || c == '_' || c == '|' || c == '<' || c == '[' || c == '`' || c == '\\') safe += '\\';
        safe += c == '\n' ? ' ' : c;
    }
    return safe;
}

std::string joined(const std::vector<std::string>& parts, const char* between) {
    std::string text;
    for (const std::string& part : parts)
        text += (text.empty() ? "" : between) + part;
    return text;
}

// Long ones, as formulas of several lines, would tear the table apart.
std::string short_preset(const std::string& preset) {
    constexpr std::size_t most = 60;
    return preset.size() > most || preset.find('\n') != std::string::npos ? "" : preset;
}

std::string slot_row(const ReferenceSlot& slot) {
    std::vector<std::string> takes{plain(slot.takes)};
    if (!slot.limits.empty()) takes.push_back(plain(slot.limits));
    std::string text = "| " + plain(slot.label) + " | " + joined(takes, ", ");
    if (!slot.help.empty()) text += ". " + plain(slot.help);
    for (const Word& word : slot.words)
        text += (&word == slot.words.data() ? ": *" : "; *") + plain(word.label) + "*" +
                (word.help.empty() ? "" : " (" + plain(word.help) + ")");
    return text + " | " + plain(short_preset(slot.preset)) + " |\n";
}

std::string slots_text(const ReferencePage& page) {
    if (page.slots.empty()) return {};
    std::string text = "\n## Its parts\n\n| part | what it takes | at first |\n| --- | --- | --- |\n";
    for (const ReferenceSlot& slot : page.slots)
        text += slot_row(slot);
    return text;
}

std::string refusals_text(const ReferencePage& page) {
    if (page.refusals.empty()) return {};
    std::string text = "\n## What it refuses, and the mend\n\n";
    for (const Refusal& refusal : page.refusals)
        text += "- " + plain(refusal.text) + " *" + plain(refusal.mend) + "*\n";
    return text;
}

std::string example_text(const ReferencePage& page, const ReferenceLinks& links) {
    if (!page.example) return {};
    std::string text = "\n## An example\n\n";
    if (!page.example->ok()) return text + plain(sentence(page.example->error())) + '\n';
    const ReferenceExample& example = **page.example;
    text += plain(example.figure.about) + "\n\n";
    for (std::size_t at = 0; at < example.sentences.size(); ++at) {
        const std::string sentence = plain(example.sentences[at]);
        text +=
            std::to_string(at + 1) + ". " + (at == example.own ? "**" + sentence + "**" : sentence) + '\n';
    }
    text += "\n*" + plain(example.figure.result) + "* is then " + plain(example.figure.figure) + ".";
    if (links.example) text += ' ' + link("Open a copy", links.example(page.kind));
    return text + '\n';
}

std::string words_of_page(const ReferencePage& page, const ReferenceLinks& links) {
    if (!links.word) return {};
    std::vector<std::string> met;
    for (const TradeWord* word : trade_words_in(page.verb + ' ' + page.sentence + ' ' + page.help))
        met.push_back(link(plain(word->word), links.word(word->word)));
    return met.empty() ? std::string() : "\n## Words\n\n" + joined(met, " · ") + '\n';
}

// As headings are linked to: in small letters, with - between words.
std::string anchor_of(const std::string& word) {
    std::string anchor = word;
    std::ranges::replace(anchor, ' ', '-');
    return anchor;
}

}  // namespace

ReferenceLinks links_in_docs() {
    const std::string examples = "../../resources/examples/";
    return {.page = [](const std::string& kind) { return kind + ".md"; },
            .picture = [=](const std::string& kind) { return examples + kind + ".png"; },
            .example = [=](const std::string& kind) { return examples + kind + ".plume"; },
            .word =
                [](const std::string& word) {
                    return word.empty() ? std::string("words.md") : "words.md#" + anchor_of(word);
                }};
}

std::string page_text(const ReferencePage& page, const ReferenceLinks& links) {
    std::string text = "# " + plain(page.verb) + "\n\n";
    if (links.picture) text += "![" + plain(page.verb) + "](" + links.picture(page.kind) + ")\n\n";
    text += "> " + plain(page.sentence) + "\n\n" + plain(page.help) + "\n\n";
    text += "Gives " + joined(page.gives, " or ") + ". Listed under *" + plain(page.subject) +
            "*; in files `" + page.kind + "`.";
    if (!page.words.empty()) text += " Also found by " + plain(joined(page.words, ", ")) + ".";
    text += '\n' + example_text(page, links) + slots_text(page) + refusals_text(page) +
            words_of_page(page, links);
    if (page.related.empty()) return text;
    text += "\n## See also\n\n";
    std::vector<std::string> others;
    for (const ReferenceLink& other : page.related)
        others.push_back(links.page ? link(plain(other.verb), links.page(other.kind)) : plain(other.verb));
    return text + joined(others, " · ") + '\n';
}

std::string words_text(const Catalogue& catalogue, const ReferenceLinks& links) {
    std::string text = "# Words of the trade\n";
    for (const TradeWord& word : trade_words()) {
        text += "\n## " + plain(word.word) + "\n\n";
        if (links.picture) text += "![" + plain(word.word) + "](" + links.picture(word.example) + ")\n\n";
        text += plain(word.meaning);
        const StepKind* shown = links.page ? catalogue.find(word.example) : nullptr;
        if (shown) text += " *" + link(plain(shown->verb), links.page(shown->key)) + "*";
        text += '\n';
    }
    return text;
}

std::string contents_text(const Catalogue& catalogue, const ReferenceLinks& links) {
    std::string text =
        "# Steps\n\nEvery kind of step, by what one wants to do. *Continue with …* offers them, "
        "**F2** on a step opens its page.";
    if (links.word) text += ' ' + link("Words of the trade", links.word({})) + " says what is meant by what.";
    text += '\n';
    for (const Subject& subject : subjects()) {
        text += "\n## " + plain(subject.title) + "\n\n";
        if (links.picture) text += "| | | |\n| --- | --- | --- |\n";
        for (const StepKind& kind : catalogue.kinds()) {
            if (&subject_of(kind) != &subject) continue;
            const std::string name =
                links.page ? link(plain(kind.verb), links.page(kind.key)) : plain(kind.verb);
            if (links.picture)
                text += "| <img src=\"" + links.picture(kind.key) + "\" width=\"150\" alt=\"\"> | " + name +
                        " | " + plain(first_sentence(kind, Step())) + " |\n";
            else
                text += "- " + name + " (`" + kind.key + "`)\n";
        }
    }
    return text;
}

}  // namespace plume
