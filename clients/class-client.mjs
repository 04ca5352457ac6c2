// Plays the environments of a class from a program: one page, with nothing besides Node.
//
//     node class-client.mjs http://ADDRESS TOKEN
//
// The token stands on the page of your class; docs/protocol.md describes the interface.
import { pathToFileURL } from 'node:url'

export const OPEN = 0
export const ENDED = 1
export const CUT_OFF = 2

/** The class of a token. */
export class Class {
  constructor(address, token) {
    this.address = `${address}/api/play`
    this.headers = { authorization: `Bearer ${token}`, 'content-type': 'application/json' }
  }

  async ask(method, path, body) {
    const request = { method, headers: this.headers, body: body && JSON.stringify(body) }
    // Sent once more where the connection was lost: what was answered already is answered again.
    const answer = await fetch(this.address + path, request).catch(() => fetch(this.address + path, request))
    const text = await answer.text()
    const value = text ? JSON.parse(text) : null
    if (!answer.ok)
      throw new Error(value.problems.map((each) => `${each.place}: ${each.cause} ${each.remedy}`).join(' '))
    return value
  }

  exercises() {
    return this.ask('GET', '')
  }

  async begin(exercise, { level, episodes = 1, seed = null } = {}) {
    return new Episodes(this, await this.ask('POST', '/sessions', { exercise, level, episodes, seed }))
  }

  /** Plays all that counts for an exercise: choose(episodes) gives an action for each open episode. */
  async handIn(exercise, choose) {
    const { handIn, parts } = await this.ask('POST', '/hand-ins', { exercise })
    for (let part = 0; part < parts.length; part++) {
      const episodes = new Episodes(this, await this.ask('POST', `/hand-ins/${handIn}/parts`, { part }))
      while (episodes.open.length) await episodes.step(choose(episodes))
    }
    return this.ask('GET', `/hand-ins/${handIn}`)
  }
}

/** Episodes that are played at once. What is seen and what can be done are numbers; `names` and `actions` name them. */
export class Episodes {
  constructor(room, begun) {
    Object.assign(this, begun, { room })
  }

  /** Takes an action in each open episode. Gives what each saw, got, and whether it goes on. */
  async step(actions) {
    const body = { number: this.number + 1, actions }
    const answer = await this.room.ask('POST', `/sessions/${this.session}/steps`, body)
    this.number = answer.number
    this.open = answer.open
    this.observations = answer.observations.filter((_, i) => answer.states[i] === OPEN)
    return answer
  }

  close() {
    return this.room.ask('DELETE', `/sessions/${this.session}`)
  }
}

/** Q-learning in a table (Watkins 1989), over many episodes at once. */
export class QLearner {
  constructor({ rate = 0.2, discount = 1, chance = 0.1 } = {}) {
    Object.assign(this, { rate, discount, chance, values: new Map() })
  }

  value(seen, action) {
    return this.values.get(`${seen} ${action}`) ?? 0
  }

  best(seen, possible) {
    return possible[seen].reduce((best, each) =>
      this.value(seen, each) > this.value(seen, best) ? each : best,
    )
  }

  async learn(room, exercise, { level, rounds = 20, atOnce = 64 } = {}) {
    for (let round = 0; round < rounds; round++) {
      const episodes = await room.begin(exercise, { level, episodes: atOnce })
      const { possible } = episodes
      while (episodes.open.length) {
        const before = episodes.observations
        const actions = before.map((seen) =>
          Math.random() < this.chance
            ? possible[seen][Math.floor(Math.random() * possible[seen].length)]
            : this.best(seen, possible),
        )
        const { observations, rewards, states } = await episodes.step(actions)
        before.forEach((seen, i) => {
          const now = observations[i]
          // What was cut off would have gone on: only an end is worth nothing more.
          const rest = states[i] === ENDED ? 0 : this.value(now, this.best(now, possible))
          const old = this.value(seen, actions[i])
          const target = rewards[i] + this.discount * rest
          this.values.set(`${seen} ${actions[i]}`, old + this.rate * (target - old))
        })
      }
      await episodes.close()
    }
  }

  choose = (episodes) => episodes.observations.map((seen) => this.best(seen, episodes.possible))
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const [address, token] = process.argv.slice(2)
  const room = new Class(address, token)
  for (const { exercise, name, levels, takesPrograms } of await room.exercises()) {
    if (!takesPrograms) continue
    const learner = new QLearner()
    for (const level of levels) await learner.learn(room, exercise, { level: level.name })
    console.log(name, await room.handIn(exercise, learner.choose))
  }
}
