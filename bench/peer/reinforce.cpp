// The C++ twin of REINFORCE as the product learns (src/core/learn/methods/policy/reinforce.ts): after each update the softmax
// of its row is renewed, so that the next update of the same episode uses the policy as it is by then. The program beside
// which the bench is measured takes all updates of an episode at the policy that it began with, which is less work.
//   g++ -O3 -march=native -std=c++17 -o reinforce bench/peer/reinforce.cpp && ./reinforce STEPS [SIDE]
// The grid of grid.h, learning rate 0.01.
// Prints a line of JSON: {"rate": steps a second, "check": the sum of the squared preferences}.
#include "grid.h"

int main(int argc, char **argv) {
  const long steps = argc > 1 ? std::atol(argv[1]) : 10000000;
  const int side = argc > 2 ? std::atoi(argv[2]) : 64;
  const double rate = 0.01;
  const std::vector<Row> rows = grid(side);
  std::vector<double> preference(rows.size()), probability(rows.size(), 0.25), reward(CAP), worth(CAP);
  std::vector<int> state(CAP), taken(CAP);
  Stream environment(1), exploration(7);
  const auto begun = std::chrono::steady_clock::now();
  long done = 0;
  while (done < steps) {
    int s = 0, length = 0;
    for (;;) {
      const int row = 4 * s + chosen(&probability[4 * s], exploration.unit());
      const int k = rows[row].drawn(environment.next());
      state[length] = s;
      taken[length] = row;
      reward[length++] = rows[row].reward[k];
      s = rows[row].next[k];
      if (s < 0 || length >= CAP) break;
    }
    double sum = 0;
    for (int t = length - 1; t >= 0; t--) worth[t] = sum = reward[t] + DISCOUNT * sum;
    double weight = 1;
    for (int t = 0; t < length; t++, weight *= DISCOUNT) {
      double *h = &preference[4 * state[t]], *p = &probability[4 * state[t]];
      const double step = rate * weight * worth[t];
      const int a = taken[t] - 4 * state[t];
      for (int k = 0; k < 4; k++) h[k] += step * ((k == a ? 1.0 : 0.0) - p[k]);
      softmax(h, p);
    }
    done += length;
  }
  const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begun).count();
  double check = 0;
  for (double h : preference) check += h * h;
  std::printf("{\"rate\":%.6g,\"check\":%.10g}\n", done / seconds, check);
}
