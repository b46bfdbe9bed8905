#include "core/base/helper_program.hpp"

#include <fcntl.h>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <charconv>
#include <csignal>
#include <filesystem>

namespace plume {
namespace {

namespace fs = std::filesystem;

// Beside the installed program, or where the build puts it.
fs::path helper_path(const std::string& name) {
    std::error_code problem;
    const fs::path program = fs::read_symlink("/proc/self/exe", problem);
    const fs::path installed = program.parent_path() / ".." / "libexec" / "plume-lattice" / name;
    return fs::exists(installed, problem) ? installed : fs::path(PLUME_BUILT_HELPERS) / name;
}

// Both ends of a pipe; closed when it goes.
class Pipe {
public:
    Pipe() { open_ = pipe2(ends_.data(), O_CLOEXEC) == 0; }
    ~Pipe() {
        close_end(0);
        close_end(1);
    }
    Pipe(const Pipe&) = delete;
    Pipe& operator=(const Pipe&) = delete;
    bool open() const { return open_; }
    int reads() const { return ends_[0]; }
    int writes() const { return ends_[1]; }
    void close_end(std::size_t end) {
        if (open_ && ends_[end] >= 0) close(ends_[end]);
        ends_[end] = -1;
    }

private:
    std::array<int, 2> ends_{-1, -1};
    bool open_ = false;
};

class Helper {
public:
    Helper(const fs::path& path, const std::vector<std::string>& arguments) {
        if (!output_.open() || !errors_.open()) return;
        std::vector<std::string> words{path.string()};
        words.insert(words.end(), arguments.begin(), arguments.end());
        std::vector<char*> pointers = argument_pointers(words);
        posix_spawn_file_actions_t actions;
        posix_spawn_file_actions_init(&actions);
        posix_spawn_file_actions_addopen(&actions, STDIN_FILENO, "/dev/null", O_RDONLY, 0);
        posix_spawn_file_actions_adddup2(&actions, output_.writes(), STDOUT_FILENO);
        posix_spawn_file_actions_adddup2(&actions, errors_.writes(), STDERR_FILENO);
        started_ = posix_spawn(&process_, path.c_str(), &actions, nullptr, pointers.data(), environ) == 0;
        posix_spawn_file_actions_destroy(&actions);
        output_.close_end(1);
        errors_.close_end(1);
    }
    bool started() const { return started_; }

    // Until it ends.
    std::string read(const Run& run) {
        std::string whole, told;
        std::array<pollfd, 2> watched{pollfd{output_.reads(), POLLIN, 0}, pollfd{errors_.reads(), POLLIN, 0}};
        while (watched[0].fd >= 0 || watched[1].fd >= 0) {
            if (run.cancelled()) kill(process_, SIGKILL);
            if (poll(watched.data(), watched.size(), 50) <= 0) continue;
            take(watched[0], whole);
            take(watched[1], told);
            report_last(told, run);
        }
        return whole;
    }
    bool ended_well() {
        int status = 0;
        return started_ && waitpid(process_, &status, 0) == process_ && WIFEXITED(status) &&
               WEXITSTATUS(status) == 0;
    }

private:
    static void take(pollfd& watched, std::string& into) {
        if (watched.fd < 0 || watched.revents == 0) return;
        std::array<char, 65536> piece{};
        const ssize_t count = ::read(watched.fd, piece.data(), piece.size());
        if (count > 0)
            into.append(piece.data(), static_cast<std::size_t>(count));
        else
            watched.fd = -1;
    }
    // The last whole line, where it is a share; what came before it is not needed any more.
    static void report_last(std::string& told, const Run& run) {
        const std::size_t end = told.rfind('\n');
        if (end == std::string::npos) return;
        const std::size_t begin = told.rfind('\n', end == 0 ? 0 : end - 1);
        const std::size_t from = begin == std::string::npos || begin == end ? 0 : begin + 1;
        double share = 0;
        const auto read = std::from_chars(told.data() + from, told.data() + end, share);
        if (read.ec == std::errc() && share >= 0 && share <= 1) run.report(share);
        told.erase(0, end + 1);
    }

    Pipe output_, errors_;
    pid_t process_ = 0;
    bool started_ = false;
};

}  // namespace

std::vector<char*> argument_pointers(std::vector<std::string>& words) {
    std::vector<char*> pointers;
    pointers.reserve(words.size() + 1);
    for (std::string& word : words)
        pointers.push_back(word.data());
    pointers.push_back(nullptr);
    return pointers;
}

Result<std::string> output_of_helper(const std::string& name, const std::vector<std::string>& arguments,
                                     const Run& run) {
    Helper helper(helper_path(name), arguments);
    if (!helper.started())
        return Error{ErrorCode::broke_off, "", "cannot be read: the program ‘" + name + "’ is missing",
                     "Install it anew."};
    std::string output = helper.read(run);
    const bool well = helper.ended_well();
    if (run.cancelled()) return cancelled_error();
    if (!well)
        return Error{ErrorCode::broke_off, "",
                     "cannot be read: it broke what reads it, or took too much time or memory",
                     "Get it anew, or save less of it."};
    return output;
}

}  // namespace plume
