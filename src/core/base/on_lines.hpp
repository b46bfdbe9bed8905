#pragma once
// Numbers that begin on a line of the processor's cache, so that four of them at once never lie on two.

#include <cstddef>
#include <memory>
#include <new>
#include <vector>

namespace plume {

template <class T>
struct OnLines : std::allocator<T> {
    static constexpr std::align_val_t line{64};

    template <class U>
    struct rebind {  // NOLINT(readability-identifier-naming): the standard's name
        using other = OnLines<U>;
    };
    T* allocate(std::size_t count) { return static_cast<T*>(::operator new(count * sizeof(T), line)); }
    void deallocate(T* place, std::size_t) noexcept { ::operator delete(place, line); }
};

using LinedDoubles = std::vector<double, OnLines<double>>;

}  // namespace plume
