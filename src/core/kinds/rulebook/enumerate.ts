import { finishModel, ROW_BUDGET } from '../../model/builder'
import type { Model } from '../../model/model'
import { RowWriter } from '../../model/row-writer'
import type { StateSpace } from '../../model/space'
import { ProblemError, tellStory, type StoryStep } from '../../problem'
import { contributions, variableSize } from './sizes'
import { RuleMachine, type OutcomeSink } from './machine'
import { measuredThrough, passThrough, startsAfterPassing } from './passing'
import { RuleFault, type LineMap, type Span } from './place'
import type { RulebookDocument } from './document'
import type { CheckResult, CompiledRulebook, RuleNote, RulebookFacts } from './facts'
import type { Choice, Program } from './program'
import { readRules } from './read-rules'
import { Starts } from './starts'
import { StateIndex } from './state-index'

/** How much work a compilation may be. */
export interface Budget {
  readonly rows: number
  /** Ways in which chance can fall, over all rows. */
  readonly happenings: number
}

const FULL_BUDGET: Budget = { rows: ROW_BUDGET, happenings: Infinity }

/** Ways in which chance can fall that are looked at in one slice, … */
const SLICE_HAPPENINGS = 50_000
/** … and over all actions of one state. */
const STATE_HAPPENINGS = 2_000_000

/** Outcomes kept in all. */
const OUTCOME_BUDGET = 40_000_000
/** Outcomes between two looks at how many there will be. */
const JUDGED = 2_000_000

/** A check that does not hold, by numbers. */
interface Breach {
  readonly state: number
  readonly choice: number
  readonly chances: string
}

/**
 * Compiles a rulebook in slices: all states an episode can reach, breadth first from the starts, each with every
 * action and every way in which chance can fall.
 */
export class RulebookCompiler {
  readonly program: Program
  private readonly machine: RuleMachine
  private readonly lines: LineMap
  /** Codes from here on are the ways to end after a step. */
  private readonly combinations: number
  private readonly states: StateIndex
  private readonly writer = new RowWriter()
  /** [states] the state and the choice from which a state was met first; -1 for starts */
  private parent: Int32Array<ArrayBuffer> = new Int32Array(1024)
  private parentChoice: Int32Array<ArrayBuffer> = new Int32Array(1024)
  /** [states] what a state is: 0 ordinary, 1 passes by itself */
  private passing: Uint8Array<ArrayBuffer> = new Uint8Array(1024)
  private observation: Int32Array<ArrayBuffer> = new Int32Array(1024)
  private readonly observations = new Map<string, number>()
  /** [measures][rows] */
  private readonly measured: number[][]
  /** [policies][states] the choice taken; -1 for none */
  private readonly policyChoice: number[][]
  private readonly silent: (number | undefined)[]
  private readonly broken: (Breach | null)[]
  /** What has been seen at least once: choices that are possible, endings that hold, ways to end after a step. */
  private readonly possibleSeen: Uint8Array
  private readonly endingSeen: Uint8Array
  private readonly endAfterSeen: Uint8Array
  /** The states of the ways to end after a step, once there; -1 before. */
  private readonly endState: number[]
  private starts: { state: number; weight: number }[] = []
  private expanded = 0
  /** True while a state and an action are at hand, to be named when something goes wrong. */
  private expanding = false
  private current = 0
  private currentChoice = -1
  private readonly sink: OutcomeSink
  private penalty = 0
  private happenings = 0
  private judgedAt = JUDGED

