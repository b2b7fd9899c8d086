#pragma once
// The command line as a script sees it.
#include "places.hpp"
#include <array>
#include <cstdio>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <nlohmann/json.hpp>
#include <random>
#include <sys/wait.h>

namespace kollema::test {

struct Run {
    int code = -1;
    std::string out, err;
    nlohmann::json json() const { return nlohmann::json::parse(out); }
};

struct Scratch {
    std::filesystem::path path = std::filesystem::temp_directory_path() /
                                 ("kollema-cli-test-" + std::to_string(std::random_device{}()));
    Scratch() { std::filesystem::create_directories(path); }
    ~Scratch() { std::filesystem::remove_all(path); }
    std::string file(const std::string& name, const std::string& text) const {
        std::ofstream(path / name) << text;
        return (path / name).string();
    }
};

inline Run run(const std::string& arguments) {
    const Scratch scratch;
    const std::string errors = (scratch.path / "err").string();
    Run result;
    FILE* pipe = ::popen(fmt::format("{} {} 2>{}", cli_program(), arguments, errors).c_str(), "r");
    std::array<char, 4096> buffer;
    while (const auto n = std::fread(buffer.data(), 1, buffer.size(), pipe))
        result.out.append(buffer.data(), n);
    result.code = WEXITSTATUS(::pclose(pipe));
    std::ifstream stream(errors);
    result.err = {std::istreambuf_iterator<char>(stream), {}};
    return result;
}

inline const std::string demo = in_source("data/demo/fruit-sorter.kollema");

}
