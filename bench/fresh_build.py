"""The processor seconds of a fresh build of the window, beside those of one file of common headers; an error above `bound`.
fresh_build.py SOURCES"""
import os
import resource
import statistics
import subprocess
import sys
import tempfile

bound = 40  # times the peer; 31 when this was written

PEER = """#include <nlohmann/json.hpp>
#include <regex>
#include <Eigen/Dense>
int main(int argc, char** argv) {
    const auto read = nlohmann::json::parse(argv[argc - 1]);
    return std::regex_match(read.dump(), std::regex("a+")) + int(Eigen::MatrixXd::Ones(argc, argc).inverse().sum());
}
"""


def processor_seconds(command, **options):
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    subprocess.run(command, check=True, stdout=subprocess.DEVNULL, **options)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    return after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime


with tempfile.TemporaryDirectory() as scratch:
    source = os.path.join(scratch, "peer.cpp")
    with open(source, "w") as file:
        file.write(PEER)


    def peer_seconds():
        command = ["g++", "-std=c++20", "-O2", "-I/usr/include/eigen3", "-c", source, "-o", source + ".o"]
        return [processor_seconds(command) for _ in range(3)]

    before = peer_seconds()  # and after: a machine's speed moves within minutes
    build = os.path.join(scratch, "build")
    environment = dict(os.environ, CCACHE_DISABLE="1")
    subprocess.run(["cmake", "--preset", "release", "-B", build], cwd=sys.argv[1], check=True,
                   stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    window = processor_seconds(["cmake", "--build", build, "--target", "kollema", "--", "--quiet"],
                               cwd=sys.argv[1], env=environment)
    peer = statistics.mean(before + peer_seconds())
print(f"a fresh window {window:.0f} s of processor time, the peer {peer:.1f} s: {window / peer:.0f} times")
if window > bound * peer:
    sys.exit(f"more than {bound} times")
