# Compiler flags shared by every target, and the faster compiler cache and linker where they exist.
find_program(PLUME_CCACHE ccache)
if(PLUME_CCACHE AND NOT CMAKE_CXX_COMPILER_LAUNCHER)
  # A precompiled header is known by the contents of all it was made of, comments too, and not by their times: GCC
  # takes a header for another one, and reads it a second time, when even a comment of it differs. Paths are kept
  # relative to the project, so that what one clone compiled is found by every other.
  set(CMAKE_CXX_COMPILER_LAUNCHER ${CMAKE_COMMAND} -E env CCACHE_DEPEND=1 CCACHE_SLOPPINESS=pch_defines,time_macros
      CCACHE_BASEDIR=${PROJECT_SOURCE_DIR} CCACHE_ABSSTDERR=1 ${PLUME_CCACHE})
endif()
find_program(PLUME_MOLD mold)
if(PLUME_MOLD)
  add_link_options(-fuse-ld=mold)
endif()

add_compile_options(-Wall -Wextra -Wshadow -Wconversion -Wnon-virtual-dtor -Wold-style-cast -Wcast-align
                    -Woverloaded-virtual -Wdouble-promotion)
# GCC 12 sees an overlap where texts are added up that cannot be (GCC bug 105651).
add_compile_options($<$<CXX_COMPILER_ID:GNU>:-Wno-restrict>)
if(PLUME_WARNINGS_AS_ERRORS)
  add_compile_options(-Werror)
endif()

# The numeric loops are written to be vectorised; -O3 is where GCC 12 does so without hesitating.
set(CMAKE_CXX_FLAGS_RELEASE "-O3 -DNDEBUG")
if(PLUME_SANITIZE)
  # -O1 keeps sanitizer runs bearable; frame pointers and the lines of functions make their reports readable.
  add_compile_options(-fsanitize=${PLUME_SANITIZE} -fno-sanitize-recover=all -fno-omit-frame-pointer -O1 -g1)
  add_link_options(-fsanitize=${PLUME_SANITIZE})
  # Their own dlopen asks in place of ours, so what lies beside a program is found only by the program's RPATH, which
  # the newer RUNPATH would keep from it.
  add_link_options(-Wl,--disable-new-dtags)
endif()

option(PLUME_PRECOMPILE "Compile the headers that most units of a target read once for all" ON)
# Read that way, GCC 12 warns of the standard library's own texts, too (GCC bug 105651 again).
function(plume_warn_as_precompiled target)
  target_compile_options(${target} PRIVATE $<$<CXX_COMPILER_ID:GNU>:-Wno-stringop-overflow;-Wno-stringop-overread;-Wno-array-bounds>)
endfunction()
# Headers of ours are named in angle brackets, which stay as they are: of others the build writes whole paths. Lint
# compiles without, and shows that every unit includes what it needs.
function(plume_precompile target)
  if(PLUME_PRECOMPILE)
    target_precompile_headers(${target} PRIVATE ${ARGN})
    plume_warn_as_precompiled(${target})
  endif()
endfunction()

# Reads what was compiled for another target of the same options, instead of compiling it once more.
function(plume_precompiled_as target other)
  if(PLUME_PRECOMPILE)
    target_precompile_headers(${target} REUSE_FROM ${other})
    plume_warn_as_precompiled(${target})
  endif()
endfunction()

# What follows, tells and writes gains nothing from -O3, and compiles in three quarters of the time without.
function(plume_optimised_little)
  foreach(target ${ARGN})
    target_compile_options(${target} PRIVATE $<$<CONFIG:Release>:-O2>)
  endforeach()
endfunction()
