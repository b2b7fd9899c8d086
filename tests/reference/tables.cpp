#include "standards/table.hpp"
#include <catch2/catch.hpp>
#include <sstream>

using namespace kollema;
using namespace kollema::standards;

TEST_CASE("every built-in table is valid and says where it comes from", "[tables]") {
    for (const auto& name : built_in_table_names()) {
        CAPTURE(name);
        const Table& t = built_in_table(name); // throws when invalid
        CHECK_FALSE(t.standard().empty());
        CHECK_FALSE(t.head("provenance").empty());
        for (const auto* head : {"bounds", "alone", "recalled"}) { // they name columns, and each once
            std::istringstream words(t.head(head));
            for (std::string column; words >> column;) {
                CAPTURE(head, column);
                CHECK(t.has_column(column));
            }
        }
    }
    CHECK(built_in_table_names().size() >= 90);
}

TEST_CASE("the tables' loader refuses what is broken", "[tables]") {
    const std::string head = "# standard: x\n# units: mm\n# provenance: y\n";
    struct Broken {
        std::string csv;
        const char* why;
    };
    const auto row = GENERATE(values<Broken>({{"a,b\n1,2\n", "standard"},
                                              {"# standard: x\n# units: mm\na\n1\n", "provenance"},
                                              {"", "standard"}}));
    CHECK_FALSE(Table::parse("t", row.csv));
    for (const auto* body : {"", "a,b\n", "a,b\n1\n", "a,b\n1,\n", "a,b\n2,1\n1,1\n", "a,b\n1,1\n1,1\n",
                             "a,b\n1,\"2\n", "a,b\nM6,1\nM5,1\n"}) {
        CAPTURE(body);
        CHECK_FALSE(Table::parse("t", head + body));
    }
    CHECK(Table::parse("t", head + "a,b\r\n1,-\r\n2,5\r\n")->number(0, "b") == std::nullopt);
}
