#include "cli/process.hpp"

#include <fcntl.h>
#include <poll.h>
#include <pty.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <stdexcept>

namespace plume::test {
namespace {

struct Pipe {
    std::array<int, 2> ends{};
    Pipe() {
        if (::pipe(ends.data()) != 0) throw std::runtime_error("no pipe");
    }
};

// Reads both until both are closed.
void drain(int out, int err, Finished& finished) {
    std::array<pollfd, 2> fds{{{out, POLLIN, 0}, {err, POLLIN, 0}}};
    std::array<char, 65536> buffer{};
    while (fds[0].fd >= 0 || fds[1].fd >= 0) {
        ::poll(fds.data(), 2, -1);
        for (std::size_t which = 0; which < 2; ++which) {
            if (fds[which].fd < 0 || fds[which].revents == 0) continue;
            const ssize_t count = ::read(fds[which].fd, buffer.data(), buffer.size());
            if (count > 0)
                (which == 0 ? finished.out : finished.err)
                    .append(buffer.data(), static_cast<std::size_t>(count));
            else
                fds[which].fd = -1;
        }
    }
}

Finished run_with(const std::vector<std::string>& words, const Pipe& out, const Pipe& err) {
    const pid_t child = ::fork();
    if (child == 0) {
        ::dup2(::open("/dev/null", O_RDONLY), 0);
        ::dup2(out.ends[1], 1);
        ::dup2(err.ends[1], 2);
        for (const Pipe* pipe : {&out, &err})
            for (const int end : pipe->ends)
                ::close(end);
        std::vector<char*> arguments;
        for (const std::string& word : words)
            arguments.push_back(const_cast<char*>(word.c_str()));
        arguments.push_back(nullptr);
        ::execv(arguments[0], arguments.data());
        ::_exit(127);
    }
    ::close(out.ends[1]);
    ::close(err.ends[1]);
    Finished finished;
    drain(out.ends[0], err.ends[0], finished);
    ::close(out.ends[0]);
    ::close(err.ends[0]);
    int status = 0;
    ::waitpid(child, &status, 0);
    finished.status = WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
    return finished;
}

}  // namespace

Finished run_process(const std::vector<std::string>& words) {
    return run_with(words, Pipe(), Pipe());
}

Finished run_on_terminal(const std::vector<std::string>& words) {
    Pipe terminal;
    for (const int end : terminal.ends)
        ::close(end);
    if (::openpty(&terminal.ends[0], &terminal.ends[1], nullptr, nullptr, nullptr) != 0)
        throw std::runtime_error("no terminal");
    return run_with(words, Pipe(), terminal);
}

}  // namespace plume::test
