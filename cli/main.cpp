// kollema-cli: every calculation of Kollema without a display.  Each command answers a value or a failure;
// here they are printed, and a failure becomes its exit code.
#include "commands.hpp"
#include <CLI/CLI.hpp>
#include <chrono>
#include <condition_variable>
#include <cstdio>
#include <fmt/format.h>
#include <iostream>
#include <mutex>
#include <thread>
#include <unistd.h>

namespace {

using namespace kollema;

int print_failure(const Failure& failure) {
    std::cerr << "kollema-cli: " << in_one_line(failure) << "\n";
    return cli::exit_code(failure.kind);
}

/// What may stand on a command line besides the two options that every command has.
struct Arguments {
    std::string first, second, clearance_class = "medium", fail_on = "error", grade, material,
                               friction = "0.12";
    std::optional<std::string> tolerance_class, output;
    bool list = false;
    std::vector<std::string> files;
    cli::StackOptions stack;
    cli::PatternOptions pattern;
    cli::PressOptions press;
};

/// A command: what it takes, and the call that answers it.
struct Command {
    const char *name, *help;
    void (*takes)(CLI::App&, Arguments&);
    cli::Answered (*call)(const cli::Context&, const Arguments&);
};

void a_project(CLI::App& app, Arguments& a) {
    app.add_option("PROJECT", a.first, "Project file")->required();
}

void a_strength(CLI::App& app, Arguments& a) {
    app.add_option("NAME", a.first, "Thread such as M10")->required();
    app.add_option("--grade", a.grade, "Grade such as 8.8, A2-70 or \"SAE 5\"")->required();
}

void a_simulation(CLI::App& app, cli::SamplingOptions& sampling) {
    app.add_option("--samples", sampling.samples, "Samples of the simulation");
    app.add_option("--seed", sampling.seed, "Seed of the simulation");
    app.add_option("--share", sampling.share, "Draw part K of N only, as K/N, and write its sums for merge");
}

cli::Answered hardware_or_list(const cli::Context& context, const Arguments& a) {
    if (a.list) return cli::hardware_list();
    if (!a.second.empty()) return cli::hardware(context, a.first, a.second);
    return fail({.what = "hardware",
                 .why = "a standard and a size are needed",
                 .remedy = "Write for example: hardware \"ISO 4762\" M6, or hardware --list",
                 .kind = FailureKind::argument});
}

/// The one list of commands.
const Command commands[] = {
    {"limits", "Limit deviations of a zone",
     [](CLI::App& app, Arguments& a) {
         app.add_option("SIZE", a.first, "Nominal size")->required();
         app.add_option("ZONE", a.second, "Zone such as H7 or g6")->required();
     },
     [](const auto& c, const auto& a) { return cli::limits(c, a.first, a.second); }},
    {"fit", "Clearance of a fit",
     [](CLI::App& app, Arguments& a) {
         app.add_option("SIZE", a.first, "Nominal size")->required();
         app.add_option("FIT", a.second, "Fit such as H7/g6")->required();
     },
     [](const auto& c, const auto& a) { return cli::fit(c, a.first, a.second); }},
    {"thread", "Geometry and limits of a thread",
     [](CLI::App& app, Arguments& a) {
         app.add_option("NAME", a.first, "Thread such as M10 or M10x1.25")->required();
         app.add_option("--class", a.tolerance_class, "Tolerance class such as 6g or 6H");
     },
     [](const auto& c, const auto& a) { return cli::thread(c, a.first, a.tolerance_class); }},
    {"hole", "The holes that belong to a fastener",
     [](CLI::App& app, Arguments& a) {
         app.add_option("FASTENER", a.first, "Thread such as M6")->required();
         app.add_option("--class", a.clearance_class, "fine, medium or coarse");
     },
     [](const auto& c, const auto& a) { return cli::hole(c, a.first, a.clearance_class); }},
    {"hardware", "Dimensions of a piece of hardware",
     [](CLI::App& app, Arguments& a) {
         app.add_option("STANDARD", a.first, "Standard such as \"ISO 4762\"");
         app.add_option("SIZE", a.second, "Size such as M6");
         app.add_flag("--list", a.list, "What the catalogue holds");
     },
     hardware_or_list},
    {"press", "Pressure, force and stress of a press or shrink fit",
     [](CLI::App& app, Arguments& a) {
         auto& press = a.press;
         app.add_option("SIZE", press.size, "Nominal size")->required();
         app.add_option("FIT", press.fit, "Fit such as H7/s6")->required();
         app.add_option("--length", press.length, "Length of contact")->required();
         app.add_option("--hub-od", press.hub_od, "Outside diameter of the hub")->required();
         app.add_option("--shaft-id", press.shaft_id, "Bore of a hollow shaft or bush");
         app.add_option("--hub-material", press.hub_material, "Material of the hub")->required();
         app.add_option("--shaft-material", press.shaft_material, "Material of the shaft")->required();
         app.add_option("--friction", press.friction, "Coefficient of friction");
         app.add_option("--rz-hub", press.rz_hub, "Rz of the hub's bore in µm");
         app.add_option("--rz-shaft", press.rz_shaft, "Rz of the shaft in µm");
         app.add_option("--temperature", press.temperature, "Working temperature in °C");
     },
     [](const auto& c, const auto& a) { return cli::press(c, a.press); }},
    {"torque", "Preload and tightening torque of a screw",
     [](CLI::App& app, Arguments& a) {
         a_strength(app, a);
         app.add_option("--friction", a.friction, "Coefficient of friction of thread and head");
         app.add_option("--material", a.material, "Material under the head");
     },
     [](const auto&, const auto& a) { return cli::torque(a.first, a.grade, a.friction, a.material); }},
    {"engagement", "Length of thread so that the screw breaks before a thread strips",
     [](CLI::App& app, Arguments& a) {
         a_strength(app, a);
         app.add_option("--material", a.material, "Material with the inner thread")->required();
     },
     [](const auto& c, const auto& a) { return cli::engagement(c, a.first, a.grade, a.material); }},
    {"taper", "Taper, included angle, half angle and slope",
     [](CLI::App& app, Arguments& a) {
         app.add_option("TAPER", a.first, "1:100, 0.573deg, or both with = between them")->required();
     },
     [](const auto& c, const auto& a) { return cli::taper(c, a.first); }},
    {"stack", "Tolerance stacks of a project, a bare chain or assembly, a formula or loops",
     [](CLI::App& app, Arguments& a) {
         auto& stack = a.stack;
         app.add_option("FILE", stack.file, "Project; assembly, formula or loops as JSON; or chain as CSV")
             ->required();
         app.add_option("--requirement", stack.requirement, "Only the requirement of this id");
         app.add_option("--lower", stack.lower, "Lower limit of a bare chain");
         app.add_option("--upper", stack.upper, "Upper limit of a bare chain");
         app.add_option("--shim", stack.shim, "Step of a set of shims that fill the gap: how many of each");
         app.add_option("--drift", stack.drift,
                        "Sigmas by which the mean of the gap may be off in the long run (usual: 1.5)");
         app.add_option("--match", stack.match,
                        "Two rows and classes as Bore:Shaft:3: sorted, like put to like");
         app.add_option("--pieces", stack.pieces,
                        "Pieces on which every Cpk was measured: the yield that they allow is told too");
         app.add_option("--page", stack.page, "Write the answer on one page too: FILE.svg or FILE.txt");
         a_simulation(app, stack.sampling);
     },
     [](const auto& c, const auto& a) { return cli::stack(c, a.stack); }},
    {"pattern", "Yield of a hole pattern: do all fasteners pass?",
     [](CLI::App& app, Arguments& a) {
         app.add_option("FILE", a.pattern.file, "Holes, plates and fastener as JSON, or a project")
             ->required();
         auto* joint =
             app.add_option("--joint", a.pattern.joint, "The joint of a project whose holes are meant");
         app.add_option("--typed", a.pattern.typed, "The typed pattern of a project that is meant")
             ->excludes(joint);
         app.add_flag("--charts", a.pattern.charts,
                      "Yields with other holes and tolerances too, and which plate governs");
         a_simulation(app, a.pattern.sampling);
     },
     [](const auto&, const auto& a) { return cli::pattern(a.pattern); }},
    {"merge", "The answer of a whole run from its shares",
     [](CLI::App& app, Arguments& a) {
         app.add_option("FILE", a.files, "What stack or pattern wrote with --share")->required();
     },
     [](const auto&, const auto& a) { return cli::merge(a.files); }},
    {"dof", "Freedoms and redundancy of a project or mechanism",
     [](CLI::App& app, Arguments& a) {
         app.add_option("FILE", a.first, "Project, or mechanism as JSON")->required();
     },
     [](const auto& c, const auto& a) { return cli::dof(c, a.first); }},
    {"check", "Findings of a project",
     [](CLI::App& app, Arguments& a) {
         a_project(app, a);
         app.add_option("--fail-on", a.fail_on, "note, warning or error");
     },
     [](const auto& c, const auto& a) { return cli::check(c, a.first, a.fail_on); }},
    {"bom", "List of the hardware of a project",
     [](CLI::App& app, Arguments& a) {
         a_project(app, a);
         app.add_option("-o", a.output, "Write it as CSV too");
     },
     [](const auto& c, const auto& a) { return cli::bom(c, a.first, a.output); }},
    {"callouts", "Hole callouts of every part of a project", a_project,
     [](const auto& c, const auto& a) { return cli::callouts(c, a.first); }},
    {"schema", "The JSON Schema of a project file", [](CLI::App&, Arguments&) {},
     [](const auto&, const auto&) { return cli::schema(); }}};

/// What was asked, and the command that answers it.
struct CommandLine {
    CLI::App app{"Kollema: fits, threads, holes, hardware, tolerance stacks and checks without a window"};
    bool json = false;
    std::string unit = "mm";
    Arguments arguments;
    const Command* asked = nullptr;

