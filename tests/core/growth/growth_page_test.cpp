// The page about growth: its rules are rules.

#include <fstream>

#include "core/growth/growth_rules.hpp"
#include "core/support.hpp"
#include "folders.hpp"

namespace plume::test {
namespace {

// Blocks that are set in by four blanks.
std::vector<std::string> blocks_of(const std::string& file) {
    std::ifstream page(file);
    std::vector<std::string> blocks;
    bool inside = false;
    for (std::string line; std::getline(page, line);) {
        const bool set_in = line.starts_with("    ");
        if (set_in && !inside) blocks.emplace_back();
        if (set_in) blocks.back() += line.substr(4) + '\n';
        inside = set_in;
    }
    return blocks;
}

TEST(GrowthPage, ShowsRulesThatCanBeRead) {
    const std::vector<std::string> blocks = blocks_of(std::string(docs_folder) + "/growth.md");
    EXPECT_EQ(blocks.size(), 5U);
    for (const std::string& block : blocks) {
        // Blocks that do something to faces are of the other language.
        RulesSetting setting;
        if (block.find("split") != std::string::npos || block.find("inset") != std::string::npos)
            setting.language = RulesLanguage::faces;
        const auto rules = check_rules(block, setting);
        EXPECT_TRUE(rules) << block << sentence(rules.error());
    }
}

TEST(GrowthPage, NamesEveryWordAndNumber) {
    std::ifstream file(std::string(docs_folder) + "/growth.md");
    const std::string page((std::istreambuf_iterator<char>(file)), {});
    for (const RulesLanguage language : {RulesLanguage::parts, RulesLanguage::faces}) {
        for (const RuleWord& word : rule_words(language))
            EXPECT_NE(page.find(word.word), std::string::npos) << word.word;
        RulesSetting setting;
        setting.attractors = true;
        setting.language = language;
        for (const FormulaInput& input : inputs_of_rules(setting))
            EXPECT_NE(page.find('`' + input.name), std::string::npos) << input.name;
    }
}

}  // namespace
}  // namespace plume::test