  constructor(
    document: RulebookDocument,
    private readonly cap: number,
    private readonly budget: Budget = FULL_BUDGET,
  ) {
    const { program, lines } = readRules(document)
    this.program = program
    this.lines = lines
    this.machine = new RuleMachine(program)
    this.combinations = program.variables.reduce((product, each) => product * variableSize(each), 1)
    this.states = new StateIndex(this.combinations + program.endsAfter.length)
    this.measured = program.measures.map(() => [])
    this.policyChoice = program.policies.map(() => [])
    this.silent = program.policies.map(() => undefined)
    this.broken = program.checks.map(() => null)
    this.possibleSeen = new Uint8Array(program.choices.length)
    this.endingSeen = new Uint8Array(program.endings.length)
    this.endAfterSeen = new Uint8Array(program.endsAfter.length)
    this.endState = program.endsAfter.map(() => -1)
    this.sink = {
      outcome: (code, now) => {
        if (now[0] > 0)
          this.writer.outcome(this.stateFor(code), now[0], this.penalty ? now[1] - this.penalty : now[1])
      },
      happened: (now) => this.happened(now[0]),
    }
    this.starts = this.guarded(() =>
      new Starts(this.machine, this.states, program, budget.happenings).spread(),
    )
    for (let s = 0; s < this.states.count; s++) this.met(s, -1, -1)
  }

  get progress(): { states: number; rows: number } {
    return { states: this.expanded, rows: this.writer.rows }
  }

  /**
   * Works on about so many rows, or less where chance can fall in very many ways.
   * @returns true when all states are done
   * @throws ProblemError for a fault met on the way, or when the budget is spent
   */
  advance(rows: number): boolean {
    const until = this.writer.rows + rows
    this.guarded(() => {
      this.expanding = true
      const enough = this.happenings + SLICE_HAPPENINGS
      while (this.expanded < this.states.count && this.writer.rows < until && this.happenings < enough)
        this.expand(this.expanded++)
    })
    this.expanding = false
    return this.expanded === this.states.count
  }

  private stateFor(code: number): number {
    this.happenings++
    if (code < 0) {
      // Steps that end for the same reason lead to the same ending.
      const { endsAfter } = this.program
      this.endAfterSeen[-1 - code] = 1
      const kind = endsAfter.findIndex(({ title }) => title === endsAfter[-1 - code].title)
      if (this.endState[kind] < 0) {
        // Outside the codes of real states, so that none is mistaken for it.
        this.endState[kind] = this.states.add(this.combinations + kind)
        this.met(this.endState[kind], this.current, this.currentChoice)
      }
      return this.endState[kind]
    }
    const known = this.states.count
    const state = this.states.add(code)
    if (state === known) this.met(state, this.current, this.currentChoice)
    return state
  }

  private met(state: number, parent: number, choice: number): void {
    if (state >= this.parent.length) {
      const length = 2 * this.parent.length
      this.parent = copied(this.parent, new Int32Array(length))
      this.parentChoice = copied(this.parentChoice, new Int32Array(length))
      this.passing = copied(this.passing, new Uint8Array(length))
      this.observation = copied(this.observation, new Int32Array(length))
    }
    this.parent[state] = parent
    this.parentChoice[state] = choice
  }

  private expand(state: number): void {
    const { machine, writer, program } = this
    this.current = state
    this.currentChoice = -1
    writer.beginState()
    const code = this.states.codes[state]
    if (code >= this.combinations) {
      this.observation[state] = this.observe('ending')
      for (const choices of this.policyChoice) choices.push(-1)
      return
    }
    machine.load(code)
    const { frame } = machine
    if (this.ends(frame)) {
      this.observation[state] = this.observe('ending')
      for (const choices of this.policyChoice) choices.push(-1)
      return
    }
    if (program.observe)
      this.observation[state] = this.observe(program.observe.map((seen) => seen.run(frame)).join())
    if (program.pass && program.pass.condition.run(frame) === 1) {
      this.passing[state] = 1
      for (const choices of this.policyChoice) choices.push(-1)
      machine.choose(null)
      this.row(program.passWord, -1)
      machine.run(this.sink, 'fault')
      return
    }
    this.decide(state)
  }

  /** Whether an episode ends in the state that is loaded; all conditions are tried until each has held once. */
  private ends(frame: Float64Array): boolean {
    const { endings } = this.program
    let ends = false
    for (let k = 0; k < endings.length; k++) {
      if (ends && this.endingSeen[k]) continue
      if (endings[k].condition.run(frame) !== 1) continue
      this.endingSeen[k] = 1
      ends = true
    }
    return ends
  }

