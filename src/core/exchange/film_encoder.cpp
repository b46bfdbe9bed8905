#include "core/exchange/film_encoder.hpp"

#include <fcntl.h>
#include <spawn.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <cstdlib>
#include <fstream>
#include <sstream>

#include "core/base/helper_program.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/exchange/passing_file.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

constexpr const char* program = "ffmpeg";

// The program in the folders of PATH; empty where it is in none.
fs::path program_path() {
    const char* folders = std::getenv("PATH");
    std::istringstream list(folders ? folders : "");
    for (std::string folder; std::getline(list, folder, ':');) {
        fs::path candidate = fs::path(folder) / program;
        if (access(candidate.c_str(), X_OK) == 0) return candidate;
    }
    return {};
}

Error without_program() {
    return {ErrorCode::broke_off, "A film", "needs the program ffmpeg, which is not installed",
            "Install it (on Debian: apt install ffmpeg), or write a folder of pictures or a PNG that moves."};
}

// As the coder of the usual films needs them: an odd row or column is left out.
int even(int pixels) {
    return std::max(2, pixels / 2 * 2);
}

class Ffmpeg : public FilmEncoder {
public:
    Ffmpeg(fs::path path, int width, int height, double rate)
        : path_(std::move(path)), width_(even(width)), height_(even(height)), rate_(rate) {
        // It chooses the form by the ending.
        part_ = path_;
        part_.replace_filename("." + path_.stem().string() + "-part" + path_.extension().string());
    }
    ~Ffmpeg() override {
        if (process_ > 0) {
            kill(process_, SIGKILL);
            wait_for_it();
        }
        close_input();
        std::error_code ignored;
        if (!finished_) fs::remove(part_, ignored);
    }
    Ffmpeg(const Ffmpeg&) = delete;
    Ffmpeg& operator=(const Ffmpeg&) = delete;

    Status start() {
        const fs::path found = program_path();
        if (found.empty()) return without_program();
        if (said_.path().empty()) return no_passing_file(path_.string());
        std::array<int, 2> ends{};
        // A socket: writing to one whose other end is gone is an error and no signal.
        if (socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, ends.data()) != 0) return broke_off();
        input_ = ends[0];
        const bool started = spawn(found, ends[1]);
        close(ends[1]);
        if (!started) return broke_off();
        return Done{};
    }

    Status add(const Image& image) override {
        row_.resize(static_cast<std::size_t>(width_) * 3);
        for (int y = 0; y < height_; ++y) {
            const std::uint8_t* from =
                image.rgba.data() + 4 * static_cast<std::size_t>(y) * static_cast<std::size_t>(image.width);
            for (std::size_t x = 0; x < static_cast<std::size_t>(width_); ++x)
                for (std::size_t part = 0; part < 3; ++part)
                    row_[3 * x + part] = from[4 * x + part];
            if (!send_row()) return broke_off();
        }
        return Done{};
    }

    Status finish() override {
        close_input();
        if (!wait_for_it()) return broke_off();
        std::error_code problem;
        fs::rename(part_, path_, problem);
        if (problem)
            return Error{ErrorCode::file_unwritable, "‘" + path_.string() + "’",
                         "cannot be written: " + problem.message(), "Choose another place."};
        finished_ = true;
        return Done{};
    }

private:
    bool spawn(const fs::path& found, int stands_for_input) {
        const std::string size = std::to_string(width_) + "x" + std::to_string(height_);
        std::vector<std::string> words{found.string(),    "-hide_banner", "-loglevel", "error", "-y", "-f",
                                       "rawvideo",        "-pix_fmt",     "rgb24",     "-s",    size, "-r",
                                       exact_text(rate_), "-i",           "-",         "-an"};
        if (const std::string ending = path_.extension().string(); ending == ".mp4" || ending == ".mov")
            words.insert(words.end(),
                         {"-c:v", "libx264", "-crf", "18", "-pix_fmt", "yuv420p", "-movflags", "+faststart"});
        words.push_back(part_.string());
        std::vector<char*> pointers = argument_pointers(words);
        posix_spawn_file_actions_t actions;
        posix_spawn_file_actions_init(&actions);
        posix_spawn_file_actions_adddup2(&actions, stands_for_input, STDIN_FILENO);
        posix_spawn_file_actions_addopen(&actions, STDOUT_FILENO, "/dev/null", O_WRONLY, 0);
        posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, said_.path().c_str(), O_WRONLY | O_TRUNC,
                                         0);
        const bool started =
            posix_spawn(&process_, found.c_str(), &actions, nullptr, pointers.data(), environ) == 0;
        posix_spawn_file_actions_destroy(&actions);
        return started;
    }

    bool send_row() const {
        const auto* from = row_.data();
        std::size_t left = row_.size();
        while (left > 0) {
            const ssize_t sent = send(input_, from, left, MSG_NOSIGNAL);
            if (sent <= 0) return false;
            from += sent;
            left -= static_cast<std::size_t>(sent);
        }
        return true;
    }

    void close_input() {
        if (input_ >= 0) close(input_);
        input_ = -1;
    }

    bool wait_for_it() {
        int status = 0;
        const bool well = process_ > 0 && waitpid(process_, &status, 0) == process_ && WIFEXITED(status) &&
                          WEXITSTATUS(status) == 0;
        process_ = 0;
        return well;
    }

    Error broke_off() const {
        const Result<std::string> said = said_.bytes();
        std::string last = said ? *said : std::string();
        while (!last.empty() && last.back() == '\n')
            last.pop_back();
        if (const std::size_t line = last.rfind('\n'); line != std::string::npos) last.erase(0, line + 1);
        return {ErrorCode::broke_off, "‘" + path_.string() + "’",
                "cannot be written: ffmpeg broke off" +
                    (last.empty() ? "" : ", saying “" + shortened(last, 200) + "”"),
                "Choose another ending, such as .mp4, or write a folder of pictures."};
    }

    fs::path path_, part_;
    int width_, height_;
    double rate_;
    PassingFile said_;
    int input_ = -1;
    pid_t process_ = 0;
    bool finished_ = false;
    std::vector<std::uint8_t> row_;
};

}  // namespace

Result<std::unique_ptr<FilmEncoder>> FilmEncoder::begin(const fs::path& path, int width, int height,
                                                        double rate) {
    auto encoder = std::make_unique<Ffmpeg>(path, width, height, rate);
    if (Status started = encoder->start(); !started) return started.error();
    return std::unique_ptr<FilmEncoder>(std::move(encoder));
}

bool can_encode_films() {
    return !program_path().empty();
}

}  // namespace plume
