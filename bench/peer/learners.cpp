// C++ twins of the learners that the program beside which the bench is measured does not have, in the fastest forms known to us
// for four actions of three outcomes. Settings are those of bench/kernels.ts: learning rate 0.1 (the actor's 0.01), epsilon 0.1
// with ties broken at random, lambda 0.8 with replacing traces forgotten below 1e-9, 10 updates from memory after each step.
//   g++ -O3 -march=native -std=c++17 -o learners bench/peer/learners.cpp && ./learners METHOD STEPS [SIDE]
// `node bench/peer/beside.mjs METHOD` measures the product and these in turn.
#include "grid.h"
#include <string>

static const double RATE = 0.1, ACTOR_RATE = 0.01, EPSILON = 0.1, LAMBDA = 0.8, FORGOTTEN = 1e-9;
static const int MEMORIES = 10;
static const uint32_t EXPLORES = uint32_t(EPSILON * 4294967296.0);

static std::vector<Row> rows;
static std::vector<double> q, v;
static Stream world(1), choice(7), ties(11);
/** [mask][k] the k-th of twelve parts of a draw among the actions of a mask */
static uint8_t among[16][12];

static inline double top(const double *z) { return std::max(std::max(z[0], z[1]), std::max(z[2], z[3])); }
static inline int best(const double *z, double m) {
  return (z[0] == m) | (z[1] == m) << 1 | (z[2] == m) << 2 | (z[3] == m) << 3;
}
/** Epsilon-greedy among four values; the greatest of them is told. */
static inline int greedy(const double *z, double &m) {
  m = top(z);
  int mask = best(z, m);
  mask |= choice.next() < EXPLORES ? 15 : 0;
  return among[mask][((choice.next() >> 16) * 12) >> 16];
}
/** Runs episodes step by step until so many steps are done: `step(state)` tells the next state, or less than 0 for an ending. */
template <class Begin, class Step> static auto episodes(Begin begin, Step step) {
  return [=](long steps) mutable {
    long done = 0;
    while (done < steps) {
      int s = 0, length = 0;
      begin();
      while (s >= 0 && length < CAP) {
        s = step(s);
        length++;
      }
      done += length;
    }
    return done;
  };
}
static void nothing() {}

/** The policy that is evaluated: probabilities, to be drawn from like those of any other. */
static std::vector<double> policy;

static void td0(long steps) {
  measure(steps, episodes(nothing, [](int s) {
    const Row &row = rows[4 * s + chosen(&policy[4 * s], choice.unit())];
    const int k = row.drawn(world.next()), to = row.next[k];
    v[s] += RATE * (row.reward[k] + DISCOUNT * (to < 0 ? 0 : v[to]) - v[s]);
    return to;
  }), v);
}

static void tdLambda(long steps) {
  static std::vector<double> trace(v.size());
  static std::vector<int> live;
  measure(steps, episodes([] { for (int s : live) trace[s] = 0; live.clear(); }, [](int s) {
    const Row &row = rows[4 * s + chosen(&policy[4 * s], choice.unit())];
    const int k = row.drawn(world.next()), to = row.next[k];
    const double step = RATE * (row.reward[k] + DISCOUNT * (to < 0 ? 0 : v[to]) - v[s]);
    if (trace[s] == 0) live.push_back(s);
    trace[s] = 1;
    size_t kept = 0;
    for (size_t i = 0; i < live.size(); i++) {
      const int cell = live[i];
      v[cell] += step * trace[cell];
      const double rest = trace[cell] * (DISCOUNT * LAMBDA);
      trace[cell] = rest > FORGOTTEN ? rest : 0;
      live[kept] = cell;
      kept += rest > FORGOTTEN;
    }
    live.resize(kept);
    return to;
  }), v);
}

static void expectedSarsa(long steps) {
  measure(steps, episodes(nothing, [](int s) {
    double m;
    const int at = 4 * s + greedy(&q[4 * s], m);
    const Row &row = rows[at];
    const int k = row.drawn(world.next()), to = row.next[k];
    double ahead = 0;
    if (to >= 0) {
      const double *z = &q[4 * to];
      ahead = (1 - EPSILON) * top(z) + EPSILON * 0.25 * (z[0] + z[1] + z[2] + z[3]);
    }
    q[at] += RATE * (row.reward[k] + DISCOUNT * ahead - q[at]);
    return to;
  }), q);
}

static void doubleQ(long steps) {
  static std::vector<double> one(q.size()), two(q.size());
  measure(steps, episodes(nothing, [](int s) {
    double m;
    const int at = 4 * s + greedy(&q[4 * s], m);
    const Row &row = rows[at];
    const int k = row.drawn(world.next()), to = row.next[k];
    const uint32_t coin = ties.next();
    double *written = coin >> 31 ? two.data() : one.data(), *other = coin >> 31 ? one.data() : two.data();
    double ahead = 0;
    if (to >= 0) {
      const double *z = written + 4 * to;
      ahead = other[4 * to + among[best(z, top(z))][((coin & 0xffff) * 12) >> 16]];
    }
    written[at] += RATE * (row.reward[k] + DISCOUNT * ahead - written[at]);
    q[at] = (one[at] + two[at]) / 2;
    return to;
  }), q);
}