  /** The rows of a state in which there is something to decide. */
  private decide(state: number): void {
    const { machine, program } = this
    const { choices, treatment } = program
    const possible = this.possibleIn()
    possible.forEach((can, c) => {
      if (can) this.possibleSeen[c] = 1
    })
    const first = possible.indexOf(true)
    // Where all is impossible, what is let through at a penalty still is.
    if (first < 0 && treatment !== 'penalised') {
      throw new RuleFault({
        ...program.actionSpan,
        cause: 'No action is possible.',
        remedy: 'Add an action without “when”, or say “end when …” or “pass when …” for such states.',
      })
    }
    const before = this.happenings
    this.policyChoice.forEach((taken, p) => taken.push(this.choiceOfPolicy(p, state, possible)))
    choices.forEach((_, c) => {
      if (!possible[c] && treatment === 'forbidden') return
      this.row(c, c)
      machine.choose(this.carriedOut(c, possible))
      this.penalty = !possible[c] && program.penalty ? program.penalty.run(machine.frame) : 0
      machine.run(this.sink, possible[c] || treatment === 'clamped' ? 'fault' : 'hold')
      if (this.happenings - before > STATE_HAPPENINGS)
        throw new RuleFault({
          ...program.chances[0],
          cause: `The actions of one state have more than ${STATE_HAPPENINGS} outcomes.`,
          remedy: 'Offer fewer actions, or cut the chances off with “up to”.',
        })
      this.penalty = 0
    })
  }

  /** Which choices can be taken in the state that is loaded. */
  private possibleIn(): boolean[] {
    const { machine } = this
    return this.program.choices.map((choice) => {
      if (!choice.when) return true
      machine.choose(choice)
      return machine.possible(choice)
    })
  }

  /** What is done where a choice is offered: itself, or what an impossible one is clamped to. */
  private carriedOut(c: number, possible: readonly boolean[]): Choice {
    const { choices, treatment } = this.program
    return possible[c] || treatment === 'penalised'
      ? choices[c]
      : choices[nearestChoice(choices, possible, c, possible.indexOf(true))]
  }

  private row(action: number, choice: number): void {
    const { writer } = this
    const { rows, happenings } = this.budget
    if (writer.rows >= rows || writer.outcomes >= OUTCOME_BUDGET || this.happenings > happenings)
      this.refuseSize()
    // Long before the limit is reached it shows whether it will be: the states that are waiting are known.
    if (writer.outcomes >= this.judgedAt) {
      this.judgedAt = writer.outcomes + JUDGED
      const coming = (writer.outcomes / this.expanded) * this.states.count
      if (coming > 2 * OUTCOME_BUDGET) this.refuseSize(coming)
    }
    this.currentChoice = choice
    writer.beginRow(action)
    for (const rows of this.measured) rows.push(0)
  }

  private happened(probability: number): void {
    const { frame } = this.machine
    const { measures, checks } = this.program
    const row = this.writer.rows - 1
    for (let m = 0; m < measures.length; m++)
      this.measured[m][row] += probability * measures[m].value.run(frame)
    for (let k = 0; k < checks.length; k++)
      if (this.broken[k] === null && probability > 0 && checks[k].value.run(frame) !== 1)
        this.broken[k] = {
          state: this.current,
          choice: this.currentChoice,
          chances: this.machine.fallen(),
        }
  }

  private choiceOfPolicy(p: number, state: number, possible: readonly boolean[]): number {
    const { frame } = this.machine
    const { choices } = this.program
    for (const { group, level, when } of this.program.policies[p].choices) {
      if (when && when.run(frame) !== 1) continue
      const wanted = level?.run(frame)
      let best = -1
      let least = Infinity
      for (let c = 0; c < choices.length; c++) {
        const choice = choices[c]
        if (choice.group !== group || !(possible[c] || this.program.treatment !== 'forbidden')) continue
        const value = choice.given.at(-1)?.value ?? 0
        const distance =
          wanted === undefined
            ? 0
            : Number.isNaN(choice.level)
              ? value === wanted
                ? 0
                : Infinity
              : Math.abs(value - wanted)
        if (distance < least) {
          least = distance
          best = c
        }
      }
      if (best >= 0) return best
    }
    this.silent[p] ??= state
    return -1
  }

