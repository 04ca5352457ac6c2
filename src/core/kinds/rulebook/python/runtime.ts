/** What every exported rulebook needs: lists, functions and distributions of the language, in Python. */
export const RUNTIME = String.raw`
class Items(list):
    """A list whose places are counted from first, or named by keys."""

    def __init__(self, items, first=1, keys=None):
        super().__init__(items)
        self.first, self.keys = first, keys


def _at(items, place):
    if items.keys is not None:
        return items[items.keys.index(place)]
    index = place - items.first
    if index != int(index) or not 0 <= index < len(items):
        raise IndexError(f"There is no place {place}.")
    return items[int(index)]


def _numbers(args):
    return args[0] if len(args) == 1 and isinstance(args[0], list) else args


def _min(*args):
    return min(_numbers(args))


def _max(*args):
    return max(_numbers(args))


def _within(x, low, high):
    return min(max(x, low), high)


def _round(x):
    return math.floor(x + 0.5)


def _flags(items, wanted):
    return [each == wanted[0] for each in items] if wanted else items


def _count(items, *wanted):
    return sum(1 for each in _flags(items, wanted) if each)


def _place(items, *wanted):
    return next((i for i, each in enumerate(_flags(items, wanted), 1) if each), 0)


def _sorted(items):
    return Items(sorted(items))


def _shift(items, new):
    return Items([*items[1:], new])


def _put(items, place, new):
    _at(Items(items), place)
    return Items(new if i == place else each for i, each in enumerate(items, 1))


def _within_list(place, length):
    if not 1 <= place <= length:
        raise IndexError(f"There is no place {place}.")
    return place


def _swap(items, one, other):
    result = Items(items)
    result[int(one) - 1], result[int(other) - 1] = _at(Items(items), other), _at(Items(items), one)
    return result


def _turn(items, steps):
    return Items(items[(i + int(steps)) % len(items)] for i in range(len(items)))


def _fill(value, length):
    return value if isinstance(value, list) else Items([value] * length)


def _likely(first, chances):
    return [(first + i, p) for i, p in enumerate(chances) if p > 0]


def _cut_off(chances, low, high):
    start = 0 if low is None else low
    end = len(chances) - 1 if high is None else high
    inside = [0.0] * max(1, end - start + 1)
    for k, p in enumerate(chances):
        inside[min(len(inside) - 1, max(0, k - start))] += p
    return _likely(start, inside)


def _counted(p, step, low, high):
    chances, left, k = [], 1.0, 0
    while not (k == high or (high is None and left - p < 1e-12 and k >= 1) or left <= 0):
        chances.append(p)
        left -= p
        k += 1
        p = step(p, k)
    return _cut_off([*chances, max(0.0, left)], low, high)


def _poisson(mean, low=None, high=None):
    return _counted(math.exp(-mean), lambda p, k: p * mean / k, low, high)


def _geometric(chance, low=None, high=None):
    return _counted(chance, lambda p, k: p * (1 - chance), low, high)


def _binomial(tries, chance, low=None, high=None):
    tries = int(tries)
    return _cut_off(
        [math.comb(tries, k) * chance**k * (1 - chance) ** (tries - k) for k in range(tries + 1)], low, high
    )


def _uniform(low, high):
    return [(k, 1 / (high - low + 1)) for k in range(int(low), int(high) + 1)]


def _normal(mean, spread, low, high):
    ends = [0.0, *((1 + math.erf((k + 0.5 - mean) / spread / math.sqrt(2))) / 2 for k in range(low, high)), 1.0]
    return _likely(low, [b - a for a, b in zip(ends, ends[1:])])


def _coin(chance):
    return [(value, p) for value, p in ((False, 1 - chance), (True, chance)) if p > 0]


def _pick(*cases):
    rest = 1 - sum(p for _, p in cases if p is not None)
    return [(value, rest if p is None else p) for value, p in cases if (rest if p is None else p) > 0]


def _sample(*cases):
    total = sum(count for _, count in cases)
    counts = {}
    for value, count in cases:
        counts[value] = counts.get(value, 0) + count
    return [(value, count / total) for value, count in counts.items() if count > 0]


def _table(items):
    keys = items.keys if items.keys is not None else range(items.first, items.first + len(items))
    return [(key, p) for key, p in zip(keys, items) if p > 0]


def _one_by_one(length, draw):
    drawn = [(Items([]), 1.0)]
    for i in range(1, length + 1):
        drawn = [(Items([*items, x]), p * q) for items, p in drawn for x, q in draw(i, items)]
    return drawn


def _settle(value, domain, hold):
    """The values that a variable keeps of a number: two of them where it lies between two buckets."""
    kind = domain["kind"]
    if kind == "buckets":
        low, high, size = domain["low"], domain["high"], domain["size"]
        slack = 1e-9 * (high - low)
        if not low - slack <= value <= high + slack:
            if not hold:
                raise ValueError(f"{value} is outside {low} to {high}.")
            value = min(max(value, low), high)
        place = (value - low) / ((high - low) / size)
        if domain["nearest"]:
            return [(min(size - 1, max(0, math.floor(place))), 1.0)]
        centred = min(size - 1, max(0, place - 0.5))
        index = math.floor(centred)
        share = centred - index
        if share < 1e-12:
            return [(index, 1.0)]
        if share > 1 - 1e-12:
            return [(index + 1, 1.0)]
        return [(index + 1, share), (index, 1 - share)]
    values = domain["values"]
    if value not in values:
        if not hold:
            raise ValueError(f"{value} is not among {list(values)}.")
        value = min(values, key=lambda each: abs(each - value))
    return [(values.index(value), 1.0)]


def _arrive(values, hold=False):
    """The states that these values make, by the numbers of their values, with the share of each."""
    states = [((), 1.0)]
    for value, (_, length, domain) in zip(values, _VARIABLES):
        for each in value if length else [value]:
            states = [((*s, i), p * q) for s, p in states for i, q in _settle(each, domain, hold)]
    return [(_named(_ordered(s)), p) for s, p in states]


def _ordered(indices):
    """Items that may be exchanged in the order of their values."""
    result = list(indices)
    for group in _SAME:
        things = sorted(tuple(result[d] for d in item) for item in group)
        for item, thing in zip(group, things):
            for d, index in zip(item, thing):
                result[d] = index
    return result


def _named(indices):
    state, d = [], 0
    for _, length, domain in _VARIABLES:
        state.append(tuple(domain["values"][i] for i in indices[d : d + length]) if length else domain["values"][indices[d]])
        d += length or 1
    return tuple(state)


def _merged(found):
    """Outcomes that lead to the same state added up: their rewards and discounts are averaged."""
    sums = {}
    for p, reward, discount, state in found:
        if p > 0:
            row = sums.setdefault(state, [0.0, 0.0, 0.0])
            row[0] += p
            row[1] += p * reward
            row[2] += p * discount
    return [(p, r / p, d / p, state) for state, (p, r, d) in sums.items()]


def name_of(state):
    """How a state is called on the board."""
    if isinstance(state, str):
        return state
    parts = []
    for value, (name, length, domain) in zip(state, _VARIABLES):
        texts = [domain["texts"][domain["values"].index(each)] for each in (value if length else [value])]
        parts.append(" ".join([name, *texts]))
    return ", ".join(parts)


def model():
    """All states that can be reached, breadth first, and numpy arrays of their actions and outcomes.

    A state that passes by itself has one row with the action None: nothing is decided there.
    """
    import numpy as np

    number = {state: i for i, (_, state) in enumerate(STARTS)}
    states, rows, outcomes_of = list(number), [], []
    for i, state in enumerate(states):
        for action in [None] if passes(state) else actions(state):
            rows.append((i, action))
            for p, reward, discount, next_state in outcomes(state, action):
                if next_state not in number:
                    number[next_state] = len(states)
                    states.append(next_state)
                outcomes_of.append((len(rows) - 1, number[next_state], p, reward, discount))
    table = np.array(outcomes_of, dtype=float).reshape(-1, 5)
    return {
        "states": states,
        "row_state": np.array([i for i, _ in rows], dtype=int),
        "row_action": [action for _, action in rows],
        "outcome_row": table[:, 0].astype(int),
        "outcome_state": table[:, 1].astype(int),
        "outcome_probability": table[:, 2],
        "outcome_reward": table[:, 3],
        "outcome_discount": table[:, 4],
    }
`.trimStart()
