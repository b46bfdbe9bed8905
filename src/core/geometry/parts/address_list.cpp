#include "core/geometry/parts/address_list.hpp"

#include <algorithm>
#include <charconv>
#include <optional>

#include "core/base/text.hpp"
#include "core/geometry/parts/subset.hpp"

namespace plume {
namespace {

struct Interval {
    std::ptrdiff_t first = 0, last = 0;
};

std::optional<std::ptrdiff_t> whole(std::string_view text) {
    std::ptrdiff_t number = 0;
    const auto [end, wrong] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (wrong != std::errc() || end != text.data() + text.size()) return {};
    return number;
}

// "3", "-1", "2..5", "*" along a direction of `count`.
std::optional<Interval> interval_of(std::string_view text, std::size_t count) {
    const auto n = static_cast<std::ptrdiff_t>(count);
    if (text == "*") return Interval{0, n - 1};
    const std::size_t dots = text.find("..");
    const auto first = whole(text.substr(0, std::min(dots, text.size())));
    const auto last = dots == std::string_view::npos ? first : whole(text.substr(dots + 2));
    if (!first || !last) return {};
    const auto from_end = [&](std::ptrdiff_t number) { return number < 0 ? n + number : number; };
    return Interval{from_end(*first), from_end(*last)};
}

std::vector<std::string_view> parts_of(std::string_view word) {
    std::vector<std::string_view> parts;
    while (true) {
        const std::size_t comma = std::min(word.find(','), word.size());
        parts.push_back(word.substr(0, comma));
        if (comma == word.size()) return parts;
        word.remove_prefix(comma + 1);
    }
}

class Marking {
public:
    explicit Marking(const PointLattice& lattice) : lattice_(lattice) {
        result.mask.assign(lattice.address_count(), 0);
    }
    NamedAddresses result;

    void mark(std::size_t index, std::string_view word) {
        if (!lattice_.present(index)) return miss(word);
        if (std::exchange(result.mask[index], std::uint8_t{1}) == 0) result.indices.push_back(index);
    }
    void miss(std::string_view word) {
        if (result.missing++ == 0) result.first_missing = word;
    }
    void mark_all(const std::array<Interval, 3>& ranges, std::string_view word) {
        std::array<Interval, 3> inside = ranges;
        bool beyond = false;
        for (std::size_t d = 0; d < 3; ++d) {
            const auto most = static_cast<std::ptrdiff_t>(lattice_.counts()[d]) - 1;
            beyond = beyond || inside[d].first < 0 || inside[d].last > most;
            inside[d] = {std::max<std::ptrdiff_t>(inside[d].first, 0), std::min(inside[d].last, most)};
        }
        if (beyond) miss(word);
        for (std::ptrdiff_t k = inside[2].first; k <= inside[2].last; ++k)
            for (std::ptrdiff_t j = inside[1].first; j <= inside[1].last; ++j)
                for (std::ptrdiff_t i = inside[0].first; i <= inside[0].last; ++i) {
                    const std::size_t index =
                        lattice_.index({static_cast<std::size_t>(i), static_cast<std::size_t>(j),
                                        static_cast<std::size_t>(k)});
                    const bool single =
                        ranges[0].first == ranges[0].last && ranges[1].first == ranges[1].last;
                    if (single || lattice_.present(index)) mark(index, word);
                }
    }

private:
    const PointLattice& lattice_;
};

// Of one word that is cut up.
constexpr std::ptrdiff_t most_written_out = 4000;

bool marked_in(std::string_view list, std::size_t entry, const Listing& listing) {
    const auto named = listing.named_in(list);
    return named && named->mask[entry] != 0;
}

std::string with_word(std::string list, std::string_view word) {
    if (!list.empty()) list += ' ';
    return std::move(list.append(word));
}

}  // namespace

Result<NamedAddresses> named_addresses(std::string_view text, const PointLattice& lattice) {
    Marking marking(lattice);
    const auto wrong = [](std::string_view word) {
        return Error{ErrorCode::bad_number, "", "‘" + std::string(word.substr(0, 40)) + "’ is no address",
                     "Write i,j as in 3,2, ranges as in 2..5,0, a whole row as *,3."};
    };
    const std::vector<std::string_view> words = words_between(text, list_separators);
    if (words.empty())
        return Error{ErrorCode::empty_input, "", "No address is given",
                     "Type some, or pick points in the model."};
    for (const std::string_view word : words) {
        const std::vector<std::string_view> parts = parts_of(word);
        if (parts.size() > 3) return wrong(word);
        std::array<Interval, 3> ranges{};
        if (parts.size() == 1 && !one_way(lattice)) {
            // Points in their order.
            const auto range = interval_of(parts[0], lattice.address_count());
            if (!range) return wrong(word);
            const auto count = static_cast<std::ptrdiff_t>(lattice.address_count());
            if (range->first < 0 || range->last >= count) marking.miss(word);
            for (std::ptrdiff_t at = std::max<std::ptrdiff_t>(range->first, 0);
                 at <= std::min(range->last, count - 1); ++at)
                marking.mark(static_cast<std::size_t>(at), word);
            continue;
        }
        for (std::size_t d = 0; d < parts.size(); ++d) {
            const auto range = interval_of(parts[d], lattice.counts()[d]);
            if (!range) return wrong(word);
            ranges[d] = *range;
        }
        if (parts.size() == 2 && lattice.counts()[2] > 1)
            ranges[2] = {0, static_cast<std::ptrdiff_t>(lattice.counts()[2]) - 1};
        marking.mark_all(ranges, word);
    }
    return std::move(marking.result);
}

Result<NamedAddresses> named_numbers(std::string_view text, std::size_t count) {
    const std::vector<Vec3> places(count);
    return named_addresses(text, points_at({Arrangement::row, {count, 1, 1}, {}}, places));
}

void turn_over(std::vector<std::uint8_t>& mask) {
    for (std::uint8_t& entry : mask)
        entry = entry != 0 ? 0 : 1;
}

Result<std::string> with_turned_over(std::string_view list, std::size_t entry, const Listing& listing) {
    if (!marked_in(list, entry, listing)) return with_word(std::string(list), listing.listed_as(entry));
    std::string left;
    for (const std::string_view word : words_between(list, list_separators)) {
        const auto named = listing.named_in(word);
        if (!named || named->mask[entry] == 0) {
            left = with_word(std::move(left), word);
            continue;
        }
        if (const auto many = std::ranges::count(named->mask, 1); many > most_written_out)
            return Error{
                ErrorCode::too_long, "",
                "‘" + std::string(word.substr(0, 40)) + "’ names " + std::to_string(many) + " at once",
                "Type what is to be left of it."};
        for (std::size_t other = 0; other < named->mask.size(); ++other)
            if (named->mask[other] != 0 && other != entry)
                left = with_word(std::move(left), listing.listed_as(other));
    }
    return left;
}

}  // namespace plume
