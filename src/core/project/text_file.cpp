#include "core/project/text_file.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <utility>

#include "core/common.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

namespace fs = std::filesystem;

constexpr mode_t kModeBits = 07777;

/// An open file that closes itself.
class Handle {
  public:
    explicit Handle(int number) : number_(number) {}
    Handle(const Handle&) = delete;
    Handle& operator=(const Handle&) = delete;
    ~Handle() {
        if (number_ >= 0) ::close(number_);
    }
    int number() const { return number_; }
    bool open() const { return number_ >= 0; }
    bool close() { return ::close(std::exchange(number_, -1)) == 0; }

  private:
    int number_;
};

Error failure(const fs::path& file, const std::string& what) {
    return Error(say("{} cannot be {}: {}.", file.string(), what, std::strerror(errno)));
}

/// The file behind a chain of symbolic links, whether it is there or not.
fs::path behindLinks(fs::path file) {
    constexpr int kMostLinks = 40;  // as the kernel follows
    std::error_code none;
    for (int i = 0; i < kMostLinks && fs::is_symlink(file, none); ++i) {
        const fs::path to = fs::read_symlink(file, none);
        if (none) break;
        file = to.is_absolute() ? to : file.parent_path() / to;
    }
    if (fs::is_symlink(file, none))
        throw Error(say("{} cannot be written: its links lead nowhere.", file.string()));
    return file;
}

void writeAll(int handle, const std::string& text, const fs::path& file) {
    for (std::size_t done = 0; done < text.size();) {
        const ssize_t n = ::write(handle, text.data() + done, text.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) throw failure(file, say("written"));
        done += static_cast<std::size_t>(n);
    }
}

/// What the file had before passes to the one that takes its place. An owner that may not be given away
/// stays.
void passOn(const struct stat& before, int handle) {
    if (before.st_uid != ::geteuid() || before.st_gid != ::getegid()) {
        const int given = ::fchown(handle, before.st_uid, before.st_gid);
        (void)given;
    }
    ::fchmod(handle, before.st_mode & kModeBits);
}

}  // namespace

std::string readTextFile(const fs::path& file, std::size_t mostBytes) {
    // Without waiting for whoever might write to a pipe.
    const Handle handle(::open(file.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK));
    struct stat is {};
    if (!handle.open() || ::fstat(handle.number(), &is) != 0)
        throw Error(say("{} cannot be opened.", file.string()));
    if (!S_ISREG(is.st_mode)) throw Error(say("{} cannot be opened: it is no plain file.", file.string()));
    // Read rather than asked for: what a file says of its size need not hold.
    std::string text;
    constexpr std::size_t kPiece = 1U << 20U;
    while (true) {
        const std::size_t had = text.size();
        text.resize(had + kPiece);
        const ssize_t n = ::read(handle.number(), text.data() + had, kPiece);
        if (n < 0 && errno == EINTR) {
            text.resize(had);
            continue;
        }
        if (n < 0) throw failure(file, say("read"));
        text.resize(had + static_cast<std::size_t>(n));
        if (n == 0) return text;
        if (text.size() > mostBytes)
            throw Error(say("{} is larger than {} MB.", file.string(), mostBytes >> 20U));
    }
}

void writeTextAtomically(const fs::path& link, const std::string& text) {
    const fs::path file = behindLinks(link);
    struct stat before {};
    const bool replaces = ::stat(file.c_str(), &before) == 0;
    // What a renamed file would put an end to: a pipe or a device stays what it is.
    if (replaces && !S_ISREG(before.st_mode))
        throw Error(say("{} cannot be replaced: it is no plain file.", link.string()));
    if (replaces && ::access(file.c_str(), W_OK) != 0) throw failure(link, say("written"));
    const std::string temporary = file.string() + fmt::format(".{}.part", ::getpid());
    // Until it has the permissions of the old one nobody else reads it.
    Handle handle(
        ::open(temporary.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, replaces ? 0600 : 0644));
    if (!handle.open()) throw failure(link, say("written"));
    try {
        writeAll(handle.number(), text, link);
        if (replaces) passOn(before, handle.number());
        const bool flushed = ::fsync(handle.number()) == 0;
        if (!handle.close() || !flushed || ::rename(temporary.c_str(), file.c_str()) != 0)
            throw failure(link, say("replaced"));
    } catch (const Error&) {
        ::unlink(temporary.c_str());
        throw;
    }
}

}  // namespace rm::io
