#include "core/project/journal.h"

#include <fcntl.h>
#include <fmt/chrono.h>
#include <fmt/format.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <chrono>
#include <cstring>
#include <ctime>
#include <nlohmann/json.hpp>
#include <optional>

#include "core/project/json_text.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

namespace fs = std::filesystem;
using nlohmann::json;

constexpr const char* kFormat = "reed-mast journal";
constexpr const char* kEnding = ".journal";
/// Between two entries: what a hand does in quick succession becomes one of them.
constexpr std::chrono::milliseconds kBetween{250};
/// A window needs no longer to begin its file.
constexpr std::chrono::seconds kBeginning{10};
/// A file this many times as long as the project itself is begun anew.
constexpr std::size_t kLongest = 20;
constexpr std::size_t kNeverShorter = 1U << 20U;

/// A name that no other window has, whichever process it is of.
std::string windowName() {
    static std::atomic<unsigned> windows{0};
    const auto now = std::chrono::system_clock::now().time_since_epoch();
    return fmt::format("{}-{}-{}", std::chrono::duration_cast<std::chrono::microseconds>(now).count(),
                       ::getpid(), ++windows);
}

Error failure(const fs::path& file) {
    return Error(say("{} cannot be written: {}.", file.string(), std::strerror(errno)));
}

void append(int handle, const std::string& text, const fs::path& file) {
    for (std::size_t done = 0; done < text.size();) {
        const ssize_t n = ::write(handle, text.data() + done, text.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) throw failure(file);
        done += static_cast<std::size_t>(n);
    }
    if (::fdatasync(handle) != 0) throw failure(file);
}

std::string lineOf(const json& entry) {
    return jsonText(entry) + "\n";
}

json entryOf(const std::string& lastDone) {
    return {{"at", std::time(nullptr)}, {"done", lastDone}};
}

/// What a journal says, up to the first line that is none.
struct Content {
    std::string path;
    std::optional<json> project;
    std::time_t at = 0;
    std::string lastDone;
    int edits = 0;
};

Content contentOf(const fs::path& file) {
    const std::string text = readTextFile(file, std::size_t{1} << 30U);
    Content content;
    bool first = true;
    for (std::size_t begin = 0; begin < text.size();) {
        const std::size_t end = text.find('\n', begin);
        if (end == std::string::npos) break;
        try {
            const json entry = parseJson(text.substr(begin, end - begin), "The line");
            begin = end + 1;
            if (first) {
                if (entry.value("format", "") != kFormat) break;
                content.path = entry.value("path", "");
                first = false;
                continue;
            }
            json project = entry.contains("project") ? entry["project"]
                                                     : content.project.value().patch(entry.at("changes"));
            content.project = std::move(project);
            content.at = entry.value("at", std::time_t{0});
            content.lastDone = entry.value("done", "");
            content.edits += entry.value("kept again", false) ? 0 : 1;
        } catch (const std::exception&) {
            break;
        }
    }
    return content;
}

/// Opens a journal that no window holds; -1 where one does, or it is gone.
int openFree(const fs::path& file) {
    const int handle = ::open(file.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
    if (handle >= 0 && ::flock(handle, LOCK_EX | LOCK_NB) == 0) return handle;
    if (handle >= 0) ::close(handle);
    return -1;
}

/// False where somebody has removed the file: what is written to it is lost.
bool isStillThere(int handle) {
    struct stat state {};
    return ::fstat(handle, &state) == 0 && state.st_nlink > 0;
}

std::string localTime(std::time_t at) {
    std::tm when{};
    ::localtime_r(&at, &when);
    // The catalogue of a language says how a date is written there.
    return say("{:%e %b %Y, %H:%M:%S}", when);
}

}  // namespace

Journal::Journal(fs::path folder, std::function<void(const std::string&)> troubled)
    : folder_(std::move(folder)),
      file_(folder_ / (windowName() + kEnding)),
      troubled_(std::move(troubled)),
      thread_([this](std::stop_token stop) { run(stop); }) {}

Journal::~Journal() {
    flush();
    thread_.request_stop();
    thread_.join();
    close();
}

void Journal::begin(const std::string& path) {
    {
        const std::scoped_lock lock(mutex_);
        const unsigned long number = wanted_.number + 1;
        wanted_ = {path, nullptr, {}, number, number};
    }
    changed_.notify_all();
}

void Journal::forget() {
    std::string path;
    {
        const std::scoped_lock lock(mutex_);
        path = wanted_.path;
    }
    begin(path);
}

void Journal::keep(std::shared_ptr<const model::Project> project, const std::string& lastDone) {
    {
        const std::scoped_lock lock(mutex_);
        wanted_.project = std::move(project);
        wanted_.lastDone = lastDone;
        ++wanted_.number;
    }
    changed_.notify_all();
}

