#include "fastening/screw_thread.hpp"

namespace kollema::fastening {

Result<standards::Thread> fastening_thread(const std::string& name) {
    auto t = standards::thread(name);
    if (t &&
        (t->system == standards::ThreadSystem::acme || t->system == standards::ThreadSystem::trapezoidal))
        return fail({.what = name,
                     .why = "this is a power thread, not one of a screw that is tightened",
                     .remedy = "Use a metric or unified thread"});
    return t;
}

}
