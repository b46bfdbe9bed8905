#include "core/base/file.hpp"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <fstream>
#include <system_error>

#include "core/base/numbers.hpp"

namespace plume {
namespace {

std::string quoted(const std::filesystem::path& path) {
    return "‘" + path.string() + "’";
}

Error write_error(const std::filesystem::path& path, int number) {
    if (number == ENOSPC || number == EDQUOT || number == EFBIG)
        return {ErrorCode::disk_full, quoted(path), "could not be written: the disk is full",
                "Free some space or save elsewhere; the old file is as it was."};
    const std::string reason = std::generic_category().message(number);
    return {ErrorCode::file_unwritable, quoted(path), "could not be written: " + reason,
            "Choose a folder you may write to; nothing was changed."};
}

// A file being written: owns the descriptor and removes the temporary file unless it was put in place.
class TemporaryFile {
public:
    explicit TemporaryFile(const std::filesystem::path& target)
        : target_(target), name_(target.string() + ".part-" + std::to_string(::getpid())) {
        // Renaming over a write-protected file would succeed; protection has to mean what it says.
        if (::access(target_.c_str(), F_OK) == 0 && ::access(target_.c_str(), W_OK) != 0) {
            failure_ = errno;
            return;
        }
        descriptor_ = ::open(name_.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
        if (descriptor_ < 0) failure_ = errno;
    }
    ~TemporaryFile() {
        if (descriptor_ >= 0) ::close(descriptor_);
        if (descriptor_ >= 0 && !placed_) ::unlink(name_.c_str());
    }
    TemporaryFile(const TemporaryFile&) = delete;
    TemporaryFile& operator=(const TemporaryFile&) = delete;

    int failure() const { return failure_; }

    void append(std::string_view bytes) {
        buffer_ += bytes;
        if (buffer_.size() >= buffer_limit) flush();
    }

    void put_in_place() {
        flush();
        struct stat old {};
        if (failure_ == 0 && ::stat(target_.c_str(), &old) == 0) ::fchmod(descriptor_, old.st_mode & 07777);
        if (failure_ == 0 && ::fsync(descriptor_) != 0) failure_ = errno;
        if (failure_ == 0 && ::rename(name_.c_str(), target_.c_str()) != 0) failure_ = errno;
        placed_ = failure_ == 0;
    }

private:
    static constexpr std::size_t buffer_limit = std::size_t{1} << 20;

    void flush() {
        std::string_view rest = buffer_;
        while (failure_ == 0 && !rest.empty()) {
            const ssize_t written = ::write(descriptor_, rest.data(), rest.size());
            if (written >= 0)
                rest.remove_prefix(static_cast<std::size_t>(written));
            else if (errno != EINTR)
                failure_ = errno;
        }
        buffer_.clear();
    }

    std::filesystem::path target_;
    std::string name_;
    std::string buffer_;
    int descriptor_ = -1;
    int failure_ = 0;
    bool placed_ = false;
};

}  // namespace

Result<std::string> read_file(const std::filesystem::path& path, std::uintmax_t limit_bytes) {
    std::error_code problem;
    const auto status = std::filesystem::status(path, problem);
    if (!std::filesystem::exists(status))
        return Error{ErrorCode::file_missing, quoted(path), "does not exist",
                     "Check the name and the folder."};
    if (!std::filesystem::is_regular_file(status))
        return Error{ErrorCode::file_unreadable, quoted(path), "is not a file", "Choose a file."};
    const std::uintmax_t size = std::filesystem::file_size(path, problem);
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

Status write_file(const std::filesystem::path& path, const std::function<Status(const ByteSink&)>& produce) {
    // A link is written through, so that it stays a link.
    std::error_code ignored;
    const auto target =
        std::filesystem::is_symlink(path, ignored) ? std::filesystem::weakly_canonical(path, ignored) : path;
    TemporaryFile file(target);
    if (file.failure() != 0) return write_error(path, file.failure());
    if (Status made = produce([&](std::string_view bytes) { file.append(bytes); }); !made) return made;
    file.put_in_place();
    if (file.failure() != 0) return write_error(path, file.failure());
    return Done{};
}

Status write_file(const std::filesystem::path& path, std::string_view bytes) {
    return write_file(path, [&](const ByteSink& sink) -> Status {
        sink(bytes);
        return Done{};
    });
}

}  // namespace plume
