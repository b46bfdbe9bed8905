#pragma once
// Sums that do not lose the last digits: Neumaier, Rundungsfehleranalyse einiger Verfahren zur Summation
// endlicher Summen, ZAMM 54, 1974, doi 10.1002/zamm.19740540106. The error does not grow with the number of
// summands.

#include <cmath>

namespace plume {

class Sum {
public:
    void add(double value) {
        const double next = sum_ + value;
        lost_ += std::abs(sum_) >= std::abs(value) ? (sum_ - next) + value : (value - next) + sum_;
        sum_ = next;
    }
    void add(const Sum& other) {
        add(other.sum_);
        lost_ += other.lost_;
    }
    double value() const { return sum_ + lost_; }

private:
    double sum_ = 0, lost_ = 0;
};

}  // namespace plume
