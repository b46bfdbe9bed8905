#pragma once
// A column: one double per address, immutable and shared. Results that did not change a column share it
// with the result they came from, so pushing points along Z copies a third of what it reads.

#include <cstddef>
#include <memory>
#include <span>
#include <string>
#include <vector>

#include "core/base/large_memory.hpp"
#include "core/base/units.hpp"

namespace plume {

// Leaves doubles uninitialised: every column is written in full right after it is made, and writing a
// million zeros first would cost as much as the computation. Large columns get huge pages.
template <class T>
struct UninitializedAllocator : std::allocator<T> {
    template <class U>
    struct rebind {  // NOLINT(readability-identifier-naming): the standard's name
        using other = UninitializedAllocator<U>;
    };
    T* allocate(std::size_t count) {
        const std::size_t bytes = count * sizeof(T);
        if (bytes < large_block) return std::allocator<T>::allocate(count);
        return static_cast<T*>(allocate_large(bytes));
    }
    void deallocate(T* place, std::size_t count) noexcept {
        if (count * sizeof(T) < large_block)
            std::allocator<T>::deallocate(place, count);
        else
            free_large(place);
    }
    template <class U>
    void construct(U* place) noexcept {
        ::new (static_cast<void*>(place)) U;
    }
    template <class U, class... Args>
    void construct(U* place, Args&&... args) {
        ::new (static_cast<void*>(place)) U(std::forward<Args>(args)...);
    }
};

using Doubles = std::vector<double, UninitializedAllocator<double>>;

class Column {
public:
    Column() : values_(std::make_shared<const Doubles>()) {}
    Column(Doubles values) : values_(std::make_shared<const Doubles>(std::move(values))) {}  // NOLINT: wraps

    std::size_t size() const { return values_->size(); }
    double operator[](std::size_t index) const { return (*values_)[index]; }
    const double* data() const { return values_->data(); }
    std::span<const double> span() const { return {values_->data(), values_->size()}; }
    // Whether two columns are the very same memory.
    bool same_as(const Column& other) const { return values_ == other.values_; }

private:
    std::shared_ptr<const Doubles> values_;
};

// A named column with its dimension: a number on each point, pole, vertex.
struct Field {
    std::string name;
    Column values;
    Dimension dimension;
};

}  // namespace plume
