// What the C++ twins of the bench share: the grid of bench/models.ts (goes straight 0.8, to either side 0.1; cut off after 200
// steps; discount 0.99), its outcomes laid out for draws without a branch, random numbers and the exponential.
#pragma once
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <vector>

static const double DISCOUNT = 0.99;
static const int CAP = 200;

struct Stream {
  uint32_t a = 0x9E3779B9u, b = 0x243F6A88u, c = 0xB7E15162u, counter;
  explicit Stream(uint32_t seed) : counter(seed) {}
  uint32_t next() {
    const uint32_t sum = a + b + counter++;
    a = b ^ (b >> 9);
    b = c + (c << 3);
    c = ((c << 21) | (c >> 11)) + sum;
    return sum;
  }
  uint32_t below(uint32_t n) { return ((uint64_t)next() * n) >> 32; }
  double unit() { return next() * (1.0 / 4294967296.0); }
};

/** Three outcomes of a row: the last draws that fall on the first two, next states (all bits turned for an ending), rewards. */
struct Row {
  uint32_t last[2];
  int32_t next[3];
  double reward[3];
  int drawn(uint32_t draw) const { return (draw > last[0]) + (draw > last[1]); }
};

static std::vector<Row> grid(int side) {
  const int cells = side * side;
  const int across[] = {0, 1, 0, -1}, down[] = {-1, 0, 1, 0}, turn[] = {0, 3, 1};
  auto wall = [&](int i) { return i > 0 && i < cells - 1 && (((uint32_t)i * 2654435761u) >> 16) % 9 == 0; };
  std::vector<Row> rows;
  for (int s = 0; s < cells; s++)
    for (int a = 0; a < 4; a++) {
      Row row{{uint32_t(0.8 * 4294967296.0) - 1, uint32_t(0.9 * 4294967296.0) - 1}, {}, {}};
      for (int k = 0; k < 3; k++) {
        const int way = (a + turn[k]) % 4;
        const int x = s % side + across[way], y = s / side + down[way];
        const int to = x < 0 || x >= side || y < 0 || y >= side || wall(y * side + x) ? s : y * side + x;
        row.next[k] = wall(to) || to == cells - 1 ? ~to : to;
        row.reward[k] = to == cells - 1 ? 1 : -0.01;
      }
      rows.push_back(row);
    }
  return rows;
}

/** e to the power of x, for x from -708 to 0. */
static inline double power(double x) {
  const double k = std::nearbyint(x * 1.4426950408889634);
  const double high = x - k * 6.9314718036912382e-1, low = k * 1.9082149292705877e-10;
  const double r = high - low, t = r * r;
  const double c = r - t * (1.6666666666666602e-1 + t * (-2.7777777777015593e-3 + t * (6.6137563214379344e-5 + t * (-1.6533902205465252e-6 + t * 4.1381367970572385e-8))));
  const double mantissa = 1 - (low - (r * c) / (2 - c) - high);
  const int64_t bits = ((int64_t)k + 1023) << 52;
  double scale;
  std::memcpy(&scale, &bits, 8);
  return mantissa * scale;
}

/** Renews the softmax of four preferences. */
static inline void softmax(const double *h, double *p) {
  const double top = std::max(std::max(h[0], h[1]), std::max(h[2], h[3]));
  double total = 0;
  for (int k = 0; k < 4; k++) p[k] = power(std::max(-708.0, h[k] - top));
  for (int k = 0; k < 4; k++) total += p[k];
  for (int k = 0; k < 4; k++) p[k] /= total;
}

/** The place of a drawn number among four probabilities. */
static inline int chosen(const double *p, double first) {
  const double second = first - p[0], third = second - p[1];
  const int one = first >= p[0], two = one & (second >= p[1]);
  return one + two + (two & (third >= p[2]));
}

/** Measures some steps after a tenth of them, and prints {"rate": steps a second, "check": a sum over the table}. */
template <class Run> static void measure(long steps, Run run, const std::vector<double> &table) {
  run(steps / 10);
  const auto begun = std::chrono::steady_clock::now();
  const long done = run(steps);
  const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begun).count();
  double check = 0;
  for (double h : table) check += h * h;
  std::printf("{\"rate\":%.6g,\"check\":%.10g}\n", done / seconds, check);
}
