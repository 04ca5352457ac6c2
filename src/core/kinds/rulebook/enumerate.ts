import { ROW_BUDGET } from '../../model/builder'
import type { Model } from '../../model/model'
import { RowWriter } from '../../model/row-writer'
import { listNames, ProblemError, tellStory, type StoryStep } from '../../problem'
import type { Budget } from '../kind'
import { assemble } from './assemble'
import type { RulebookDocument } from './document'
import type { CompiledRulebook, RuleNote } from './facts'
import { RuleMachine, type OutcomeSink } from './machine'
import { Offers } from './offers'
import { RuleFault, type LineMap } from './place'
import type { Program } from './program'
import { readRules } from './read-rules'
import { RuleChecks } from './rule-checks'
import { SameCheck } from './same-check'
import { SeenRules } from './seen-rules'
import { contributions, variableSize } from './sizes'
import { Starts } from './starts'
import { StateIndex } from './state-index'
import { StateNames } from './state-names'
import { Ways } from './ways'
import { WrittenPolicies } from './written-policies'

const FULL_BUDGET: Budget = { rows: ROW_BUDGET, happenings: Infinity }

/** Ways in which chance can fall that are looked at in one slice, … */
const SLICE_HAPPENINGS = 50_000
/** … and over all actions of one state. */
const STATE_HAPPENINGS = 2_000_000

