#include "file/descriptor.hpp"
#include "file/text_file.hpp"
#include <algorithm>
#include <cerrno>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <dirent.h>
#include <fcntl.h>
#include <fmt/format.h>
#include <memory>
#include <sys/stat.h>
#include <sys/xattr.h>
#include <unistd.h>

namespace kollema::file {
namespace {

namespace fs = std::filesystem;

bool write_all(int file, std::string_view text) {
    while (!text.empty()) {
        const ssize_t written = ::write(file, text.data(), text.size());
        if (written < 0 && errno == EINTR) continue;
        if (written <= 0) return false;
        text.remove_prefix(static_cast<std::size_t>(written));
    }
    return true;
}

/// The file that a path means: where its symbolic links lead, also those that lead to nothing yet.
Result<fs::path> target_of(fs::path path) {
    constexpr int most_links = 40; // as the kernel follows
    for (int i = 0; i < most_links; ++i) {
        std::error_code error;
        if (!fs::is_symlink(path, error)) return path;
        const fs::path next = fs::read_symlink(path, error);
        if (error) break;
        path = next.is_absolute() ? next : path.parent_path() / next;
    }
    return fail({.what = path.string(),
                 .why = "its symbolic links lead nowhere",
                 .remedy = "Save to another place",
                 .kind = FailureKind::file});
}

constexpr std::string_view part_begins = ".kollema-", part_ends = ".part";

/// ".kollema-1234.part": short whatever the file's name, and telling whose it is.
std::string part_name() { return fmt::format("{}{}{}", part_begins, ::getpid(), part_ends); }

/// Takes away what processes that are no more left in a folder.
void sweep(int folder) {
    const int copy = ::openat(folder, ".", O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (copy < 0) return;
    const std::unique_ptr<DIR, int (*)(DIR*)> listing(::fdopendir(copy), ::closedir);
    if (!listing) {
        ::close(copy);
        return;
    }
    while (const dirent* entry = ::readdir(listing.get())) {
        const std::string_view name = entry->d_name;
        if (!name.starts_with(part_begins) || !name.ends_with(part_ends)) continue;
        char* end = nullptr;
        const long process = std::strtol(entry->d_name + part_begins.size(), &end, 10);
        const bool dead = process > 0 && std::string_view(end) == part_ends &&
                          ::kill(static_cast<pid_t>(process), 0) != 0 && errno == ESRCH;
        if (dead) ::unlinkat(folder, entry->d_name, 0);
    }
}

/// Access lists and other attributes of the old file.  False where the access list cannot be kept.
bool keep_attributes(int part, int old) {
    constexpr std::string_view access_list = "system.posix_acl_access";
    const ssize_t size = ::flistxattr(old, nullptr, 0);
    if (size <= 0) return true; // none, or a file system without them
    std::string names(static_cast<std::size_t>(size), '\0');
    const ssize_t read = ::flistxattr(old, names.data(), names.size());
    for (std::size_t at = 0; read > 0 && at < static_cast<std::size_t>(read);) {
        const std::string name = names.c_str() + at; // each ends with a zero
        at += name.size() + 1;
        const ssize_t length = ::fgetxattr(old, name.c_str(), nullptr, 0);
        std::string value(static_cast<std::size_t>(std::max<ssize_t>(0, length)), '\0');
        const bool kept = length >= 0 &&
                          ::fgetxattr(old, name.c_str(), value.data(), value.size()) == length &&
                          ::fsetxattr(part, name.c_str(), value.data(), value.size(), 0) == 0;
        if (!kept && name == access_list) return false;
    }
    return true;
}

/// The new file gets what the old one had.  False where owner, rights or access list cannot be kept.
bool keep_rights(int part, int folder, const char* name, const struct stat& old) {
    struct stat now {};
    if (::fstat(part, &now) != 0) return false;
    if ((now.st_uid != old.st_uid || now.st_gid != old.st_gid) && ::fchown(part, old.st_uid, old.st_gid) != 0)
        return false;
    if (::fchmod(part, old.st_mode & 07777) != 0) return false; // after the owner, whose change clears bits
    const Descriptor before(::openat(folder, name, O_RDONLY | O_NONBLOCK | O_CLOEXEC));
    return !before.is_open() || keep_attributes(part, before.number());
}

}

bool is_same_file(const fs::path& a, const fs::path& b) {
    std::error_code error;
    return fs::equivalent(a, b, error) && !error;
}

Result<void> write_text_atomically(const fs::path& path, std::string_view text) {
    const auto failed = [&](std::string why, std::string remedy = "Save to another place") {
        return fail({.what = path.string(),
                     .why = fmt::format("it cannot be written ({})", why),
                     .remedy = std::move(remedy),
                     .kind = FailureKind::file});
    };
    if (text.size() > most_bytes_of_a_file)
        return failed(fmt::format("it would be larger than {} MiB and could not be opened again",
                                  most_bytes_of_a_file >> 20U),
                      "Divide the project");
    const auto target = target_of(path);
    if (!target) return tl::unexpected(target.error());
    const fs::path parent = target->has_parent_path() ? target->parent_path() : fs::path(".");
    const std::string name = target->filename().string(), part = part_name();
    // From here on names count within the folder, so that a path may be as long as the system allows.
    const Descriptor folder(::open(parent.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    if (!folder.is_open()) return failed(std::strerror(errno));
    struct stat old {};
    const bool exists = ::fstatat(folder.number(), name.c_str(), &old, 0) == 0;
    if (exists && S_ISDIR(old.st_mode)) return failed("this is a folder");
    if (exists && !S_ISREG(old.st_mode)) return failed("this is a device or a pipe");
    constexpr mode_t anybody_writes = S_IWUSR | S_IWGRP | S_IWOTH;
    if (exists && ((old.st_mode & anybody_writes) == 0 ||
                   ::faccessat(folder.number(), name.c_str(), W_OK, AT_EACCESS) != 0))
        return failed("it is read-only", "Make it writable, or save to another place");
    sweep(folder.number());

    const auto give_up = [&](const char* why) {
        ::unlinkat(folder.number(), part.c_str(), 0);
        return failed(why);
    };
    const mode_t mode =
        exists ? 0600 : 0666; // nobody else's until it has the old one's; less what the process masks
    // New and ours alone: what stands there by chance (left by a process of the same number, a pipe that
    // would wait) goes first.
    ::unlinkat(folder.number(), part.c_str(), 0);
    const Descriptor file(
        ::openat(folder.number(), part.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, mode));
    if (!file.is_open()) return failed(std::strerror(errno));
    if (!write_all(file.number(), text) || ::fsync(file.number()) != 0) return give_up(std::strerror(errno));
    const bool has_other_names = exists && old.st_nlink > 1; // hard links: all of them get the text
    if (has_other_names || (exists && !keep_rights(file.number(), folder.number(), name.c_str(), old))) {
        // Another's file that we may write: it stays his.  The whole text lies on the disk beside it
        // meanwhile.
        const Descriptor in_place(::openat(folder.number(), name.c_str(), O_WRONLY | O_NONBLOCK | O_CLOEXEC));
        if (!in_place.is_open() || ::ftruncate(in_place.number(), 0) != 0 ||
            !write_all(in_place.number(), text) || ::fsync(in_place.number()) != 0)
            return failed(
                fmt::format("{}; the text stands in {}", std::strerror(errno), (parent / part).string()));
        ::unlinkat(folder.number(), part.c_str(), 0);
        return {};
    }
    if (::renameat(folder.number(), part.c_str(), folder.number(), name.c_str()) != 0)
        return give_up(std::strerror(errno));
    // The rename itself must reach the disk too; where a file system cannot sync a folder, nothing is lost
    // but haste.
    ::fsync(folder.number());
    return {};
}

}
