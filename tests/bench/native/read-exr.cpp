// Reads an EXR file whole into float planes with OpenEXR, on one thread, and prints the milliseconds of each run.
#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfInputFile.h>
#include <ImfThreading.h>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <vector>

int main(int argc, char **argv) {
  Imf::setGlobalThreadCount(0);
  const int runs = argc > 2 ? std::atoi(argv[2]) : 5;
  for (int run = 0; run < runs; run++) {
    const auto started = std::chrono::steady_clock::now();
    Imf::InputFile file(argv[1]);
    const auto window = file.header().dataWindow();
    const size_t width = window.max.x - window.min.x + 1, height = window.max.y - window.min.y + 1;
    std::vector<std::vector<float>> planes;
    Imf::FrameBuffer frame;
    for (auto i = file.header().channels().begin(); i != file.header().channels().end(); ++i) planes.emplace_back(width * height);
    size_t k = 0;
    for (auto i = file.header().channels().begin(); i != file.header().channels().end(); ++i, ++k) {
      float *base = planes[k].data() - window.min.x - window.min.y * (long)width;
      frame.insert(i.name(), Imf::Slice(Imf::FLOAT, (char *)base, sizeof(float), sizeof(float) * width));
    }
    file.setFrameBuffer(frame);
    file.readPixels(window.min.y, window.max.y);
    const std::chrono::duration<double, std::milli> took = std::chrono::steady_clock::now() - started;
    std::printf("%.2f %g\n", took.count(), planes[0][width]);
  }
}
