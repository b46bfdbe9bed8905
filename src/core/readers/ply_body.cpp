#include "core/readers/ply_body.hpp"

#include <algorithm>
#include <array>
#include <bit>
#include <cstring>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/readers/text_scan.hpp"

namespace plume {
namespace {

template <class Number>
double number_at(const char* place, bool swapped) {
    std::array<char, sizeof(Number)> raw;
    std::memcpy(raw.data(), place, raw.size());
    if (swapped) std::ranges::reverse(raw);
    return static_cast<double>(std::bit_cast<Number>(raw));
}

// Numbers one after the other; nothing where the file ends or what stands there is no number.
class BinaryNumbers {
public:
    BinaryNumbers(std::string_view rest, bool swapped) : rest_(rest), swapped_(swapped) {}
    std::optional<double> next(PlyType type) {
        const std::size_t size = bytes_of(type);
        if (rest_.size() < size) return {};
        const char* place = rest_.data();
        rest_.remove_prefix(size);
        switch (type) {
            case PlyType::int8:
                return number_at<std::int8_t>(place, swapped_);
            case PlyType::uint8:
                return number_at<std::uint8_t>(place, swapped_);
            case PlyType::int16:
                return number_at<std::int16_t>(place, swapped_);
            case PlyType::uint16:
                return number_at<std::uint16_t>(place, swapped_);
            case PlyType::int32:
                return number_at<std::int32_t>(place, swapped_);
            case PlyType::uint32:
                return number_at<std::uint32_t>(place, swapped_);
            case PlyType::float32:
                return number_at<float>(place, swapped_);
            case PlyType::float64:
                return number_at<double>(place, swapped_);
        }
        return {};
    }
    std::size_t left() const { return rest_.size(); }

private:
    std::string_view rest_;
    bool swapped_;
};

class TextNumbers {
public:
    explicit TextNumbers(std::string_view rest) : rest_(rest) {}
    std::optional<double> next(PlyType /*type*/) { return number_in<double>(take_word(rest_)); }
    std::size_t left() const { return rest_.size(); }

private:
    std::string_view rest_;
};

// Bytes that a row has at least; in a text a digit and a blank for each number.
std::size_t least_row_bytes(const PlyElement& element, PlyOrder order) {
    std::size_t bytes = 0;
    for (const PlyProperty& property : element.properties)
        bytes += order == PlyOrder::text ? 2 : bytes_of(property.list ? property.count_type : property.type);
    return bytes;
}

Error ends_at(const PlyElement& element, std::uint64_t row) {
    return {ErrorCode::file_damaged, "",
            "ends or has no number in row " + grouped_text(static_cast<std::int64_t>(row + 1)) + " of " +
                grouped_text(static_cast<std::int64_t>(element.count)) + " of ‘" + shortened(element.name) +
                "’",
            "Get it anew."};
}

template <class Numbers>
class RowReader {
public:
    RowReader(Numbers& numbers, const PlyElement& element, std::size_t list)
        : numbers_(numbers), element_(element), list_(list) {}

    Result<PlyRows> read(PlyOrder order, const Run& run) {
        rows_.columns.resize(element_.properties.size());
        const std::size_t least = least_row_bytes(element_, order);
        // The last number of a text has no blank behind it.
        if (least == 0 ? element_.count > 0 : element_.count > (numbers_.left() + 1) / least)
            return Error{ErrorCode::file_damaged, "",
                         "says that it has " +
                             grouped_text(static_cast<std::int64_t>(
                                 std::min<std::uint64_t>(element_.count, 1ULL << 62U))) +
                             " rows of ‘" + shortened(element_.name) + "’, more than it has room for",
                         "Get it anew."};
        rows_.list_first.push_back(0);
        for (std::uint64_t row = 0; row < element_.count; ++row) {
            if (!read_row()) return ends_at(element_, row);
            if (row % 65536 == 0 && run.cancelled()) return cancelled_error();
        }
        return std::move(rows_);
    }

private:
    bool read_row() {
        for (std::size_t at = 0; at < element_.properties.size(); ++at) {
            const PlyProperty& property = element_.properties[at];
            if (property.list) {
                if (!read_list(property, at == list_)) return false;
                continue;
            }
            const auto number = numbers_.next(property.type);
            if (!number) return false;
            rows_.columns[at].push_back(*number);
        }
        if (list_ < element_.properties.size()) rows_.list_first.push_back(rows_.list.size());
        return true;
    }
    bool read_list(const PlyProperty& property, bool wanted) {
        const auto count = numbers_.next(property.count_type);
        if (!count || *count < 0 || *count > static_cast<double>(numbers_.left())) return false;
        for (auto left = static_cast<std::uint64_t>(*count); left > 0; --left) {
            const auto number = numbers_.next(property.type);
            if (!number) return false;
            if (wanted) rows_.list.push_back(*number);
        }
        return true;
    }

    Numbers& numbers_;
    const PlyElement& element_;
    std::size_t list_;
    PlyRows rows_;
};

template <class Numbers>
Result<std::vector<PlyRows>> read_all(Numbers numbers, const PlyHead& head,
                                      const std::vector<std::size_t>& lists, const Run& run) {
    std::vector<PlyRows> all;
    for (std::size_t at = 0; at < head.elements.size(); ++at) {
        Result<PlyRows> rows = RowReader(numbers, head.elements[at], lists[at]).read(head.order, run);
        if (!rows) return rows.error();
        all.push_back(*std::move(rows));
    }
    return all;
}

}  // namespace

Result<std::vector<PlyRows>> read_ply_body(std::string_view bytes, const PlyHead& head,
                                           const std::vector<std::size_t>& lists, const Run& run) {
    const std::string_view body = bytes.substr(head.body);
    if (head.order == PlyOrder::text) return read_all(TextNumbers(body), head, lists, run);
    const bool swapped = (head.order == PlyOrder::little) != (std::endian::native == std::endian::little);
    return read_all(BinaryNumbers(body, swapped), head, lists, run);
}

}  // namespace plume
