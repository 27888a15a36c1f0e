// reedmast-analyser: stands in for an antenna analyser. It measures a design of a project as somebody built
// it, with what is hidden from the model told on the command line, and speaks the lines of docs/formats.md
// over TCP on this machine or over a pseudo-terminal.
#include <fcntl.h>
#include <fmt/format.h>
#include <stdlib.h>
#include <termios.h>

#include <CLI/CLI.hpp>
#include <algorithm>
#include <boost/asio.hpp>
#include <csignal>

#include "core/build/simulated_analyser.h"
#include "core/project/analyser_lines.h"
#include "core/project/project_file.h"
#include "core/version.h"

namespace {

using namespace rm;
namespace asio = boost::asio;

struct AnalyserOptions {
    std::string file;
    std::string design;
    unsigned short port = 7373;
    bool pseudoTerminal = false;
    double longerPercent = 0.0;
    double higherM = 0.0;
    double picofarad = 0.0;
    double lossOhm = 0.0;
    double lineM = 0.0;
    double noise = 0.004;
    unsigned seed = 1;
    bool atAntenna = false;
};

build::HiddenTruth truthOf(const AnalyserOptions& options) {
    build::HiddenTruth truth;
    const auto set = [&](build::Cause cause, double value) { truth.causes[build::indexOf(cause)] = value; };
    set(build::Cause::Length, options.longerPercent / 100.0);
    set(build::Cause::Height, options.higherM);
    set(build::Cause::Capacitance, options.picofarad);
    set(build::Cause::Loss, options.lossOhm);
    set(build::Cause::Line, options.lineM);
    truth.noise = options.noise;
    truth.seed = options.seed;
    truth.atRadio = !options.atAntenna;
    return truth;
}

/// Answers one line after the other until the other side goes.
template <typename Stream>
void serve(Stream& stream, build::SimulatedAnalyser& analyser) {
    std::string waiting;
    const auto say = [&](const std::string& line) { asio::write(stream, asio::buffer(line)); };
    try {
        for (;;) {
            const std::size_t length =
                asio::read_until(stream, asio::dynamic_buffer(waiting, io::kLongestAnalyserLine), '\n');
            std::string line = waiting.substr(0, length - 1);
            waiting.erase(0, length);
            if (!line.empty() && line.back() == '\r') line.pop_back();
            if (line.empty()) continue;
            try {
                const io::AnalyserSweep sweep = io::readSweepLine(line);
                for (int i = 0; i < sweep.points; ++i) {
                    const double hz = sweep.frequencyHz(i);
                    say(io::pointLine(hz, analyser.measure(hz)));
                }
                say("done\n");
            } catch (const Error& e) {
                say(fmt::format("error {}\n", e.what()));
            }
        }
    } catch (const boost::system::system_error&) {
        // The other side has gone, or sends no lines.
    }
}

void serveTcp(build::SimulatedAnalyser& analyser, unsigned short port) {
    asio::io_context context;
    using asio::ip::tcp;
    tcp::acceptor acceptor(context, {asio::ip::address_v4::loopback(), port});
    fmt::print("listening at localhost:{}\n", acceptor.local_endpoint().port());
    std::fflush(stdout);
    for (;;) {
        tcp::socket socket = acceptor.accept();
        serve(socket, analyser);
    }
}

void servePseudoTerminal(build::SimulatedAnalyser& analyser) {
    const int master = posix_openpt(O_RDWR | O_NOCTTY);
    if (master < 0 || grantpt(master) != 0 || unlockpt(master) != 0)
        throw Error("There is no pseudo-terminal to be had here.");
    const std::string name = ptsname(master);
    // Held open at the other end too, so that a client that leaves does not close it.
    const int held = open(name.c_str(), O_RDWR | O_NOCTTY);
    termios plain{};
    if (held < 0 || tcgetattr(held, &plain) != 0) throw Error("The pseudo-terminal cannot be opened.");
    cfmakeraw(&plain);
    tcsetattr(held, TCSANOW, &plain);
    fmt::print("listening at {}\n", name);
    std::fflush(stdout);
    asio::io_context context;
    asio::posix::stream_descriptor stream(context, master);
    for (;;) serve(stream, analyser);
}

}  // namespace

int main(int argc, char** argv) {
    CLI::App app{"A made-up antenna analyser, for trying Reed Mast without one"};
    app.set_version_flag("--version", fmt::format("reedmast-analyser {}", kVersion));
    AnalyserOptions options;
    app.add_option("project", options.file, "Project file")->required();
    app.add_option("--design", options.design, "Name of the design; the active one if left out");
    app.add_option("--port", options.port, "TCP port on this machine; 0: any that is free");
    app.add_flag("--pty", options.pseudoTerminal, "Over a pseudo-terminal instead");
    app.add_option("--longer", options.longerPercent, "Percent by which it was built longer than drawn");
    app.add_option("--higher", options.higherM, "Metres by which it hangs higher than drawn");
    app.add_option("--capacitance", options.picofarad, "pF across the feed that nobody drew");
    app.add_option("--loss", options.lossOhm, "Ohm in series with the feed");
    app.add_option("--line", options.lineM, "Metres of cable more than said");
    app.add_option("--noise", options.noise, "Of the reflection coefficient")->check(CLI::Range(0.0, 0.5));
    app.add_option("--seed", options.seed, "Other noise");
    app.add_flag("--at-antenna", options.atAntenna, "Measures at the antenna, not at the radio");
    CLI11_PARSE(app, argc, argv);
    std::signal(SIGPIPE, SIG_IGN);
    try {
        const model::Project project = io::readProject(options.file);
        build::SimulatedAnalyser analyser(io::designOf(project, options.design, options.file),
                                          truthOf(options));
        if (options.pseudoTerminal)
            servePseudoTerminal(analyser);
        else
            serveTcp(analyser, options.port);
    } catch (const std::exception& e) {
        fmt::print(stderr, "reedmast-analyser: {}\n", e.what());
        return 2;
    }
    return 0;
}
