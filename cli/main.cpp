// kollema-cli: every calculation of Kollema without a display.  Each command answers a value or a failure;
// here they are printed, and a failure becomes its exit code.
#include "commands.hpp"
#include <CLI/CLI.hpp>
#include <chrono>
#include <condition_variable>
#include <cstdio>
#include <fmt/format.h>
#include <functional>
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

/// Everything that can be asked on the command line, and the call that answers it.
struct CommandLine {
    CLI::App app{"Kollema: fits, threads, holes, hardware, tolerance stacks and checks without a window"};
    bool json = false;
    std::string unit = "mm";
    std::function<cli::Answered(const cli::Context&)> run;

    std::string first, second, clearance_class = "medium", fail_on = "error";
    std::optional<std::string> tolerance_class;
    bool list = false;
    cli::StackOptions stack;
    cli::PressOptions press;
    std::string grade, material, friction = "0.12";

    CommandLine() {
        app.require_subcommand(1);
        app.fallthrough();
        add_standards();
        add_calculations();
        add_project_commands();
        for (auto* command : app.get_subcommands({})) {
            command->add_flag("--json", json, "Print one JSON document");
            command->add_option("--unit", unit, "mm or in");
        }
    }

    CLI::App* add(const char* name, const char* help,
                  std::function<cli::Answered(const cli::Context&)> call) {
        auto* command = app.add_subcommand(name, help);
        command->callback([this, call = std::move(call)] { run = call; });
        return command;
    }

    void add_standards() {
        auto* limits = add("limits", "Limit deviations of a zone",
                           [this](const auto& c) { return cli::limits(c, first, second); });
        limits->add_option("SIZE", first, "Nominal size")->required();
        limits->add_option("ZONE", second, "Zone such as H7 or g6")->required();
        auto* fit =
            add("fit", "Clearance of a fit", [this](const auto& c) { return cli::fit(c, first, second); });
        fit->add_option("SIZE", first, "Nominal size")->required();
        fit->add_option("FIT", second, "Fit such as H7/g6")->required();
        auto* thread = add("thread", "Geometry and limits of a thread",
                           [this](const auto& c) { return cli::thread(c, first, tolerance_class); });
        thread->add_option("NAME", first, "Thread such as M10 or M10x1.25")->required();
        thread->add_option("--class", tolerance_class, "Tolerance class such as 6g or 6H");
        auto* hole = add("hole", "The holes that belong to a fastener",
                         [this](const auto& c) { return cli::hole(c, first, clearance_class); });
        hole->add_option("FASTENER", first, "Thread such as M6")->required();
        hole->add_option("--class", clearance_class, "fine, medium or coarse");
        auto* hardware =
            add("hardware", "Dimensions of a piece of hardware", [this](const auto& c) -> cli::Answered {
                if (list) return cli::hardware_list();
                if (second.empty())
                    return fail({.what = "hardware",
                                 .why = "a standard and a size are needed",
                                 .remedy = "Write for example: hardware \"ISO 4762\" M6, or hardware --list",
                                 .kind = FailureKind::argument});
                return cli::hardware(c, first, second);
            });
        hardware->add_option("STANDARD", first, "Standard such as \"ISO 4762\"");
        hardware->add_option("SIZE", second, "Size such as M6");
        hardware->add_flag("--list", list, "What the catalogue holds");
    }

    void add_calculations() {
        auto* press_command = add("press", "Pressure, force and stress of a press or shrink fit",
                                  [this](const auto& c) { return cli::press(c, press); });
        press_command->add_option("SIZE", press.size, "Nominal size")->required();
        press_command->add_option("FIT", press.fit, "Fit such as H7/s6")->required();
        press_command->add_option("--length", press.length, "Length of contact")->required();
        press_command->add_option("--hub-od", press.hub_od, "Outside diameter of the hub")->required();
        press_command->add_option("--shaft-id", press.shaft_id, "Bore of a hollow shaft or bush");
        press_command->add_option("--hub-material", press.hub_material, "Material of the hub")->required();
        press_command->add_option("--shaft-material", press.shaft_material, "Material of the shaft")
            ->required();
        press_command->add_option("--friction", press.friction, "Coefficient of friction");
        press_command->add_option("--rz-hub", press.rz_hub, "Rz of the hub's bore in µm");
        press_command->add_option("--rz-shaft", press.rz_shaft, "Rz of the shaft in µm");
        press_command->add_option("--temperature", press.temperature, "Working temperature in °C");
        auto* torque = add("torque", "Preload and tightening torque of a screw",
                           [this](const auto&) { return cli::torque(first, grade, friction, material); });
        torque->add_option("NAME", first, "Thread such as M10")->required();
        torque->add_option("--grade", grade, "Grade such as 8.8, A2-70 or \"SAE 5\"")->required();
        torque->add_option("--friction", friction, "Coefficient of friction of thread and head");
        torque->add_option("--material", material, "Material under the head");
        auto* engagement =
            add("engagement", "Length of thread so that the screw breaks before the thread strips",
                [this](const auto& c) { return cli::engagement(c, first, grade, material); });
        engagement->add_option("NAME", first, "Thread such as M10")->required();
        engagement->add_option("--grade", grade, "Grade such as 8.8")->required();
        engagement->add_option("--material", material, "Material with the inner thread")->required();
        auto* taper = add("taper", "Taper, included angle, half angle and slope",
                          [this](const auto& c) { return cli::taper(c, first); });
        taper->add_option("TAPER", first, "1:100, 0.573deg, or both with = between them")->required();
    }

    void add_project_commands() {
        auto* stack_command = add("stack", "Tolerance stacks of a project or a bare chain",
                                  [this](const auto& c) { return cli::stack(c, stack); });
        stack_command->add_option("FILE", stack.file, "Project, or chain as CSV")->required();
        stack_command->add_option("--requirement", stack.requirement, "Only the requirement of this id");
        stack_command->add_option("--lower", stack.lower, "Lower limit of a bare chain");
        stack_command->add_option("--upper", stack.upper, "Upper limit of a bare chain");
        stack_command->add_option("--samples", stack.samples, "Samples of the simulation");
        stack_command->add_option("--seed", stack.seed, "Seed of the simulation");
        auto* check = add("check", "Findings of a project",
                          [this](const auto& c) { return cli::check(c, first, fail_on); });
        check->add_option("PROJECT", first, "Project file")->required();
        check->add_option("--fail-on", fail_on, "note, warning or error");
        add("schema", "The JSON Schema of a project file", [](const auto&) { return cli::schema(); });
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
        return line.run(context);
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
