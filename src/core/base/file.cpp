#include "core/base/file.hpp"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/random.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdint>
#include <fstream>
#include <system_error>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

constexpr std::string_view temporary_prefix = ".plume-part-";

std::string quoted(const fs::path& path) {
    return "‘" + shortened(path.string(), 300) + "’";
}

Error write_error(const fs::path& path, int number) {
    if (number == ENOSPC || number == EDQUOT || number == EFBIG)
        return {ErrorCode::disk_full, quoted(path), "could not be written: the disk is full",
                "Free some space or save elsewhere; the old file is as it was."};
    const std::string reason = std::generic_category().message(number);
    return {ErrorCode::file_unwritable, quoted(path), "could not be written: " + reason,
            "Choose a folder you may write to; nothing was changed."};
}

// A descriptor with a buffer before it; remembers the first thing that went wrong.
class Output {
public:
    explicit Output(int descriptor) : descriptor_(descriptor), failure_(descriptor < 0 ? errno : 0) {}
    ~Output() {
        if (descriptor_ >= 0) ::close(descriptor_);
    }
    Output(const Output&) = delete;
    Output& operator=(const Output&) = delete;

    int descriptor() const { return descriptor_; }
    int failure() const { return failure_; }
    void fail(int number) {
        if (failure_ == 0) failure_ = number;
    }
    void append(std::string_view bytes) {
        if (bytes.size() >= buffer_limit) {
            flush();
            return write(bytes);
        }
        buffer_ += bytes;
        if (buffer_.size() >= buffer_limit) flush();
    }
    void flush() {
        write(buffer_);
        buffer_.clear();
    }

private:
    static constexpr std::size_t buffer_limit = std::size_t{1} << 20;

    void write(std::string_view rest) {
        while (failure_ == 0 && !rest.empty()) {
            const ssize_t written = ::write(descriptor_, rest.data(), rest.size());
            if (written >= 0) {
                // The disk begins at once, while the next bytes are made: only advice.
                ::sync_file_range(descriptor_, 0, 0, SYNC_FILE_RANGE_WRITE);
                rest.remove_prefix(static_cast<std::size_t>(written));
            } else if (errno != EINTR)
                failure_ = errno;
        }
    }

    int descriptor_;
    int failure_;
    std::string buffer_;
};

std::string random_name() {
    std::uint64_t number = 0;
    if (::getrandom(&number, sizeof number, 0) != static_cast<ssize_t>(sizeof number)) return {};
    static constexpr std::string_view digits = "0123456789abcdef";
    std::string name(temporary_prefix);
    for (int at = 0; at < 16; ++at, number >>= 4U)
        name += digits[number & 15U];
    return name;
}

// A file of a folder that is being written under a name of its own, which nobody can foresee. Where the
// system can, it has no name at all until it is whole, so that nothing stays behind whatever ends the
// program; elsewhere it is locked while it is written, so that one left behind can be told from one in hand.
class TemporaryFile {
public:
    explicit TemporaryFile(const fs::path& target)
        : target_(target), folder_(target.has_parent_path() ? target.parent_path() : "."), output_(open()) {}
    ~TemporaryFile() {
        if (!name_.empty()) ::unlink(name_.c_str());
    }
    TemporaryFile(const TemporaryFile&) = delete;
    TemporaryFile& operator=(const TemporaryFile&) = delete;

    Output& output() { return output_; }

    void put_in_place() {
        output_.flush();
        const bool fine = output_.failure() == 0;
        if (fine && replaces_ && ::fchmod(output_.descriptor(), old_.st_mode & 07777U) != 0)
            output_.fail(errno);
        if (output_.failure() == 0 && ::fsync(output_.descriptor()) != 0) output_.fail(errno);
        if (output_.failure() == 0 && name_.empty()) give_name();
        if (output_.failure() == 0 && ::rename(name_.c_str(), target_.c_str()) != 0) output_.fail(errno);
        if (output_.failure() == 0) name_.clear();
    }

private:
    int open() {
        // Renaming over a write-protected file would succeed; protection has to mean what it says.
        if (::access(target_.c_str(), F_OK) == 0 && ::access(target_.c_str(), W_OK) != 0) return -1;
        // A new file gets what the process gives; one that replaces another gets the other's rights when
        // whole.
        const mode_t rights = ::stat(target_.c_str(), &old_) == 0 ? 0600 : 0666;
        replaces_ = rights == 0600;
        int descriptor = ::open(folder_.c_str(), O_TMPFILE | O_WRONLY | O_CLOEXEC, rights);
        if (descriptor >= 0 || (errno != EOPNOTSUPP && errno != EISDIR && errno != EINVAL)) return descriptor;
        const std::string name = (folder_ / random_name()).string();
        descriptor = ::open(name.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, rights);
        if (descriptor >= 0) {
            name_ = name;
            ::flock(descriptor, LOCK_EX | LOCK_NB);
        }
        return descriptor;
    }
    void give_name() {
        const std::string itself = "/proc/self/fd/" + std::to_string(output_.descriptor());
        const std::string name = (folder_ / random_name()).string();
        if (::linkat(AT_FDCWD, itself.c_str(), AT_FDCWD, name.c_str(), AT_SYMLINK_FOLLOW) == 0)
            name_ = name;
        else
            output_.fail(errno);
    }