/** SARSA(lambda), or Watkins's Q(lambda). */
template <bool OFF> static void lambda(long steps) {
  static std::vector<double> trace(q.size());
  static std::vector<int> live;
  static int next;
  measure(steps, episodes([] {
    for (int cell : live) trace[cell] = 0;
    live.clear();
    double m;
    next = greedy(&q[0], m);
  }, [](int s) {
    const int at = 4 * s + next;
    const Row &row = rows[at];
    const int k = row.drawn(world.next()), to = row.next[k];
    double ahead = 0;
    bool cut = OFF;
    if (to >= 0) {
      double m;
      next = greedy(&q[4 * to], m);
      const double value = q[4 * to + next];
      cut = OFF && value != m;
      ahead = OFF ? m : value;
    }
    const double step = RATE * (row.reward[k] + DISCOUNT * ahead - q[at]);
    if (trace[at] == 0) live.push_back(at);
    trace[at] = 1;
    const double fading = cut ? 0 : DISCOUNT * LAMBDA;
    size_t kept = 0;
    for (size_t i = 0; i < live.size(); i++) {
      const int cell = live[i];
      q[cell] += step * trace[cell];
      const double rest = trace[cell] * fading;
      trace[cell] = rest > FORGOTTEN ? rest : 0;
      live[kept] = cell;
      kept += rest > FORGOTTEN;
    }
    live.resize(kept);
    return to;
  }), q);
}

static void dynaQ(long steps) {
  struct Memory {
    int next[3], count = 0;
    double times[3], reward[3], total = 0;
  };
  static std::vector<Memory> memory(q.size());
  static std::vector<int> seen;
  measure(steps, episodes(nothing, [](int s) {
    double m;
    const int at = 4 * s + greedy(&q[4 * s], m);
    const Row &row = rows[at];
    const int k = row.drawn(world.next()), to = row.next[k];
    q[at] += RATE * (row.reward[k] + DISCOUNT * (to < 0 ? 0 : top(&q[4 * to])) - q[at]);
    Memory &own = memory[at];
    if (own.total == 0) seen.push_back(at);
    own.total++;
    int e = 0;
    while (e < own.count && own.next[e] != to) e++;
    if (e == own.count) {
      own.next[e] = to;
      own.times[e] = own.reward[e] = 0;
      own.count++;
    }
    own.reward[e] += (row.reward[k] - own.reward[e]) / ++own.times[e];
    for (int i = 0; i < MEMORIES; i++) {
      const int again = seen[ties.below(seen.size())];
      const Memory &known = memory[again];
      int e = 0;
      if (known.count > 1) {
        double rest = ties.unit() * known.total - known.times[0];
        while (rest >= 0 && e < known.count - 1) rest -= known.times[++e];
      }
      const int there = known.next[e];
      q[again] += RATE * (known.reward[e] + DISCOUNT * (there < 0 ? 0 : top(&q[4 * there])) - q[again]);
    }
    return to;
  }), q);
}

static void actorCritic(long steps) {
  static std::vector<double> p(q.size(), 0.25);
  static double weight;
  measure(steps, episodes([] { weight = 1; }, [](int s) {
    double *h = &q[4 * s], *own = &p[4 * s];
    const int a = chosen(own, choice.unit());
    const Row &row = rows[4 * s + a];
    const int k = row.drawn(world.next()), to = row.next[k];
    const double error = row.reward[k] + DISCOUNT * (to < 0 ? 0 : v[to]) - v[s];
    v[s] += RATE * error;
    const double step = ACTOR_RATE * weight * error;
    for (int j = 0; j < 4; j++) h[j] += step * ((j == a ? 1.0 : 0.0) - own[j]);
    softmax(h, own);
    weight *= DISCOUNT;
    return to;
  }), q);
}

int main(int argc, char **argv) {
  const std::string method = argc > 1 ? argv[1] : "";
  const long steps = argc > 2 ? std::atol(argv[2]) : 10000000;
  const int side = argc > 3 ? std::atoi(argv[3]) : 64;
  rows = grid(side);
  q.assign(rows.size(), 0);
  policy.assign(rows.size(), 0.25);
  v.assign(rows.size() / 4, 0);
  for (int mask = 1; mask < 16; mask++) {
    int list[4], count = 0;
    for (int k = 0; k < 4; k++)
      if (mask >> k & 1) list[count++] = k;
    for (int k = 0; k < 12; k++) among[mask][k] = list[k * count / 12];
  }
  if (method == "td-0") td0(steps);
  else if (method == "td-lambda") tdLambda(steps);
  else if (method == "expected-sarsa") expectedSarsa(steps);
  else if (method == "double-q-learning") doubleQ(steps);
  else if (method == "sarsa-lambda") lambda<false>(steps);
  else if (method == "q-lambda") lambda<true>(steps);
  else if (method == "dyna-q") dynaQ(steps);
  else if (method == "actor-critic") actorCritic(steps);
  else {
    std::fprintf(stderr, "METHOD is td-0, td-lambda, expected-sarsa, double-q-learning, sarsa-lambda, q-lambda, dyna-q or actor-critic\n");
    return 2;
  }
}
