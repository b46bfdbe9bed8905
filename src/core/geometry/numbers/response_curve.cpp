#include "core/geometry/numbers/response_curve.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace plume {
namespace {

constexpr std::size_t bin_count = 256, most_knots = 64;

Error at_knot(std::size_t number, const std::string& what) {
    return {ErrorCode::out_of_range, "Knot " + std::to_string(number + 1), what, "Move it, or take it away."};
}

// Slopes at the knots of a run of smooth pieces: the harmonic mean of the neighbouring chords where they go
// the same way, else 0, which keeps every piece monotone (Fritsch & Butland 1984); at its ends the chord.
std::vector<double> smooth_slopes(const std::vector<ResponseKnot>& knots, std::size_t first,
                                  std::size_t last) {
    const auto chord = [&](std::size_t piece) {
        return (knots[piece + 1].answer - knots[piece].answer) / (knots[piece + 1].at - knots[piece].at);
    };
    std::vector<double> slopes;
    for (std::size_t at = first; at <= last; ++at) {
        if (at == first || at == last) {
            slopes.push_back(chord(at == first ? first : last - 1));
            continue;
        }
        const double before = chord(at - 1), after = chord(at);
        slopes.push_back(before * after > 0 ? 2 * before * after / (before + after) : 0);
    }
    return slopes;
}

}  // namespace

Result<ResponseCurve> ResponseCurve::make(std::vector<ResponseKnot> knots) {
    if (knots.size() < 2 || knots.size() > most_knots)
        return Error{ErrorCode::too_few_points, "", "A drawn response has 2 to 64 knots",
                     "Add or remove some."};
    if (knots.front().at != 0 || knots.back().at != 1)
        return Error{ErrorCode::out_of_range, "", "A drawn response runs from 0 to 1",
                     "Let its first knot stand at 0 and its last at 1."};
    for (std::size_t number = 0; number < knots.size(); ++number) {
        if (!(knots[number].answer >= 0 && knots[number].answer <= 1))
            return at_knot(number,
                           "answers " + short_text(knots[number].answer) + ", which is not from 0 to 1");
        if (number > 0 && !(knots[number].at > knots[number - 1].at))
            return at_knot(number, "does not stand behind the one before it");
    }
    ResponseCurve curve;
    curve.pieces_.resize(knots.size() - 1);
    for (std::size_t piece = 0; piece + 1 < knots.size();) {
        if (knots[piece].straight) {
            const double slope =
                (knots[piece + 1].answer - knots[piece].answer) / (knots[piece + 1].at - knots[piece].at);
            curve.pieces_[piece] = {knots[piece].at, knots[piece].answer, slope, 0, 0};
            ++piece;
            continue;
        }
        std::size_t last = piece;
        while (last + 1 < knots.size() && !knots[last].straight)
            ++last;
        const std::vector<double> slopes = smooth_slopes(knots, piece, last);
        for (std::size_t at = piece; at < last; ++at) {
            const double h = knots[at + 1].at - knots[at].at, rise = knots[at + 1].answer - knots[at].answer;
            const double from = slopes[at - piece], to = slopes[at - piece + 1];
            curve.pieces_[at] = {knots[at].at, knots[at].answer, from, (3 * rise / h - 2 * from - to) / h,
                                 (from + to - 2 * rise / h) / (h * h)};
        }
        piece = last;
    }
    for (std::size_t bin = 0; bin < bin_count; ++bin) {
        const double t = static_cast<double>(bin) / bin_count;
        std::size_t piece = 0;
        while (piece + 1 < curve.pieces_.size() && curve.pieces_[piece + 1].at <= t)
            ++piece;
        curve.piece_at_.push_back(static_cast<std::uint8_t>(piece));
    }
    curve.knots_ = std::move(knots);
    return curve;
}

double ResponseCurve::operator()(double t) const {
    if (!(t > 0)) return t <= 0 ? knots_.front().answer : t;
    if (t >= 1) return knots_.back().answer;
    std::size_t piece = piece_at_[static_cast<std::size_t>(t * bin_count)];
    while (piece + 1 < pieces_.size() && pieces_[piece + 1].at <= t)
        ++piece;
    const Piece& p = pieces_[piece];
    const double s = t - p.at;
    return p.a + s * (p.b + s * (p.c + s * p.d));
}

Result<ResponseCurve> read_response(std::string_view text) {
    std::vector<ResponseKnot> knots;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find(' '), text.size());
        std::string_view word = text.substr(0, end);
        text.remove_prefix(std::min(end + 1, text.size()));
        if (word.empty()) continue;
        const bool straight = word.back() == '-';
        if (straight) word.remove_suffix(1);
        const std::size_t colon = std::min(word.find(':'), word.size());
        const auto at = read_number(word.substr(0, colon));
        const auto answer = read_number(word.substr(std::min(colon + 1, word.size())));
        if (!at || !answer)
            return Error{ErrorCode::bad_number, "", "‘" + std::string(word) + "’ is no knot of a response",
                         "Write knots as place:answer, as in 0:0 0.5:0.8 1:1."};
        knots.push_back({*at, *answer, straight});
    }
    return ResponseCurve::make(std::move(knots));
}

std::string response_text(const std::vector<ResponseKnot>& knots) {
    std::string text;
    for (const ResponseKnot& knot : knots)
        text += (text.empty() ? "" : " ") + short_text(knot.at, 6) + ":" + short_text(knot.answer, 6) +
                (knot.straight ? "-" : "");
    return text;
}

}  // namespace plume
