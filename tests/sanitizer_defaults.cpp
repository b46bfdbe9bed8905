// What sanitizers leave out of every program: faults of libraries, which are not built with them.

extern "C" {

// NOLINTBEGIN(bugprone-reserved-identifier): the names they look for
const char* __lsan_default_options() {
    return "print_suppressions=0";
}

// What they keep until the end of a program: the geometry kernel and what opens archives of printers, in the
// programs that read and write their files, each of which does so once; and the last error of pictures.
const char* __lsan_default_suppressions() {
    return "leak:libTK*.so\n"
           "leak:libzip.so\n"
           "leak:libOpenImageIO.so\n";
}

// They hand work over in ways the sanitizer does not see into.
const char* __tsan_default_suppressions() {
    return "race:libOpenImageIO\n"
           "race:libembree3\n";
}

// NOLINTEND(bugprone-reserved-identifier)

}  // extern "C"
