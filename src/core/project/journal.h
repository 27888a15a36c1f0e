// What is not saved yet, on disk as it is made: a file of the running window, which nobody else touches while
// the window lives and everybody can read when it is gone.
//
// The file holds one JSON text a line: first where the project comes from, then the whole project, then what
// each edit changed (RFC 6902), with its time and what was done. A line that a crash cut short is no line.
// The window holds a lock on its file: a file whose lock is free was left by a window that ended.
#pragma once

#include <condition_variable>
#include <filesystem>
#include <functional>
#include <memory>
#include <mutex>
#include <nlohmann/json_fwd.hpp>
#include <string>
#include <thread>
#include <vector>

#include "core/model/design.h"

namespace rm::io {

class Journal {
  public:
    /// `troubled` is told, from a thread of the journal's own, why nothing can be kept, once and not with
    /// every edit, and with an empty text when it can again.
    Journal(std::filesystem::path folder, std::function<void(const std::string&)> troubled);
    Journal(const Journal&) = delete;
    Journal& operator=(const Journal&) = delete;
    /// Ends when all that was given is on disk.
    ~Journal();

    /// Another project comes; `path` is its file, empty where it has none. Nothing of it is to be kept yet.
    void begin(const std::string& path);
    /// This state is not saved: it is on disk within a second, whatever follows. Costs the caller nothing.
    void keep(std::shared_ptr<const model::Project> project, const std::string& lastDone);
    /// Everything is saved, or was given up.
    void forget();
    /// Waits until all that was given is on disk, or cannot be brought there.
    void flush();

    /// The file of this window, whether it is there or not.
    const std::filesystem::path& file() const { return file_; }

  private:
    /// What is to be on disk.
    struct Wanted {
        std::string path;
        std::shared_ptr<const model::Project> project;  ///< null: nothing
        std::string lastDone;
        unsigned long number = 0;  ///< of the call that wanted it
        unsigned long begun = 0;   ///< of the last begin or forget
    };

    void run(std::stop_token stop);
    void bring(const Wanted& wanted);
    void startFile(const Wanted& wanted, const nlohmann::json& project);
    void close();

    std::filesystem::path folder_;
    std::filesystem::path file_;
    std::function<void(const std::string&)> troubled_;

    std::mutex mutex_;
    std::condition_variable_any changed_;
    Wanted wanted_;
    unsigned long done_ = 0;  ///< number of what is on disk

    // Of the thread alone.
    int handle_ = -1;
    unsigned long begun_ = 0;                     ///< what the file belongs to
    std::shared_ptr<const nlohmann::json> last_;  ///< the project as the file has it
    std::size_t bytes_ = 0;
    std::size_t wholeBytes_ = 0;

    std::jthread thread_;
};

/// Work that a window left unsaved when it ended.
struct LeftWork {
    std::filesystem::path file;  ///< the journal
    std::string path;            ///< of the project; empty where it never had a file
    std::string title;
    std::string when;  ///< of the last edit, local time: "27 Nov 2026, 19:05:12"
    std::string lastDone;
    int edits = 0;

    bool operator==(const LeftWork&) const = default;
};

/// All that windows left in this folder, the newest first. Journals in use are none of it, and what holds
/// nothing is cleared away.
std::vector<LeftWork> leftWork(const std::filesystem::path& folder);

/// The project as it was last. Throws rm::Error where another window has taken it meanwhile, or nothing of it
/// can be read.
model::Project readLeft(const LeftWork& work);

/// It is kept elsewhere, or not wanted.
void discardLeft(const LeftWork& work);

}  // namespace rm::io
