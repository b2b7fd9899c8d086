#include "stack/instructions.hpp"

namespace kollema::stack {

std::string_view name(Instructions set) {
    switch (set) {
    case Instructions::avx2:
        return "AVX2";
    case Instructions::avx512:
        return "AVX-512";
    case Instructions::plain:
        break;
    }
    return "plain";
}

std::vector<Instructions> available_instructions() {
    std::vector<Instructions> all{Instructions::plain};
#ifdef __x86_64__
    __builtin_cpu_init();
    if (__builtin_cpu_supports("avx2")) all.push_back(Instructions::avx2);
    if (__builtin_cpu_supports("avx512f") && __builtin_cpu_supports("avx512dq") &&
        __builtin_cpu_supports("avx512bw") && __builtin_cpu_supports("avx512vl"))
        all.push_back(Instructions::avx512);
#endif
    return all;
}

Instructions best_instructions() {
    static const Instructions best = available_instructions().back();
    return best;
}

}
