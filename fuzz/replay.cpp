// Gives a target the files and the files of the folders it is called with, for compilers without a fuzzer.
#include <filesystem>
#include <fstream>
#include <iterator>

#include "target.h"

namespace {

namespace fs = std::filesystem;

int replayed = 0;

void replay(const fs::path& file) {
    std::ifstream in(file, std::ios::binary);
    const std::string text(std::istreambuf_iterator<char>(in), {});
    std::fprintf(stderr, "%s\n", file.c_str());
    LLVMFuzzerTestOneInput(reinterpret_cast<const std::uint8_t*>(text.data()), text.size());
    ++replayed;
}

}  // namespace

int main(int argc, char** argv) {
    for (int i = 1; i < argc; ++i) {
        if (!fs::is_directory(argv[i])) {
            replay(argv[i]);
            continue;
        }
        for (const auto& item : fs::recursive_directory_iterator(argv[i]))
            if (item.is_regular_file()) replay(item.path());
    }
    std::printf("%d inputs\n", replayed);
    return replayed > 0 ? 0 : 1;
}