void Journal::flush() {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [this] { return done_ == wanted_.number; });
}

void Journal::run(std::stop_token stop) {
    std::string told;
    while (!stop.stop_requested()) {
        Wanted wanted;
        {
            std::unique_lock lock(mutex_);
            if (!changed_.wait(lock, stop, [this] { return done_ != wanted_.number; })) return;
            wanted = wanted_;
        }
        std::string why;
        try {
            bring(wanted);
        } catch (const std::exception& e) {
            why = e.what();
            // What is half written is no line, and the next entry begins a file of its own.
            close();
            begun_ = 0;
        }
        if (troubled_ && why != told) troubled_(why);
        told = why;
        std::unique_lock lock(mutex_);
        done_ = wanted.number;
        changed_.notify_all();
        // A pause, unless somebody waits for it to end.
        changed_.wait_for(lock, stop, kBetween,
                          [this] { return done_ != wanted_.number && !wanted_.project; });
    }
}

void Journal::bring(const Wanted& wanted) {
    if (!wanted.project) {
        close();
        // Where no file can be, there is none to remove.
        if (::unlink(file_.c_str()) != 0 && errno != ENOENT && errno != ENOTDIR) throw failure(file_);
        begun_ = wanted.begun;
        return;
    }
    auto project = std::make_shared<const json>(toJson(*wanted.project));
    const bool sameFile = handle_ >= 0 && begun_ == wanted.begun && isStillThere(handle_);
    if (!sameFile || bytes_ > std::max(kNeverShorter, kLongest * wholeBytes_)) {
        startFile(wanted, *project);
    } else {
        json entry = entryOf(wanted.lastDone);
        entry["changes"] = json::diff(*last_, *project);
        const std::string line = lineOf(entry);
        append(handle_, line, file_);
        bytes_ += line.size();
    }
    last_ = std::move(project);
}

/// The whole project in a file beside, locked, then in the place of the one before: at no time is there none.
void Journal::startFile(const Wanted& wanted, const json& project) {
    fs::create_directories(folder_);
    json entry = entryOf(wanted.lastDone);
    entry["project"] = project;
    const std::string text =
        lineOf({{"format", kFormat}, {"version", 1}, {"path", wanted.path}}) + lineOf(entry);
    const fs::path beside = file_.string() + ".new";
    const int handle = ::open(beside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_APPEND | O_CLOEXEC, 0600);
    if (handle < 0) throw failure(file_);
    try {
        if (::flock(handle, LOCK_EX | LOCK_NB) != 0) throw failure(file_);
        append(handle, text, file_);
        if (::rename(beside.c_str(), file_.c_str()) != 0) throw failure(file_);
    } catch (const Error&) {
        ::close(handle);
        ::unlink(beside.c_str());
        throw;
    }
    close();
    handle_ = handle;
    begun_ = wanted.begun;
    bytes_ = wholeBytes_ = text.size();
}

void Journal::close() {
    if (handle_ >= 0) ::close(handle_);
    handle_ = -1;
}

std::vector<LeftWork> leftWork(const fs::path& folder) {
    std::vector<std::pair<std::time_t, LeftWork>> found;
    std::error_code none;
    for (const auto& item : fs::directory_iterator(folder, none)) {
        const fs::path& file = item.path();
        const bool begunOnly = file.extension() == ".new" && file.stem().extension() == kEnding;
        if (file.extension() != kEnding && !begunOnly) continue;
        // One that is being begun gets its lock in a moment.
        if (begunOnly && fs::file_time_type::clock::now() - fs::last_write_time(file, none) < kBeginning)
            continue;
        const int handle = openFree(file);
        if (handle < 0) continue;
        Content content;
        try {
            content = contentOf(file);
        } catch (const std::exception&) {
            content = {};
        }
        if (!content.project) {
            fs::remove(file, none);
        } else {
            found.push_back({content.at,
                             {file, content.path, content.project->value("title", ""), localTime(content.at),
                              content.lastDone, content.edits}});
        }
        ::close(handle);
    }
    std::stable_sort(found.begin(), found.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<LeftWork> works;
    for (auto& [at, work] : found) works.push_back(std::move(work));
    return works;
}

model::Project readLeft(const LeftWork& work) {
    const int handle = openFree(work.file);
    if (handle < 0) throw Error(say("This work was taken up by another window meanwhile."));
    try {
        const Content content = contentOf(work.file);
        ::close(handle);
        if (!content.project) throw Error(say("{} holds no project.", work.file.string()));
        return fromJson(*content.project);
    } catch (...) {
        ::close(handle);
        throw;
    }
}

void discardLeft(const LeftWork& work) {
    std::error_code none;
    fs::remove(work.file, none);
}

}  // namespace rm::io
