#include "core/wide/side_file.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/file.h>
#include <unistd.h>

#include <iterator>

#include "core/common.h"
#include "core/words/words.h"

namespace rm::wide {

std::filesystem::path sideFile(const std::filesystem::path& out, int rank) {
    auto file = out;
    file += fmt::format(".rank{}", rank);
    return file;
}

std::vector<std::filesystem::path> sideFiles(const std::filesystem::path& out) {
    std::vector<std::filesystem::path> files;
    const auto folder = out.has_parent_path() ? out.parent_path() : std::filesystem::path(".");
    const std::string begin = out.filename().string() + ".rank";
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator(folder, none))
        if (const auto name = entry.path().filename().string();
            name.starts_with(begin) && name.size() > begin.size() &&
            name.find_first_not_of("0123456789", begin.size()) == std::string::npos)
            files.push_back(entry.path());
    return files;
}

std::string sideHead(const std::string& head) {
    return fmt::format("{:016x}\n", std::hash<std::string>{}(head));
}

SideFile::SideFile(const std::filesystem::path& file, const std::string& head) {
    std::string there;
    {
        std::ifstream in(file, std::ios::binary);
        there.assign(std::istreambuf_iterator<char>(in), {});
    }
    const bool ours = there.starts_with(head);
    // A line that was cut short goes: with an end it would look like a whole one.
    if (ours) std::filesystem::resize_file(file, there.rfind('\n') + 1);
    out_.open(file, ours ? std::ios::binary | std::ios::app : std::ios::binary | std::ios::trunc);
    if (!ours) out_ << head << std::flush;
}

void SideFile::add(const NumberedLine& line) {
    const std::scoped_lock lock(mutex_);
    out_ << textOf({line}) << std::flush;
}

ResultLock::ResultLock(const std::filesystem::path& file)
    : handle_(::open(file.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0644)) {
    if (handle_ < 0) throw Error(rm::say("{} cannot be written.", file.string()));
    if (::flock(handle_, LOCK_EX | LOCK_NB) == 0) return;
    ::close(handle_);
    throw Error(rm::say("{} is being written by another run of a study: wait for it, or give another name.",
                        file.string()));
}

ResultLock::~ResultLock() {
    ::close(handle_);
}

}  // namespace rm::wide