    CommandLine() {
        app.require_subcommand(1);
        app.fallthrough();
        for (const auto& command : commands) {
            auto* sub = app.add_subcommand(command.name, command.help);
            sub->callback([this, &command] { asked = &command; });
            command.takes(*sub, arguments);
            sub->add_flag("--json", json, "Print one JSON document");
            sub->add_option("--unit", unit, "mm or in");
        }
    }
};

/// A code, unless what was printed did not get out.
int written(int code) {
    std::cout << std::flush;
    if (std::cout) return code;
    return print_failure({.what = "standard output",
                          .why = "it cannot be written",
                          .remedy = "Check where it goes",
                          .kind = FailureKind::file});
}

/// Tells a person at a terminal that a long calculation goes on, and how to stop it.
class Patience {
public:
    Patience() {
        if (::isatty(STDERR_FILENO) == 0) return;
        teller_ = std::jthread([this](const std::stop_token& stop) {
            std::unique_lock lock(mutex_);
            for (int seconds = 2;
                 !done_.wait_for(lock, stop, std::chrono::seconds(2), [] { return false; }) &&
                 !stop.stop_requested();
                 seconds += 2)
                std::cerr << "\rkollema-cli: computing for " << (told_ = seconds) << " s; Ctrl+C stops it "
                          << std::flush;
        });
    }
    Patience(const Patience&) = delete;
    Patience& operator=(const Patience&) = delete;
    ~Patience() {
        if (!teller_.joinable()) return;
        teller_.request_stop();
        teller_.join();
        constexpr int wider_than_it_was = 60;
        if (told_ > 0) std::cerr << "\r" << std::string(wider_than_it_was, ' ') << "\r" << std::flush;
    }

private:
    std::mutex mutex_;
    std::condition_variable_any done_;
    int told_ = 0;
    std::jthread teller_; // the last member: it uses the others
};

int answer(CommandLine& line) {
    cli::Context context;
    if (line.unit == "in")
        context.unit = LengthUnit::inch;
    else if (line.unit != "mm")
        return print_failure({.what = "--unit " + line.unit,
                              .why = "this is not a unit of length here",
                              .remedy = "Use mm or in",
                              .kind = FailureKind::argument});
    const auto result = [&] {
        const Patience patience;
        return line.asked->call(context, line.arguments);
    }();
    if (!result) return print_failure(result.error());
    if (!result->finite)
        return print_failure({.what = "the result",
                              .why = "it is beyond every number",
                              .remedy = "Give figures of a usual size"});
    if (line.json) {
        result->write_json(std::cout);
        std::cout << "\n";
    } else
        result->write_text(std::cout);
    return written(result->exit_code);
}

}

int main(int argc, char** argv) {
    try {
        CommandLine line;
        try {
            line.app.parse(argc, argv);
        } catch (const CLI::CallForHelp& help) {
            line.app.exit(help);
            return written(0);
        } catch (const CLI::ParseError& error) {
            return print_failure({.what = "arguments",
                                  .why = error.what(),
                                  .remedy = "See kollema-cli --help",
                                  .kind = FailureKind::argument});
        }
        return answer(line);
    } catch (const std::exception& error) {
        return print_failure({.what = "internal fault",
                              .why = error.what(),
                              .remedy = "Please report it with the call that led here"});
    }
}
