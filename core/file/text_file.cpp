#include "file/project_file.hpp"
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <fmt/format.h>
#include <fstream>
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

/// An open file that closes itself.
class Descriptor {
public:
    Descriptor(const char* path, int flags, mode_t mode = 0)
        : number_(::open(path, flags | O_CLOEXEC, mode)) {}
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    ~Descriptor() {
        if (number_ >= 0) ::close(number_);
    }
    bool is_open() const { return number_ >= 0; }
    bool sync() const { return ::fsync(number_) == 0; }
    bool write(std::string_view text) const {
        while (!text.empty()) {
            const ssize_t written = ::write(number_, text.data(), text.size());
            if (written < 0 && errno == EINTR) continue;
            if (written <= 0) return false;
            text.remove_prefix(static_cast<std::size_t>(written));
        }
        return true;
    }

private:
    int number_;
};

}

Result<std::string> read_text(const std::filesystem::path& path) {
    std::error_code error;
    const auto status = std::filesystem::status(path, error);
    if (!std::filesystem::exists(status)) return io_failure(path, "there is no such file", "Check the path");
    if (std::filesystem::is_directory(status))
        return io_failure(path, "this is a folder", "Name a file in it");
    constexpr std::uintmax_t largest = 64U << 20U;
    if (std::filesystem::is_regular_file(status) && std::filesystem::file_size(path, error) > largest)
        return io_failure(path, "it is larger than 64 MiB", "Check that this is the right file");
    std::ifstream stream(path, std::ios::binary);
    std::string text{std::istreambuf_iterator<char>(stream), {}};
    if (!stream.is_open() || stream.bad())
        return io_failure(path, "it cannot be read", "Check its permissions");
    return text;
}

Result<void> write_text_atomically(const std::filesystem::path& path, std::string_view text) {
    const auto folder = path.has_parent_path() ? path.parent_path() : std::filesystem::path(".");
    const std::string beside = path.string() + fmt::format(".{}.part", ::getpid());
    const auto failed = [&] {
        std::string why = std::strerror(errno);
        ::unlink(beside.c_str());
        return io_failure(path, fmt::format("it cannot be written ({})", why), "Save to another place");
    };
    struct stat old {};
    const mode_t mode = ::stat(path.c_str(), &old) == 0 ? old.st_mode & 0777 : 0644;
    {
        const Descriptor file(beside.c_str(), O_WRONLY | O_CREAT | O_TRUNC, mode);
        if (!file.is_open() || !file.write(text) || !file.sync()) return failed();
    }
    if (::rename(beside.c_str(), path.c_str()) != 0) return failed();
    // The rename itself must reach the disk too; where a file system cannot sync a folder, nothing is lost
    // but haste.
    if (const Descriptor directory(folder.c_str(), O_RDONLY | O_DIRECTORY); directory.is_open())
        directory.sync();
    return {};
}

}
