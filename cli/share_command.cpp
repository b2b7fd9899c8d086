#include "share_command.hpp"
#include "chain_extras.hpp"
#include "file/document.hpp"
#include "file/text_file.hpp"
#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <nlohmann/json.hpp>
#include <ostream>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

/// One file of a run in several parts.
struct Part {
    std::string file;
    stack::Share share;
    Json question;
    std::vector<std::vector<stack::Sums>> simulations;
};

tl::unexpected<Failure> refuse(const std::string& file, std::string why, std::string remedy) {
    return fail({file, std::move(why), std::move(remedy), FailureKind::file});
}

Result<Part> read_part(const std::string& file) {
    const auto text = file::read_text(file);
    if (!text) return tl::unexpected(text.error());
    const auto read = file::document(*text, file); // with its bounds of depth
    if (!read) return tl::unexpected(read.error());
    Json document = Json(*read);
    Part part{.file = file, .share = {}, .question = {}, .simulations = {}};
    try {
        part.share = {document.at("share").at(0), document.at("share").at(1)};
        document.at("simulations").get_to(part.simulations);
        document.erase("share");
        document.erase("simulations");
        for (const char* key : {"command", "file", "input", "unit"})
            document.at(key).get_ref<const std::string&>();
        if (part.share.number < 1 || part.share.number > part.share.of) throw std::out_of_range("share");
        part.question = std::move(document);
    } catch (const std::exception&) {
        return refuse(file, "it is not a share of a run",
                      "Give what stack or pattern wrote with --share K/N");
    }
    return part;
}

/// All parts of one run, each once; then their groups in order.
Result<stack::Ledger> ledger_of(std::vector<Part>& parts) {
    std::ranges::stable_sort(parts, {}, [](const Part& p) { return p.share.number; });
    const Part& first = parts.front();
    stack::Ledger ledger{.simulations = {}, .replay = true};
    ledger.simulations.resize(first.simulations.size());
    for (std::size_t i = 0; i < parts.size(); ++i) {
        Part& part = parts[i];
        if (part.question != first.question || part.share.of != first.share.of ||
            part.simulations.size() != first.simulations.size())
            return refuse(part.file, fmt::format("it is of another run than {}", first.file),
                          "Give the shares of one file with the same options");
        if (part.share.number != i + 1)
            return refuse(part.file,
                          part.share.number <= i
                              ? fmt::format("share {} is there twice", part.share.number)
                              : fmt::format("share {} of {} is missing", i + 1, first.share.of),
                          "Give every share once");
        for (std::size_t s = 0; s < ledger.simulations.size(); ++s)
            std::ranges::move(part.simulations[s], std::back_inserter(ledger.simulations[s]));
    }
    if (parts.size() != first.share.of)
        return refuse(parts.back().file,
                      fmt::format("share {} of {} is missing", parts.size() + 1, first.share.of),
                      "Give every share once");
    return ledger;
}

std::optional<std::string> text_of(const Json& question, const char* key) {
    const auto found = question.find(key);
    if (found == question.end() || !found->is_string()) return std::nullopt;
    return found->get<std::string>();
}

}

Answered share_of(const Drawing& drawing, const Json& question,
                  const std::function<Answered(const Drawing&)>& compute) {
    stack::Ledger ledger;
    Drawing noted = drawing;
    noted.ledger = &ledger;
    const auto whole = compute(noted);
    if (!whole) return tl::unexpected(whole.error());
    Json document{{"share", {drawing.share.number, drawing.share.of}}};
    document.update(question);
    document["samples"] = drawing.samples ? Json(*drawing.samples) : Json(nullptr);
    document["seed"] = drawing.seed;
    document["simulations"] = std::move(ledger.simulations);
    const std::string text = dumped(document);
    const auto write = [text](std::ostream& out) { out << text; };
    return Answer(write, [text](std::ostream& out) { out << text << "\n"; });
}

Answered merge(const std::vector<std::string>& files) {
    std::vector<Part> parts;
    for (const auto& file : files) {
        auto part = read_part(file);
        if (!part) return tl::unexpected(part.error());
        parts.push_back(std::move(*part));
    }
    auto ledger = ledger_of(parts);
    if (!ledger) return tl::unexpected(ledger.error());
    const Json& q = parts.front().question;
    const std::string text = *text_of(q, "input"), command = *text_of(q, "command");
    const Context context{.unit = *text_of(q, "unit") == "in" ? LengthUnit::inch : LengthUnit::mm};
    Drawing drawing{.samples = {}, .seed = 1, .share = {}, .ledger = &*ledger};
    if (q.contains("samples") && q["samples"].is_number_unsigned())
        drawing.samples = std::max<std::uint64_t>(1, q["samples"].get<std::uint64_t>());
    if (q.contains("seed") && q["seed"].is_number_unsigned()) drawing.seed = q["seed"];
    StackOptions options{.file = *text_of(q, "file"),
                         .lower = text_of(q, "lower"),
                         .upper = text_of(q, "upper"),
                         .requirement = text_of(q, "requirement")};
    read_extras(q, options);
    auto answer = command == "pattern" ? pattern_of({.file = options.file,
                                                     .charts = q.contains("charts") && q["charts"] == true,
                                                     .joint = text_of(q, "joint"),
                                                     .typed = text_of(q, "typed")},
                                                    drawing, text)
                                       : stack_of(context, options, drawing, text);
    if (answer && (ledger->astray || ledger->next != ledger->simulations.size()))
        return refuse(parts.front().file, "its sums are not those of its question", "Write the shares again");
    return answer;
}

}
