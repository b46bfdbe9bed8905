#pragma once
// Mutations of formats whose grammar few changed bytes survive: numbers give way to others of the text, or to
// digits by chance, in as many places. One in four is of any bytes.

#include <cstddef>
#include <cstdint>
#include <random>
#include <vector>

extern "C" std::size_t LLVMFuzzerMutate(std::uint8_t* data, std::size_t size, std::size_t most);

namespace plume {

class OtherNumbers {
public:
    OtherNumbers(std::uint8_t* data, std::size_t size, unsigned seed) : data_(data), chance_(seed) {
        for (std::size_t at = 0; at < size; ++at) {
            if (!is_digit(data[at])) continue;
            const std::size_t begin = at;
            while (at < size && is_digit(data[at]))
                ++at;
            numbers_.push_back({begin, at});
        }
    }
    bool none() const { return numbers_.empty(); }
    void change_some() {
        for (std::size_t count = 1 + below(4); count > 0; --count)
            change(numbers_[below(numbers_.size())]);
    }

private:
    struct Number {
        std::size_t begin, end;
    };
    static bool is_digit(std::uint8_t byte) { return byte >= '0' && byte <= '9'; }
    std::size_t below(std::size_t count) { return chance_() % count; }
    // The other's last digits, behind zeros.
    void change(const Number& number) {
        const Number other = numbers_[below(numbers_.size())];
        const bool by_chance = below(4) == 0;
        std::size_t from = other.end;
        for (std::size_t at = number.end; at-- > number.begin;) {
            const bool more = from > other.begin;
            const auto digit = by_chance ? static_cast<std::uint8_t>('0' + below(10))
                                         : (more ? data_[--from] : std::uint8_t{'0'});
            data_[at] = digit;
        }
    }

    std::uint8_t* data_;
    std::minstd_rand chance_;
    std::vector<Number> numbers_;
};

inline std::size_t with_other_numbers(std::uint8_t* data, std::size_t size, std::size_t most, unsigned seed) {
    OtherNumbers numbers(data, size, seed);
    if (numbers.none() || seed % 4 == 0) return LLVMFuzzerMutate(data, size, most);
    numbers.change_some();
    return size;
}

}  // namespace plume
