// The program described by itself: a manual page and a completion for bash, from the same words as --help.
#include <fmt/format.h>

#include <cstdio>
#include <string>
#include <string_view>
#include <vector>

#include "cli/commands.h"
#include "core/version.h"

namespace rm::cli {

namespace {

/// Words for a manual page: hyphens that can be copied, no line that begins as a request would, lists that
/// may break behind their commas.
std::string inRoff(std::string_view words) {
    std::string out;
    for (std::size_t i = 0; i < words.size(); ++i) {
        const char c = words[i];
        if (c == '\\')
            out += "\\e";
        else if (c == '-')
            out += "\\-";
        else if ((c == '.' || c == '\'') && (i == 0 || words[i - 1] == '\n'))
            out += std::string("\\&") + c;
        else if (c == ',' && i + 1 < words.size() && words[i + 1] != ' ')
            out += ",\\:";
        else
            out += c;
    }
    return out;
}

std::vector<const CLI::App*> shown(const CLI::App& of) {
    std::vector<const CLI::App*> all;
    for (const CLI::App* one : of.get_subcommands(nullptr))
        if (!one->get_group().empty()) all.push_back(one);
    return all;
}

/// "-f,--freq" or "file" of a place in the line.
std::string nameOf(const CLI::Option& option) {
    return option.get_positional() ? option.get_name(true, false) : option.get_name(false, true);
}

std::string argumentOf(const CLI::Option& option) {
    if (option.get_items_expected_max() == 0) return {};  // a switch
    const std::string words = option.get_type_name();
    return words.empty() ? "VALUE" : words;
}

void describeOptions(const CLI::App& command, std::string& page) {
    for (const CLI::Option* option : command.get_options()) {
        if (option->get_group().empty() || option == command.get_help_ptr()) continue;
        const std::string argument = option->get_positional() ? std::string() : argumentOf(*option);
        page += fmt::format(".TP\n\\fB{}\\fR{}\n{}\n", inRoff(nameOf(*option)),
                            argument.empty() ? "" : " \\fI" + inRoff(argument) + "\\fR",
                            inRoff(option->get_description()));
        if (!option->get_default_str().empty())
            page += fmt::format("Otherwise {}.\n", inRoff(option->get_default_str()));
    }
}

std::string lineOf(const CLI::App& command) {
    std::string line = "\\fBreedmast\\-cli " + inRoff(command.get_name()) + "\\fR";
    for (const CLI::Option* option : command.get_options()) {
        if (!option->get_positional()) continue;
        const std::string name = "\\fI" + inRoff(nameOf(*option)) + "\\fR";
        line += option->get_required() ? " " + name : " [" + name + "]";
    }
    return line + " [\\fIoptions\\fR]";
}

std::string manualPage(const CLI::App& program) {
    std::string page = fmt::format(
        ".TH REEDMAST\\-CLI 1 \"\" \"Reed Mast {}\" \"User Commands\"\n"
        ".SH NAME\nreedmast\\-cli \\- antennas over real ground, without a window\n"
        ".SH SYNOPSIS\n\\fBreedmast\\-cli\\fR \\fIcommand\\fR [\\fIoptions\\fR]\n.SH DESCRIPTION\n{}\n",
        kVersion, inRoff(program.get_description()));
    page +=
        ".SH EXIT STATUS\nZero only where everything asked for was done. Errors are one sentence on standard "
        "error, naming the file and the part.\n.SH COMMANDS\n";
    for (const CLI::App* command : shown(program)) {
        page += fmt::format(".SS {}\n{}\n.PP\n{}\n", inRoff(command->get_name()),
                            inRoff(command->get_description()), lineOf(*command));
        describeOptions(*command, page);
    }
    return page + ".SH SEE ALSO\n\\fBreedmast\\fR(1)\n";
}

/// Long names of the options of a command, for a shell to offer.
std::string longNames(const CLI::App& command) {
    std::string names;
    for (const CLI::Option* option : command.get_options())
        if (!option->get_group().empty())
            for (const std::string& name : option->get_lnames())
                names += (names.empty() ? "--" : " --") + name;
    return names;
}

std::string completion(const CLI::App& program) {
    std::string commands;
    std::string cases;
    for (const CLI::App* command : shown(program)) {
        commands += (commands.empty() ? "" : " ") + command->get_name();
        cases += fmt::format("        {}) words=\"{}\" ;;\n", command->get_name(), longNames(*command));
    }
    return fmt::format(
        R"(# Completion of reedmast-cli for bash: commands, their options, and files.
_reedmast_cli() {{
    local words="" current="${{COMP_WORDS[COMP_CWORD]}}"
    if [ "$COMP_CWORD" -eq 1 ]; then
        COMPREPLY=($(compgen -W "{} {}" -- "$current"))
        return
    fi
    case "${{COMP_WORDS[1]}}" in
{}    esac
    case "$current" in
        -*) COMPREPLY=($(compgen -W "$words" -- "$current")) ;;
        *) COMPREPLY=($(compgen -f -- "$current")) ;;
    esac
}}
complete -o filenames -F _reedmast_cli reedmast-cli
)",
        commands, longNames(program), cases);
}

}  // namespace

void addDescribedCommands(CLI::App& app, int&) {
    // Both are for whoever makes packages, and in no list of commands.
    app.add_subcommand("manual", "The manual page of this program")->group("")->callback([&app] {
        std::fputs(manualPage(app).c_str(), stdout);
    });
    app.add_subcommand("completion", "Completion for bash")->group("")->callback([&app] {
        std::fputs(completion(app).c_str(), stdout);
    });
}

}  // namespace rm::cli
