// Results by key: what is let go of first, and work that several want at once.

#include "core/evaluation/result_store.hpp"

#include <atomic>
#include <thread>

#include "core/support.hpp"

namespace plume {
namespace {

ValuePointer grid_value(std::size_t side = 100) {
    return std::make_shared<const Value>(test::grid(side, side));
}

TEST(ResultStore, StaysWithinItsBound) {
    const std::size_t one = bytes_of(*grid_value());
    ResultStore store(3 * one);
    for (std::uint64_t key = 0; key < 10; ++key)
        store.put({0, key}, {grid_value()});
    EXPECT_LE(store.bytes(), 3 * one);
    EXPECT_EQ(store.find({0, 0}).value, nullptr);
    EXPECT_NE(store.find({0, 9}).value, nullptr);
    EXPECT_NE(store.find({0, 7}).value, nullptr);
    store.put({0, 10}, {grid_value()});
    EXPECT_EQ(store.find({0, 8}).value, nullptr) << "of equals the one longest unused goes first";
    ResultStore small(one / 2);
    small.put({0, 1}, {grid_value()});
    EXPECT_EQ(small.bytes(), 0U);
}

TEST(ResultStore, WhatTookLongStaysLonger) {
    const ValuePointer value = grid_value();
    ResultStore store(4 * bytes_of(*value));
    store.put({0, 0}, {value}, 10);
    for (std::uint64_t key = 1; key < 20; ++key)
        store.put({0, key}, {value}, 0.01);
    EXPECT_NE(store.find({0, 0}).value, nullptr);
    // But not for ever: what is never asked for again is outlived by enough that is new.
    for (std::uint64_t key = 20; key < 8000; ++key)
        store.put({0, key}, {value}, 0.01);
    EXPECT_EQ(store.find({0, 0}).value, nullptr);
}

TEST(ResultStore, WhatTakesRoomGoesBeforeWhatDoesNot) {
    const std::size_t large = bytes_of(*grid_value(200)), small = bytes_of(*grid_value(10));
    ResultStore store(large + 10 * small);
    store.put({0, 0}, {grid_value(10)}, 1);
    store.put({0, 1}, {grid_value(200)}, 1);
    for (std::uint64_t key = 2; key < 13; ++key)
        store.put({0, key}, {grid_value(10)}, 1);
    EXPECT_NE(store.find({0, 0}).value, nullptr);
    EXPECT_EQ(store.find({0, 1}).value, nullptr);
}

TEST(ResultStore, OneMakesWhatManyWant) {
    ResultStore store(100'000'000);
    std::atomic<int> made{0}, got{0};
    const auto want = [&] {
        ResultStore::Claim claim = store.claim({1, 2}, plume::Run());
        if (claim.made().value) {
            ++got;
            return;
        }
        ++made;
        while (store.waiting() < 5)
            std::this_thread::yield();
        claim.fulfil({grid_value()}, 0.03);
    };
    std::vector<std::thread> threads;
    for (int count = 0; count < 6; ++count)
        threads.emplace_back(want);
    for (std::thread& thread : threads)
        thread.join();
    EXPECT_EQ(made, 1);
    EXPECT_EQ(got, 5);
}

// Also where it is too large to be kept.
TEST(ResultStore, WhoWaitsGetsWhatIsNotKept) {
    ResultStore store(10);
    ValuePointer seen;
    std::thread waiting;
    {
        ResultStore::Claim mine = store.claim({3, 4}, plume::Run());
        waiting = std::thread([&] {
            ResultStore::Claim claim = store.claim({3, 4}, plume::Run());
            seen = claim.made().value;
        });
        // As often as it takes for the other thread to wait.
        while (store.waiting() == 0)
            std::this_thread::yield();
        mine.fulfil({grid_value()}, 1);
    }
    waiting.join();
    EXPECT_EQ(store.bytes(), 0U);
    ASSERT_NE(seen, nullptr);
    EXPECT_EQ(bytes_of(*seen), bytes_of(*grid_value()));
}

TEST(ResultStore, WorkThatIsGivenUpGoesToTheNext) {
    ResultStore store(100'000'000);
    std::thread next;
    bool theirs = false;
    {
        const ResultStore::Claim mine = store.claim({5, 6}, plume::Run());
        next = std::thread([&] {
            ResultStore::Claim claim = store.claim({5, 6}, plume::Run());
            theirs = !claim.made().value;
            claim.fulfil({grid_value()}, 0);
        });
        while (store.waiting() == 0)
            std::this_thread::yield();
    }
    next.join();
    EXPECT_TRUE(theirs);
    EXPECT_NE(store.find({5, 6}).value, nullptr);
}

TEST(ResultStore, WaitingEndsWhenItIsCancelled) {
    ResultStore store(100'000'000);
    const ResultStore::Claim mine = store.claim({7, 8}, plume::Run());
    const plume::Run run;
    std::thread other([&] { (void)store.claim({7, 8}, run); });
    run.cancel();
    other.join();  // would wait for ever
}

}  // namespace
}  // namespace plume