  private observe(key: string): number {
    let number = this.observations.get(key)
    if (number === undefined) this.observations.set(key, (number = this.observations.size))
    return number
  }

  /** The finished model. Only when `advance` has said so. */
  finish(): CompiledRulebook {
    return this.guarded(() => this.assemble())
  }

  private assemble(): CompiledRulebook {
    const { program } = this
    let rows = this.writer.finish()
    const count = this.states.count
    const passing = this.passing.subarray(0, count)
    let starts = this.starts
    let measures: Float64Array[] = this.measured.map((perRow) => Float64Array.from(perRow))
    let order = Int32Array.from({ length: count }, (_, s) => s)
    if (program.pass && passing.includes(1)) {
      const stepwise = rows
      const passed = passThrough(rows, passing, program.pass.discount)
      if (passed.outcome === 'for-ever')
        throw new RuleFault({
          ...program.pass.span,
          cause: `In the state ${this.label(passed.state)} time passes for ever: no decision and no ending comes.`,
          remedy: 'Let the next lines lead out of it, or add “end when …”.',
        })
      if (passed.outcome === 'too-many')
        throw new RuleFault({
          ...program.pass.span,
          cause: 'The stretches that pass by themselves lead to too many different states.',
          remedy: 'Make the variables smaller, or let fewer states pass.',
        })
      starts = startsAfterPassing(starts, passing, passed.exits)
      measures = measures.map((perRow) => measuredThrough(stepwise, passing, perRow))
      const numbers = new Int32Array(count).fill(-1)
      order = order.filter((s) => !passing[s])
      order.forEach((s, i) => (numbers[s] = i))
      rows = {
        ...passed.rows,
        rowStart: Int32Array.from([
          ...order.map((s) => passed.rows.rowStart[s]),
          passed.rows.rowStart[count],
        ]),
        outcomeState: passed.rows.outcomeState.map((s) => numbers[s]),
      }
      starts = starts.map(({ state, weight }) => ({ state: numbers[state], weight }))
    }
    const labels = Array.from(order, (s) => this.label(s))
    this.refuseSameNames(labels)
    const ending = (state: number) => rows.rowStart[state] === rows.rowStart[state + 1]
    const begin = starts.filter(({ state }) => !ending(state))
    if (!begin.length)
      throw new RuleFault({
        ...program.starts[0],
        cause: 'Every start is an ending.',
        remedy: 'Start in a state in which there is something to decide.',
      })
    const model = this.finished(rows, {
      labels,
      actions: program.choices.map(({ label }) => label),
      starts: begin,
      cap: this.cap,
      observation: program.observe ? renumbered(order, this.observation) : undefined,
    })
    return {
      model,
      space: this.space(order),
      measures: program.measures.map(({ title }, m) => ({
        name: title,
        perRow: measures[m],
      })),
      facts: this.facts(model, order),
    }
  }

  /** What is wrong with a finished model is wrong with what the agent sees: the line that says so is named. */
  private finished(...args: Parameters<typeof finishModel>): Model {
    try {
      return finishModel(...args)
    } catch (error) {
      const span = this.program.observeSpan
      if (!(error instanceof ProblemError) || !span) throw error
      throw new ProblemError(
        error.problems.map(({ place, cause, remedy }) =>
          this.lines.problem({ ...span, cause: `${cause.replace(/\.$/, '')}: ${place}.`, remedy }),
        ),
      )
    }
  }

  /** An ending is named by its line, and must not have the name of a state. */
  private refuseSameNames(labels: readonly string[]): void {
    const { endsAfter } = this.program
    if (!endsAfter.length) return
    const names = new Map<string, number>()
    for (const label of labels) names.set(label, (names.get(label) ?? 0) + 1)
    const same = endsAfter.find(({ title }, k) => this.endState[k] >= 0 && names.get(title)! > 1)
    if (same)
      throw new RuleFault({
        ...same,
        cause: `The ending “${same.title}” has the name of a state.`,
        remedy: 'Give the ending another name, in quotes at the end of its line.',
      })
  }

