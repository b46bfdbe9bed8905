#pragma once
// A response drawn by hand: answers at knots over 0..1, joined by straight or smooth pieces.
//
// Smooth pieces are monotone cubics (Fritsch & Carlson, Monotone piecewise cubic interpolation, SIAM J.
// Numer. Anal. 17(2), 1980, doi 10.1137/0717021): between two knots the answer never leaves what stands at
// them. As text: "0:0 0.4:0.7- 1:1", a minus behind a knot meaning that a straight piece follows.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

struct ResponseKnot {
    double at = 0, answer = 0;
    bool straight = false;  // the piece to the next knot
    bool operator==(const ResponseKnot&) const = default;
};

class ResponseCurve {
public:
    // Two to 64 knots, `at` rising from exactly 0 to exactly 1, answers from 0 to 1. Errors: too_few_points,
    // out_of_range.
    static Result<ResponseCurve> make(std::vector<ResponseKnot> knots);

    const std::vector<ResponseKnot>& knots() const { return knots_; }
    // Held at its ends beyond 0..1; not a number stays so.
    double operator()(double t) const;

private:
    struct Piece {
        double at, a, b, c, d;  // a + s (b + s (c + s d)), s = t - at
    };
    std::vector<ResponseKnot> knots_;
    std::vector<Piece> pieces_;
    std::vector<std::uint8_t> piece_at_;  // the piece at each of equal bins of t
};

// Errors: bad_number, and those of make().
Result<ResponseCurve> read_response(std::string_view text);
std::string response_text(const std::vector<ResponseKnot>& knots);

}  // namespace plume
