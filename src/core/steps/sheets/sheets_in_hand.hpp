#pragma once
// What falls from moment to moment is the same thing at each: it is put together once, and kept for the next.

#include <memory>
#include <mutex>
#include <string>
#include <utility>
#include <vector>

#include "core/data/value.hpp"
#include "core/sheets/falling_sheet.hpp"

namespace plume {

// A sheet and how it falls. Results do not depend on what was done with it before.
struct SheetInHand {
    SheetInHand(Sheet made, const std::vector<Vec3>& lying) : sheet(std::move(made)), falling(sheet, lying) {}
    const Sheet sheet;
    FallingSheet falling;
};

// All that a sheet is made from.
struct MadeFrom {
    Value thing;                // how it is put together
    std::vector<Vec3> rest;     // places of its vertices at rest, m
    std::vector<double> grown;  // shares by which it is longer there; empty: none
    std::string material;
    double thickness = 0;  // m
};

// Those that were in hand lately; nobody else has one while it is taken. Thread-safe.
class SheetsInHand {
public:
    SheetsInHand() { kept_.reserve(most_kept + 1); }

    // Nullptr where there is none.
    std::unique_ptr<SheetInHand> take(const MadeFrom& from);
    void give_back(MadeFrom from, std::unique_ptr<SheetInHand> sheet) noexcept;

private:
    static constexpr std::size_t most_kept = 3;
    static constexpr std::size_t most_vertices = 150'000;  // of all of them, at some 2 kB each
    struct Kept {
        MadeFrom from;
        std::unique_ptr<SheetInHand> sheet;
    };
    std::mutex mutex_;
    std::vector<Kept> kept_;  // the latest last
};

// Given back when it is done with.
class TakenSheet {
public:
    TakenSheet(std::shared_ptr<SheetsInHand> to, MadeFrom from, std::unique_ptr<SheetInHand> sheet)
        : to_(std::move(to)), from_(std::move(from)), sheet_(std::move(sheet)) {}
    ~TakenSheet() {
        if (sheet_) to_->give_back(std::move(from_), std::move(sheet_));
    }
    TakenSheet(TakenSheet&&) noexcept = default;
    TakenSheet& operator=(TakenSheet&&) = delete;
    TakenSheet(const TakenSheet&) = delete;
    TakenSheet& operator=(const TakenSheet&) = delete;

    SheetInHand* operator->() const { return sheet_.get(); }

private:
    std::shared_ptr<SheetsInHand> to_;
    MadeFrom from_;
    std::unique_ptr<SheetInHand> sheet_;
};

// Whether two are put together alike: faces of the same corners, members between the same nodes.
bool are_put_together_alike(const Value& one, const Value& other);

}  // namespace plume
