#include "core/steps/points/typed_shares.hpp"

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace plume {

Result<std::vector<double>> typed_shares(const std::string& text) {
    std::vector<double> shares;
    for (const std::string_view word : words_between(text, " ,;\t\n\r")) {
        const auto share = read_number(word);
        if (!share || *share < 0 || *share > 1)
            return about_slot(Error{ErrorCode::bad_number, "",
                                    "hold ‘" + std::string(word) + "’, which is no number from 0 to 1",
                                    "Type shares of the length, as in 0 0.25 0.5 1."},
                              "shares");
        shares.push_back(*share);
    }
    if (shares.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "are not given", "Type some, as in 0 0.25 1."},
                          "shares");
    return shares;
}

}  // namespace plume
