#pragma once
// Integrals of smooth functions over an interval: Gauss-Legendre's rule of five points, halved until two
// halves and the whole agree.

#include <array>
#include <cmath>
#include <numeric>

namespace plume {

// `function(t)` gives a number or a vector; `size(value)` says how large a value is, to compare two.
template <class Function>
auto gauss_rule(const Function& function, double from, double to) {
    // Nodes and weights of the rule on -1..1 (Abramowitz & Stegun, table 25.4).
    static constexpr std::array<std::array<double, 2>, 5> nodes{{{0, 0.5688888888888889},
                                                                 {0.5384693101056831, 0.4786286704993665},
                                                                 {-0.5384693101056831, 0.4786286704993665},
                                                                 {0.9061798459386640, 0.2369268850561891},
                                                                 {-0.9061798459386640, 0.2369268850561891}}};
    const double middle = (from + to) / 2, half = (to - from) / 2;
    decltype(function(from)) sum{};
    for (const auto& [node, weight] : nodes)
        sum = sum + function(middle + half * node) * weight;
    return sum * half;
}

// Until what halving changes is at most `agreement(halves)`, or the interval was halved so often. Of order
// ten: what halving changes is a thousand times what is still wrong with the halves.
template <class Function, class Agreed, class Value>
Value halved_integral(const Function& function, const Agreed& agreed, double from, double to,
                      const Value& whole, int halvings) {
    const double middle = std::midpoint(from, to);
    const Value first = gauss_rule(function, from, middle), second = gauss_rule(function, middle, to);
    if (halvings == 0 || agreed(first, second, whole)) return first + second;
    return halved_integral(function, agreed, from, middle, first, halvings - 1) +
           halved_integral(function, agreed, middle, to, second, halvings - 1);
}

}  // namespace plume