    fs::path target_, folder_;
    std::string name_;
    struct stat old_ {};
    bool replaces_ = false;
    Output output_;
};

// Temporary files that a program left when it was ended: nobody holds their lock, and they are a while old.
void remove_left_behind(const fs::path& folder) {
    constexpr time_t old_enough_s = 60;
    std::error_code problem;
    for (const auto& entry : fs::directory_iterator(folder, problem)) {
        if (!entry.path().filename().string().starts_with(temporary_prefix)) continue;
        const Output file(::open(entry.path().c_str(), O_RDONLY | O_NOFOLLOW | O_CLOEXEC | O_NONBLOCK));
        struct stat facts {};
        if (file.failure() != 0 || ::fstat(file.descriptor(), &facts) != 0 || !S_ISREG(facts.st_mode))
            continue;
        if (facts.st_uid != ::geteuid() || ::time(nullptr) - facts.st_mtime < old_enough_s) continue;
        if (::flock(file.descriptor(), LOCK_EX | LOCK_NB) == 0) ::unlink(entry.path().c_str());
    }
}

std::string_view kind_of_file(const fs::file_status& status) {
    switch (status.type()) {
        case fs::file_type::directory:
            return "is a folder";
        case fs::file_type::fifo:
            return "is a pipe";
        case fs::file_type::socket:
            return "is a socket";
        case fs::file_type::block:
        case fs::file_type::character:
            return "is a device";
        default:
            return "is not a file";
    }
}

Status write_directly(const fs::path& path, const std::function<Status(const ByteSink&)>& produce) {
    Output output(::open(path.c_str(), O_WRONLY | O_CLOEXEC));
    if (output.failure() != 0) return write_error(path, output.failure());
    if (Status made = produce([&](std::string_view bytes) { output.append(bytes); }); !made) return made;
    output.flush();
    if (output.failure() != 0) return write_error(path, output.failure());
    return Done{};
}

}  // namespace

Status check_regular_file(const fs::path& path) {
    std::error_code problem;
    const fs::file_status status = fs::status(path, problem);
    if (!fs::exists(status))
        return Error{ErrorCode::file_missing, quoted(path), "does not exist",
                     "Check the name and the folder."};
    if (!fs::is_regular_file(status))
        return Error{ErrorCode::file_unreadable, quoted(path), std::string(kind_of_file(status)),
                     "Choose a file."};
    return Done{};
}

Result<std::string> read_file(const fs::path& path, std::uintmax_t limit_bytes) {
    if (Status regular = check_regular_file(path); !regular) return regular.error();
    std::error_code problem;
    const std::uintmax_t size = fs::file_size(path, problem);
    if (!problem && size > limit_bytes)
        return Error{ErrorCode::file_too_large, quoted(path),
                     "is " + bytes_text(static_cast<double>(size)) + ", more than the " +
                         bytes_text(static_cast<double>(limit_bytes)) + " such a file can have",
                     "Choose another file."};
    std::ifstream stream(path, std::ios::binary);
    std::string bytes(problem ? 0 : size, '\0');
    stream.read(bytes.data(), static_cast<std::streamsize>(bytes.size()));
    if (!stream)
        return Error{ErrorCode::file_unreadable, quoted(path), "could not be read",
                     "Check that you may read it and that its disk is there."};
    return bytes;
}

Status write_file(const fs::path& path, const std::function<Status(const ByteSink&)>& produce) {
    std::error_code ignored;
    const fs::file_status status = fs::status(path, ignored);
    if (fs::is_directory(status))
        return Error{ErrorCode::file_unwritable, quoted(path), "is a folder", "Name a file in it."};
    if (fs::exists(status) && !fs::is_regular_file(status)) return write_directly(path, produce);
    // A link is written through, so that it stays a link.
    const fs::path target = fs::is_symlink(path, ignored) ? fs::weakly_canonical(path, ignored) : path;
    TemporaryFile file(target);
    Output& output = file.output();
    if (output.failure() != 0) return write_error(path, output.failure());
    remove_left_behind(target.has_parent_path() ? target.parent_path() : ".");
    if (Status made = produce([&](std::string_view bytes) { output.append(bytes); }); !made) return made;
    file.put_in_place();
    if (output.failure() != 0) return write_error(path, output.failure());
    return Done{};
}

Status write_file(const fs::path& path, std::string_view bytes) {
    return write_file(path, [&](const ByteSink& sink) -> Status {
        sink(bytes);
        return Done{};
    });
}

}  // namespace plume
