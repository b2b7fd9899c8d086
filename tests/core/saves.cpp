// What a save leaves as it was, and what it never waits for.
#include "bench_parts.hpp"
#include "file/text_file.hpp"
#include <array>
#include <cerrno>
#include <cstdint>
#include <filesystem>
#include <fstream>
#include <random>
#include <sys/stat.h>
#include <sys/xattr.h>
#include <unistd.h>

using namespace kollema;
using namespace kollema::test;
namespace fs = std::filesystem;

namespace {

struct Folder {
    fs::path path = fs::temp_directory_path() / ("kollema-saves-" + std::to_string(std::random_device{}()));
    Folder() { fs::create_directories(path); }
    ~Folder() { fs::remove_all(path); }
    fs::path file(const char* name, const char* text) const {
        std::ofstream(path / name) << text;
        return path / name;
    }
};

std::string text_of(const fs::path& path) { return must(file::read_text(path)); }

ino_t number_of(const fs::path& path) {
    struct stat s {};
    REQUIRE(::stat(path.c_str(), &s) == 0);
    return s.st_ino;
}

}

TEST_CASE("all names of a file get what is saved under one of them", "[file]") {
    const Folder folder;
    const fs::path one = folder.file("one", "old");
    fs::create_hard_link(one, folder.path / "two");
    REQUIRE(file::write_text_atomically(one, "new text"));
    CHECK(text_of(one) == "new text");
    CHECK(text_of(folder.path / "two") == "new text");
    CHECK(number_of(one) == number_of(folder.path / "two"));
    REQUIRE(file::write_text_atomically(folder.path / "two", "x")); // shorter: nothing of before is left
    CHECK(text_of(one) == "x");
    // A file with one name is replaced, so that a crash leaves the old one whole.
    const fs::path alone = folder.file("alone", "old");
    const ino_t before = number_of(alone);
    REQUIRE(file::write_text_atomically(alone, "new"));
    CHECK(number_of(alone) != before);
    CHECK(std::distance(fs::directory_iterator(folder.path), {}) == 3); // no part is left beside them
}

TEST_CASE("access lists and attributes survive a save", "[file]") {
    const Folder folder;
    const fs::path path = folder.file("project", "old");
    // Version 2: owner rw, user 1234 r, group r, mask r, others nothing (acl(5), as the kernel keeps it).
    struct Entry {
        std::uint16_t tag, rights;
        std::uint32_t id;
    };
    struct {
        std::uint32_t version = 2;
        std::array<Entry, 5> entries{{{1, 6, ~0U}, {2, 4, 1234}, {4, 4, ~0U}, {16, 4, ~0U}, {32, 0, ~0U}}};
    } list;
    int kept = 0;
    for (const auto& [name, data, size] :
         {std::tuple{"system.posix_acl_access", static_cast<const void*>(&list), sizeof list},
          std::tuple{"user.note", static_cast<const void*>("by hand"), std::size_t{7}}}) {
        if (::setxattr(path.c_str(), name, data, size, 0) != 0) {
            REQUIRE((errno == ENOTSUP || errno == EPERM));
            WARN("this file system keeps no " << name);
            continue;
        }
        REQUIRE(file::write_text_atomically(path, "new"));
        std::string now(size, '\0');
        CHECK(::getxattr(path.c_str(), name, now.data(), now.size()) == static_cast<ssize_t>(size));
        CHECK(now == std::string(static_cast<const char*>(data), size));
        ++kept;
    }
    if (kept > 0) CHECK(text_of(path) == "new");
}

TEST_CASE("what stands in the way of a save under its part's name is swept, and never waited for", "[file]") {
    const Folder folder;
    const fs::path path = folder.file("project", "old"),
                   part = folder.path / (".kollema-" + std::to_string(::getpid()) + ".part");
    REQUIRE(::mkfifo(part.c_str(), 0600) == 0); // to open it for writing would wait for a reader
    REQUIRE(file::write_text_atomically(path, "new"));
    CHECK(text_of(path) == "new");
    CHECK_FALSE(fs::exists(part));
    const fs::path other = folder.file("other", "mine");
    fs::create_symlink(other, part); // written through, it would lose what it leads to
    REQUIRE(file::write_text_atomically(path, "newer"));
    CHECK(text_of(path) == "newer");
    CHECK(text_of(other) == "mine");
}

TEST_CASE("two paths to one file are known as such", "[file]") {
    const Folder folder;
    const fs::path one = folder.file("one", "x"), other = folder.file("other", "x");
    fs::create_symlink(one, folder.path / "link");
    fs::create_hard_link(one, folder.path / "hard");
    CHECK(file::is_same_file(one, one));
    CHECK(file::is_same_file(one, folder.path / "." / "one"));
    CHECK(file::is_same_file(folder.path / "link", one));
    CHECK(file::is_same_file(one, folder.path / "hard"));
    CHECK_FALSE(file::is_same_file(one, other));
    CHECK_FALSE(file::is_same_file(one, folder.path / "nothing"));
    CHECK_FALSE(file::is_same_file(folder.path / "nothing", folder.path / "nothing"));
}
