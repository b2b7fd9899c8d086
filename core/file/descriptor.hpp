#pragma once
#include <unistd.h>

namespace kollema::file {

/// An open file that closes itself; -1: none.
class Descriptor {
public:
    explicit Descriptor(int number) : number_(number) {}
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    ~Descriptor() {
        if (number_ >= 0) ::close(number_);
    }
    int number() const { return number_; }
    bool is_open() const { return number_ >= 0; }

private:
    int number_;
};

}