/** Outcomes kept in all. */
const OUTCOME_BUDGET = 40_000_000
/** Outcomes between two looks at how many there will be. */
const JUDGED = 2_000_000

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
  private readonly names: StateNames
  private readonly offers: Offers
  private readonly ways: Ways
  private readonly seen: SeenRules
  private readonly checks: RuleChecks
  private readonly policies: WrittenPolicies
  private readonly same: SameCheck
  private readonly writer = new RowWriter()
  /** [states] what a state is: 0 ordinary, 1 passes by itself */
  private passing: Uint8Array<ArrayBuffer> = new Uint8Array(1024)
  private observation: Int32Array<ArrayBuffer> = new Int32Array(1024)
  private readonly observations = new Map<string, number>()
  /** [measures][rows] */
  private readonly measured: number[][]
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

  /** @throws ProblemError for faults of the text, and of the starts */
  constructor(
    document: RulebookDocument,
    private readonly cap: number,
    private readonly budget: Budget = FULL_BUDGET,
  ) {
    const { program, lines } = readRules(document)
    this.program = program
    this.lines = lines
    const machine = new RuleMachine(program)
    this.machine = machine
    this.combinations = program.variables.reduce((product, each) => product * variableSize(each), 1)
    this.states = new StateIndex(this.combinations + program.endsAfter.length)
    this.names = new StateNames(machine, program, this.states, this.combinations)
    this.offers = new Offers(machine, program)
    this.ways = new Ways(machine, this.offers, this.states, this.names)
    this.seen = new SeenRules(program)
    this.checks = new RuleChecks(program)
    this.policies = new WrittenPolicies(program)
    this.same = new SameCheck(machine, program, this.offers)
    this.measured = program.measures.map(() => [])
    this.endState = program.endsAfter.map(() => -1)
    this.sink = {
      outcome: (code, now) => {
        if (now[0] > 0)
          this.writer.outcome(
            this.stateFor(code),
            now[0],
            this.penalty ? now[1] - this.penalty : now[1],
            now[2],
          )
      },
      happened: (now) => this.happened(now[0]),
    }
    this.starts = this.guarded(() => new Starts(machine, this.states, program, budget.happenings).spread())
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
      this.seen.endedAfter(-1 - code)
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
    if (state >= this.passing.length) {
      const length = 2 * this.passing.length
      this.passing = copied(this.passing, new Uint8Array(length))
      this.observation = copied(this.observation, new Int32Array(length))
    }
    this.ways.met(state, parent, choice)
  }

  private expand(state: number): void {
    const { machine, writer, program, policies } = this
    this.current = state
    this.currentChoice = -1
    writer.beginState()
    const code = this.states.codes[state]
    const { frame } = machine
    if (code < this.combinations) {
      machine.load(code)
      this.same.look(state, code)
    }
    if (code >= this.combinations || this.seen.ends(frame)) {
      this.observation[state] = this.observe('ending')
      policies.pass()
      return
    }
    if (program.observe)
      this.observation[state] = this.observe(program.observe.map((seen) => seen.run(frame)).join())
    if (program.pass && program.pass.condition.run(frame) === 1) {
      this.passing[state] = 1
      policies.pass()
      machine.choose(null)
      this.row(program.passWord, -1)
      machine.run(this.sink, 'fault')
      return
    }
    this.decide(state)
  }

  /** The rows of a state in which there is something to decide. */
  private decide(state: number): void {
    const { machine, program, offers } = this
    const { choices, treatment } = program
    const possible = offers.possible()
    this.seen.choices(possible)
    const first = possible.indexOf(true)
    // Where all is impossible, what is let through at a penalty still is.
    if (first < 0 && treatment !== 'penalised') {
      throw new RuleFault({
        ...program.actionSpan,
        breaks: 'no-action',
        cause: 'No action is possible.',
        remedy: 'Add an action without “when”, or say “end when …” or “pass when …” for such states.',
      })
    }
    const before = this.happenings
    this.policies.choose(state, machine.frame, possible)
    choices.forEach((_, c) => {
      if (!possible[c] && treatment === 'forbidden') return
      this.row(c, c)
      machine.choose(offers.carriedOut(c, possible))
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
    const { machine, current, currentChoice } = this
    const { measures } = this.program
    const row = this.writer.rows - 1
    for (let m = 0; m < measures.length; m++)
      this.measured[m][row] += probability * measures[m].value.run(machine.frame)
    if (probability > 0) this.checks.look(machine.frame, current, currentChoice, () => machine.fallen())
  }

  private observe(key: string): number {
    let number = this.observations.get(key)
    if (number === undefined) this.observations.set(key, (number = this.observations.size))
    return number
  }

  /** The finished model. Only when `advance` has said so. @throws ProblemError where the states make no model */
  finish(): CompiledRulebook {
    return this.guarded(() => {
      const { program, lines, names } = this
      const count = this.states.count
      const { model, order, measures } = assemble(program, lines, names, {
        rows: this.writer.finish(),
        starts: this.starts,
        passing: this.passing.subarray(0, count),
        observation: this.observation,
        measured: this.measured.map((perRow) => Float64Array.from(perRow)),
        cap: this.cap,
        isMet: (ending) => this.endState[ending] >= 0,
      })
      const { policies, notes } = this.policies.finish(model, order, lines, (s) => names.state(s))
      return {
        model,
        space: names.space(order),
        measures: program.measures.map(({ title }, m) => ({ name: title, perRow: measures[m] })),
        policies,
        facts: {
          knobs: program.knobs,
          treatment: program.treatment,
          actionParts: program.choices.map(({ parts }) => parts.map(({ name, text }) => ({ name, text }))),
          sizes: program.variables.map((variable) => ({ name: variable.name, size: variableSize(variable) })),
          unordered: this.unordered(order),
          checks: this.checks.results(names, (state) => this.ways.to(state)),
          passing: program.pass?.discount ?? null,
          discounts: program.discounts.length > 0,
          notes: [
            ...program.notes.map((note) => ({ ...lines.problem(note), rule: note.rule, about: note.about })),
            ...this.seen.notes(lines),
            ...this.endedStarts(model),
            ...notes,
          ],
        },
      }
    })
  }

  /** How many states there would be if items that may be exchanged were told apart; null where there are no such items. */
  private unordered(order: Int32Array): number | null {
    if (!this.program.same.length) return null
    return order.reduce((sum, s) => {
      const code = this.states.codes[s]
      return sum + (code >= this.combinations ? 1 : this.machine.order.orders(code))
    }, 0)
  }

  /** Starts in which an episode is over before it begins. After random actions they are to be expected. */
  private endedStarts(model: Model): RuleNote[] {
    const { program, names, lines } = this
    if (program.starts.some(({ scramble }) => scramble > 0)) return []
    const left = new Set(model.labels.filter((_, s) => model.ending[s]))
    const ended = this.starts.map(({ state }) => names.state(state)).filter((name) => left.has(name))
    if (!ended.length) return []
    return [
      {
        rule: 'start-ends',
        ...lines.problem({
          ...program.starts[0],
          cause: `Of the starts, ${listNames(ended)} ${ended.length === 1 ? 'is an ending' : 'are endings'}: no episode begins there.`,
          remedy: 'Leave them out of the starts.',
        }),
      },
    ]
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
      const { from, to, remedy, breaks } = error.fault
      const cause = this.withCircumstances(error.fault.cause)
      // Before the way there is looked for: that lets chance fall anew.
      const last = this.stepAtHand()
      const path = this.expanding ? this.ways.to(this.current) : []
      throw new ProblemError([
        this.lines.problem({
          from,
          to,
          cause: path.length ? `${cause} The way there: ${tellStory(path)}.` : cause,
          remedy,
          path: [...path, ...last],
          breaks,
        }),
      ])
    }
  }

  /** The step in which something went wrong, as the last of its story. */
  private stepAtHand(): StoryStep[] {
    if (!this.expanding || this.currentChoice < 0) return []
    return [
      {
        state: this.names.state(this.current),
        action: this.names.choice(this.currentChoice),
        chances: this.machine.fallen(),
      },
    ]
  }

  private withCircumstances(cause: string): string {
    if (!this.expanding) return cause
    const circumstances = [this.names.state(this.current)]
    if (this.currentChoice >= 0) {
      circumstances.push(`action ${this.names.choice(this.currentChoice)}`)
      if (this.machine.fallen()) circumstances.push(this.machine.fallen())
    }
    return `${cause.replace(/\.$/, '')}, when ${circumstances.join(', ')}.`
  }
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
