// kollema-fuzz EXECUTIONS SEED FILE…: changes the trees of projects and follows what is still accepted.  A
// crash says which execution it was; kollema-fuzz 1 SEED+EXECUTION FILE… repeats it and kollema-fuzz 0 SEED
// FILE… prints it.
#include "follow.hpp"
#include "mutate.hpp"
#include <atomic>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <iostream>
#include <unistd.h>

namespace {

std::atomic<std::uint64_t> current{0};

extern "C" void tell_and_die(int signal) {
    char text[64];
    const int length = std::snprintf(text, sizeof text, "\nsignal %d in execution of seed %llu\n", signal,
                                     static_cast<unsigned long long>(current.load()));
    if (::write(STDERR_FILENO, text, static_cast<std::size_t>(length)) < 0) ::_exit(3);
    ::_exit(2);
}

extern "C" void __asan_on_error() { // NOLINT: the sanitizer's own name
    std::fprintf(stderr, "\nin execution of seed %llu\n", static_cast<unsigned long long>(current.load()));
}

std::string text_of(const char* path) {
    std::ifstream stream(path);
    return {std::istreambuf_iterator<char>(stream), {}};
}

}

int main(int argc, char** argv) {
    if (argc < 4) {
        std::cerr << "kollema-fuzz EXECUTIONS SEED FILE…\n";
        return 2;
    }
    for (const int signal : {SIGSEGV, SIGABRT, SIGFPE, SIGILL})
        std::signal(signal, tell_and_die);
    const std::uint64_t executions = std::strtoull(argv[1], nullptr, 10),
                        seed = std::strtoull(argv[2], nullptr, 10);
    std::vector<nlohmann::json> corpus;
    for (int i = 3; i < argc; ++i) {
        corpus.push_back(nlohmann::json::parse(text_of(argv[i])));
        const auto whole = kollema::fuzz::follow(corpus.back().dump());
        if (!whole.accepted || whole.fault) {
            std::cerr << argv[i] << ": " << whole.fault.value_or("not accepted") << "\n";
            return 1;
        }
    }
    std::uint64_t accepted = 0, fixes = 0;
    for (std::uint64_t n = seed; n < seed + std::max<std::uint64_t>(executions, 1); ++n) {
        current = n;
        std::mt19937_64 random(n);
        const auto document = kollema::fuzz::mutated(corpus[random() % corpus.size()], random);
        const std::string text = document.dump(1, ' ', false, nlohmann::json::error_handler_t::replace);
        if (executions == 0) {
            std::cout << text << "\n";
            return 0;
        }
        const auto result = kollema::fuzz::follow(text);
        accepted += result.accepted ? 1 : 0;
        fixes += result.fixes;
        if (result.fault) {
            std::cerr << "seed " << n << ": " << *result.fault << "\n";
            return 1;
        }
    }
    std::cout << executions << " executions from seed " << seed << ": " << accepted << " accepted, " << fixes
              << " fixes tried, no fault\n";
    return 0;
}