  private space(order: Int32Array): StateSpace {
    const { dimensions } = this.machine
    const index = new Int32Array(order.length * dimensions.length)
    order.forEach((s, i) => {
      const code = this.states.codes[s]
      for (let d = 0; d < dimensions.length; d++)
        index[i * dimensions.length + d] = code >= this.combinations ? -1 : this.machine.indexIn(code, d)
    })
    return {
      axes: dimensions.map(({ name, texts, kind }) => ({
        name,
        texts,
        numeric: kind === 'whole' || kind === 'buckets',
      })),
      index,
    }
  }

  private facts(model: Model, order: Int32Array): RulebookFacts {
    const { program } = this
    const notes: RuleNote[] = [
      ...program.notes.map((note) => ({ ...this.lines.problem(note), rule: note.rule })),
      ...this.neverNotes(),
    ]
    const policies = program.policies.flatMap((rule, p) => {
      const silent = this.silent[p]
      if (silent !== undefined) {
        notes.push({
          rule: 'policy',
          ...this.lines.problem({
            ...rule,
            cause: `The policy “${rule.title}” says nothing possible for the state ${this.label(silent)}.`,
            remedy: 'End it with an action that is always possible, without “when”.',
          }),
        })
        return []
      }
      const policy = new Float64Array(model.rows)
      order.forEach((s, i) => {
        for (let r = model.rowStart[i]; r < model.rowStart[i + 1]; r++)
          if (model.rowAction[r] === this.policyChoice[p][s]) policy[r] = 1
      })
      return [{ title: rule.title, policy }]
    })
    return {
      knobs: program.knobs,
      treatment: program.treatment,
      sizes: program.variables.map((variable) => ({ name: variable.name, size: variableSize(variable) })),
      policies,
      checks: program.checks.map(({ title, from, to }, k) => ({
        title,
        span: { from, to },
        broken: this.breachOf(k),
      })),
      passing: program.pass?.discount ?? null,
      notes,
    }
  }

  private breachOf(k: number): CheckResult['broken'] {
    const breach = this.broken[k]
    return (
      breach && {
        state: this.label(breach.state),
        action: this.choiceLabel(breach.choice),
        chances: breach.chances,
        path: this.pathTo(breach.state),
      }
    )
  }

  /** Actions that are possible nowhere, and endings that never come. */
  private neverNotes(): RuleNote[] {
    const { program, lines } = this
    const notes: RuleNote[] = []
    program.groups.forEach((name, group) => {
      if (program.choices.some((choice, c) => choice.group === group && this.possibleSeen[c])) return
      notes.push({
        rule: 'never-possible',
        ...lines.problem({
          ...program.groupSpans[group],
          cause: `The action ${name} is possible in no state that can be reached.`,
          remedy: 'Look at its “when”, or leave it out.',
        }),
      })
    })
    const never = (span: Span) =>
      notes.push({
        rule: 'never-ends',
        ...lines.problem({
          ...span,
          cause: 'This holds in nothing that can happen, so that no episode ends here.',
          remedy: 'Look at the condition, or leave the line out.',
        }),
      })
    program.endings.forEach(({ span }, k) => this.endingSeen[k] || never(span))
    program.endsAfter.forEach(({ from, to }, k) => this.endAfterSeen[k] || never({ from, to }))
    return notes
  }

  private label(state: number): string {
    const code = this.states.codes[state]
    if (code >= this.combinations) return this.program.endsAfter[code - this.combinations].title
    let label = ''
    let d = 0
    for (const variable of this.program.variables) {
      label += label ? `, ${variable.name}` : variable.name
      for (const { texts } of variable.dimensions) label += ` ${texts[this.machine.indexIn(code, d++)]}`
    }
    return label
  }

  private choiceLabel(choice: number): string {
    return choice < 0 ? 'passes by itself' : this.program.choices[choice].label
  }

