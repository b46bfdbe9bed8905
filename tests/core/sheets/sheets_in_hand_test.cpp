// What falls is put together once for all moments, and nothing of earlier ones is left in it.

#include "core/steps/sheets/sheets_in_hand.hpp"

#include <gtest/gtest.h>

#include <functional>

#include "core/geometry/meshes/vertex_places.hpp"

namespace plume {
namespace {

Mesh triangle(double wide) {
    Mesh::Parts parts;
    set_vertices(parts, {{0, 0, 0}, {wide, 0, 0}, {0, 1, 0}});
    parts.corners = {0, 1, 2};
    parts.first = {0, 3};
    return *Mesh::make(std::move(parts));
}

MadeFrom made_from(double wide) {
    const Mesh mesh = triangle(wide);
    return {mesh, vertex_places(mesh), {}, "silk", 0.01};
}

std::unique_ptr<SheetInHand> sheet_of(double wide) {
    const Mesh mesh = triangle(wide);
    return std::make_unique<SheetInHand>(*make_sheet(mesh, vertex_places(mesh), {}), vertex_places(mesh));
}

TEST(SheetsInHands, OneThatWasGivenBackIsTakenByOneAlone) {
    SheetsInHand sheets;
    EXPECT_EQ(sheets.take(made_from(1)), nullptr);
    auto made = sheet_of(1);
    const SheetInHand* which = made.get();
    sheets.give_back(made_from(1), std::move(made));
    const auto taken = sheets.take(made_from(1));
    EXPECT_EQ(taken.get(), which);
    EXPECT_EQ(sheets.take(made_from(1)), nullptr);
}

TEST(SheetsInHands, WhateverItIsMadeFromTellsItApart) {
    SheetsInHand sheets;
    sheets.give_back(made_from(1), sheet_of(1));
    EXPECT_EQ(sheets.take(made_from(2)), nullptr);
    for (const auto& change : std::vector<std::function<void(MadeFrom&)>>{
             [](MadeFrom& from) { from.material = "felt"; }, [](MadeFrom& from) { from.thickness = 0.02; },
             [](MadeFrom& from) {
                 from.grown = {0, 0, 0.1};
             },
             [](MadeFrom& from) { from.rest[1].z = 1; },
             [](MadeFrom& from) {
                 Mesh::Parts parts = std::get<Mesh>(from.thing).parts();
                 parts.corners = {0, 2, 1};
                 from.thing = *Mesh::make(std::move(parts));
             }}) {
        MadeFrom other = made_from(1);
        change(other);
        EXPECT_EQ(sheets.take(other), nullptr);
    }
    EXPECT_NE(sheets.take(made_from(1)), nullptr);
}

TEST(SheetsInHands, TheLatestAreKept) {
    SheetsInHand sheets;
    for (const double wide : {1.0, 2.0, 3.0, 4.0, 5.0})
        sheets.give_back(made_from(wide), sheet_of(wide));
    EXPECT_EQ(sheets.take(made_from(1)), nullptr);
    EXPECT_EQ(sheets.take(made_from(2)), nullptr);
    for (const double wide : {3.0, 4.0, 5.0})
        EXPECT_NE(sheets.take(made_from(wide)), nullptr);
}

}  // namespace
}  // namespace plume
