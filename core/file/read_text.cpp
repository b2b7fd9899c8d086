#include "file/descriptor.hpp"
#include "file/text_file.hpp"
#include <array>
#include <cerrno>
#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

namespace kollema::file {
namespace {

tl::unexpected<Failure> io_failure(const std::filesystem::path& path, std::string why, std::string remedy) {
    return fail({.what = path.string(),
                 .why = std::move(why),
                 .remedy = std::move(remedy),
                 .kind = FailureKind::file});
}

}

Result<std::string> read_text(const std::filesystem::path& path, std::uintmax_t most_bytes) {
    // Not blocking: a FIFO without a writer would wait for ever before its kind is known.
    const Descriptor file(::open(path.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC));
    struct stat status {};
    if (!file.is_open()) {
        const bool missing = errno == ENOENT || errno == ENOTDIR;
        return io_failure(path, missing ? "there is no such file" : "it cannot be read",
                          missing ? "Check the path" : "Check its permissions");
    }
    if (::fstat(file.number(), &status) != 0)
        return io_failure(path, "it cannot be read", "Check its permissions");
    if (S_ISDIR(status.st_mode)) return io_failure(path, "this is a folder", "Name a file in it");
    if (!S_ISREG(status.st_mode))
        return io_failure(path, "this is a device or a pipe and not a file", "Copy it into a file first");
    const auto too_large = [&] {
        return io_failure(path, fmt::format("it is larger than {} MiB", most_bytes >> 20U),
                          "Check that this is the right file");
    };
    if (static_cast<std::uintmax_t>(status.st_size) > most_bytes) return too_large();
    std::string text;
    text.reserve(static_cast<std::size_t>(status.st_size) + 1);
    std::array<char, 1 << 16> block;
    for (;;) { // to the end, but never beyond the cap: a file may grow while it is read
        const ssize_t count = ::read(file.number(), block.data(), block.size());
        if (count < 0 && errno == EINTR) continue;
        if (count < 0) return io_failure(path, "it cannot be read", "Check its permissions");
        if (count == 0) return text;
        text.append(block.data(), static_cast<std::size_t>(count));
        if (text.size() > most_bytes) return too_large();
    }
}

}
