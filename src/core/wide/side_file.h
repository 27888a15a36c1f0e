// What stands beside a result while it is worked on: a file of cases for each process, and the lock of the
// one that writes.
#pragma once

#include <filesystem>
#include <fstream>
#include <mutex>
#include <string>
#include <vector>

#include "core/wide/numbered_line.h"

namespace rm::wide {

/// Where a rank keeps the cases of a result.
std::filesystem::path sideFile(const std::filesystem::path& out, int rank);

/// Every side file of a result that is there.
std::vector<std::filesystem::path> sideFiles(const std::filesystem::path& out);

/// The first line of a side file, with its end: it belongs to the study whose result begins with `head`.
std::string sideHead(const std::string& head);

/// Appends each case as soon as it is known: whatever ends the process, no more than the case in hand is
/// lost. Any thread may add.
class SideFile {
  public:
    /// Goes on with what is there of the same study; anything else is begun anew.
    SideFile(const std::filesystem::path& file, const std::string& head);
    void add(const NumberedLine& line);

  private:
    std::mutex mutex_;
    std::ofstream out_;
};

/// One process at a time writes a result: the lock goes with whatever ends the process.
class ResultLock {
  public:
    /// Throws rm::Error where another run holds it, or the file cannot be written.
    explicit ResultLock(const std::filesystem::path& file);
    ResultLock(const ResultLock&) = delete;
    ResultLock& operator=(const ResultLock&) = delete;
    ~ResultLock();

  private:
    int handle_;
};

}  // namespace rm::wide
