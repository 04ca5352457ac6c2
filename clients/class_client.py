"""Plays the environments of a class from a program: one page, with nothing but Python's standard library.

    python3 class_client.py http://ADDRESS TOKEN

The token stands on the page of your class; docs/protocol.md describes the interface.
"""
import http.client
import json
import random
import sys
from urllib.parse import urlsplit

OPEN, ENDED, CUT_OFF = 0, 1, 2


class Refused(Exception):
    """What the server answers when something does not fit: place, cause and way out."""


class Class:
    """The class of a token."""

    def __init__(self, address, token):
        self.at = urlsplit(address)
        self.headers = {"authorization": "Bearer " + token, "content-type": "application/json"}
        self.connection = None

    def ask(self, method, path, body=None):
        text = None if body is None else json.dumps(body)
        for again in (True, False):
            try:
                if self.connection is None:
                    kind = http.client.HTTPSConnection if self.at.scheme == "https" else http.client.HTTPConnection
                    self.connection = kind(self.at.netloc, timeout=60)
                self.connection.request(method, "/api/play" + path, text, self.headers)
                answer = self.connection.getresponse()
                content = answer.read()
                break
            except (OSError, http.client.HTTPException):
                # Sent once more on a new connection: what was answered already is answered again.
                self.connection = None
                if not again:
                    raise
        value = json.loads(content) if content else None
        if answer.status >= 400:
            raise Refused(" ".join("{place}: {cause} {remedy}".format(**each) for each in value["problems"]))
        return value

    def exercises(self):
        return self.ask("GET", "")

    def begin(self, exercise, level=None, episodes=1, seed=None):
        body = {"exercise": exercise, "episodes": episodes, "seed": seed}
        return Episodes(self, self.ask("POST", "/sessions", body if level is None else {**body, "level": level}))

    def hand_in(self, exercise, choose):
        """Plays all that counts for an exercise: choose(episodes) gives an action for each open episode."""
        made = self.ask("POST", "/hand-ins", {"exercise": exercise})
        for part in range(len(made["parts"])):
            begun = self.ask("POST", "/hand-ins/%s/parts" % made["handIn"], {"part": part})
            episodes = Episodes(self, begun)
            while episodes.open:
                episodes.step(choose(episodes))
        return self.ask("GET", "/hand-ins/" + made["handIn"])


class Episodes:
    """Episodes that are played at once. What is seen and what can be done are numbers; `names` and `actions` name them."""

    def __init__(self, room, begun):
        self.room = room
        for name in ("session", "level", "actions", "names", "possible", "open", "observations", "number"):
            setattr(self, name, begun[name])

    def step(self, actions):
        """Takes an action in each open episode. Gives what each saw, got, and whether it goes on."""
        body = {"number": self.number + 1, "actions": actions}
        answer = self.room.ask("POST", "/sessions/%s/steps" % self.session, body)
        self.number = answer["number"]
        self.open = answer["open"]
        self.observations = [o for o, s in zip(answer["observations"], answer["states"]) if s == OPEN]
        return answer["observations"], answer["rewards"], answer["states"]

    def close(self):
        self.room.ask("DELETE", "/sessions/" + self.session)


class QLearner:
    """Q-learning in a table (Watkins 1989), over many episodes at once."""

    def __init__(self, rate=0.2, discount=1.0, chance=0.1):
        self.rate, self.discount, self.chance = rate, discount, chance
        self.values = {}

    def value(self, seen, action):
        return self.values.get((seen, action), 0.0)

    def best(self, seen, possible):
        return max(possible[seen], key=lambda action: self.value(seen, action))

    def learn(self, room, exercise, level=None, rounds=20, at_once=64):
        for _ in range(rounds):
            episodes = room.begin(exercise, level, at_once)
            possible = episodes.possible
            while episodes.open:
                before = episodes.observations
                actions = [
                    random.choice(possible[seen]) if random.random() < self.chance else self.best(seen, possible)
                    for seen in before
                ]
                after, rewards, states = episodes.step(actions)
                for seen, action, reward, now, state in zip(before, actions, rewards, after, states):
                    # What was cut off would have gone on: only an end is worth nothing more.
                    rest = 0.0 if state == ENDED else self.value(now, self.best(now, possible))
                    target = reward + self.discount * rest
                    self.values[seen, action] = self.value(seen, action) + self.rate * (target - self.value(seen, action))
            episodes.close()

    def choose(self, episodes):
        return [self.best(seen, episodes.possible) for seen in episodes.observations]


if __name__ == "__main__":
    if len(sys.argv) != 3:
        sys.exit(__doc__)
    classroom = Class(sys.argv[1], sys.argv[2])
    for each in classroom.exercises():
        if not each["takesPrograms"]:
            continue
        learner = QLearner()
        for level in each["levels"]:
            learner.learn(classroom, each["exercise"], level["name"])
        print(each["name"], classroom.hand_in(each["exercise"], learner.choose))
