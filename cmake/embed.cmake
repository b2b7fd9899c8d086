# cmake -DOUTPUT=x.cpp -DFILES="a.csv;b.csv" -DNAMESPACE=kollema::x -DHEADER=x/embedded.hpp -DFUNCTION=f -P embed.cmake
# Writes the files into a C++ source as raw strings; f() returns them.
set(entries "")
foreach(file IN LISTS FILES)
    get_filename_component(name "${file}" NAME_WE)
    file(READ "${file}" text)
    string(APPEND entries "    EmbeddedFile{\"${name}\", R\"~~~(${text})~~~\"},\n")
endforeach()
file(WRITE "${OUTPUT}" "// Made by cmake/embed.cmake.
#include \"${HEADER}\"
#include <array>

namespace ${NAMESPACE} {
namespace {
constexpr std::array files{
${entries}};
}
std::span<const EmbeddedFile> ${FUNCTION}() { return files; }
}
")