  /** The shortest way from a start to a state. Works the machine: not while a step is at hand. */
  private pathTo(state: number): StoryStep[] {
    const path: StoryStep[] = []
    for (let s = state; this.parent[s] >= 0 && path.length < 10_000; s = this.parent[s])
      path.push({
        state: this.label(this.parent[s]),
        action: this.choiceLabel(this.parentChoice[s]),
        chances: this.fallenTo(s),
      })
    return path.reverse()
  }

  /** How chance fell in the step in which a state was met first: that step is worked out again. */
  private fallenTo(state: number): string {
    const { machine, parent, parentChoice, states } = this
    const choice = parentChoice[state]
    machine.load(states.codes[parent[state]])
    const possible = choice < 0 ? [] : this.possibleIn()
    machine.choose(choice < 0 ? null : this.carriedOut(choice, possible))
    let fallen: string | undefined
    machine.run(
      {
        outcome: (code, now) => {
          if (now[0] > 0 && code === states.codes[state]) fallen ??= machine.fallen()
        },
        happened: () => {},
      },
      'hold',
    )
    return fallen ?? ''
  }

  /** @param coming  about how many outcomes there would be, where that can be told already */
  private refuseSize(coming = 0): never {
    this.expanding = false
    const { variables } = this.program
    const largest = variables.reduce((x, y) => (variableSize(y) > variableSize(x) ? y : x))
    const reached = coming
      ? `About ${Math.round(coming / 1e6)} million outcomes, and up to ${OUTCOME_BUDGET / 1e6} million are worked out,`
      : `More than ${this.writer.rows < this.budget.rows ? `${this.writer.outcomes} outcomes` : `${this.budget.rows} pairs of a state and an action`}`
    throw new RuleFault({
      ...largest,
      cause: `${reached} can be reached. The variables contribute ${contributions(variables)}; there are ${this.program.choices.length} actions.`,
      remedy: `Shrink ${largest.name} first.`,
    })
  }

  /** Runs something; a fault met on the way is told with the state and the chances in which it happened. */
  private guarded<T>(work: () => T): T {
    try {
      return work()
    } catch (error) {
      if (!(error instanceof RuleFault)) throw error
      const { from, to, remedy } = error.fault
      const cause = this.withCircumstances(error.fault.cause)
      const path = this.expanding ? this.pathTo(this.current) : []
      throw new ProblemError([
        this.lines.problem({
          from,
          to,
          cause: path.length ? `${cause} The way there: ${tellStory(path)}.` : cause,
          remedy,
          path,
        }),
      ])
    }
  }

  private withCircumstances(cause: string): string {
    if (!this.expanding) return cause
    const circumstances = [this.label(this.current)]
    if (this.currentChoice >= 0) {
      circumstances.push(`action ${this.choiceLabel(this.currentChoice)}`)
      if (this.machine.fallen()) circumstances.push(this.machine.fallen())
    }
    return `${cause.replace(/\.$/, '')}, when ${circumstances.join(', ')}.`
  }
}

/** The possible level nearest to an impossible one, the lower of two; else the first possible action there is. */
function nearestChoice(
  choices: readonly Choice[],
  possible: readonly boolean[],
  wanted: number,
  first: number,
): number {
  let best = -1
  let least = Infinity
  choices.forEach((choice, c) => {
    if (!possible[c] || choice.group !== choices[wanted].group) return
    const distance = Math.abs(choice.level - choices[wanted].level)
    if (distance < least) {
      least = distance
      best = c
    }
  })
  return best >= 0 ? best : first
}

/** Observations numbered from 0 in the order of the states that are left. */
function renumbered(order: Int32Array, observation: Int32Array): Int32Array {
  const numbers = new Map<number, number>()
  return order.map((s) => {
    const seen = observation[s]
    if (!numbers.has(seen)) numbers.set(seen, numbers.size)
    return numbers.get(seen)!
  })
}

function copied<T extends Int32Array | Uint8Array>(from: T, to: T): T {
  to.set(from)
  return to
}

/** Compiles in one go, for places that can wait. */
export function compileRulebook(document: RulebookDocument, cap: number, budget?: Budget): CompiledRulebook {
  const compiler = new RulebookCompiler(document, cap, budget)
  while (!compiler.advance(100_000));
  return compiler.finish()
}
