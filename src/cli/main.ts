import { EXPORT_IDS, exportForm, LATE_EXPORT_IDS, lateExportsOf } from '../core/formats/exports'
import { jsonSchema, SCHEMA_NAMES, type SchemaName } from '../core/formats/json-schemas'
import { Argument, Command, CommanderError, Option } from 'commander'
import { EXPLORATION_WAYS } from '../core/learn/explore/explorations'
import { LEARN_METHOD_IDS, learnMethod, type LearnMethodId } from '../core/learn/methods/methods'
import { readChoice } from '../core/settings/choice-schema'
import { PLAN_METHOD_IDS, type PlanMethodId } from '../core/plan/plan-methods'
import { listNames, ProblemError, refuse } from '../core/problem'
import { PLAN_SETTINGS } from '../core/plan/plan-settings'
import { SETTINGS } from '../core/settings/settings'
import {
  addFlags,
  explorationFlags,
  flagged,
  readFlags,
  readOption,
  RUNS_SCHEMA,
  UsageError,
} from './arguments'
import { checkProblems } from '../core/check/check-problems'
import type { CheckReport } from '../core/check/finding'
import { reportData, reportLines, reportMarkdown } from '../core/check/report'
import { check, evaluate, learn, plan, policyFor, type Keep } from './commands'
import { basename } from 'node:path'
import type { Model } from '../core/model/model'
import { PROGRAM } from '../core/program'
import Joi from 'joi'
import { parseComparison } from '../core/compare/read-comparison'
import { curvesCsv, scoresCsv } from '../core/compare/runs-csv'
import { SCORE_IDS } from '../core/compare/scores'
import { choiceIn, firstChoice } from '../core/settings/first-choice'
import { diagnose } from '../core/diagnose/diagnose'
import { diagnosisData, diagnosisText } from '../core/diagnose/report'
import { withMethod } from '../core/settings/with-method'
import type { ChunkRunner } from '../hosts/node/run-pool'
import { compare, runPool, sweep } from './comparing'
import { comparedLines, progressBar, sweptLines } from './comparing-words'
import { addShelfCommands } from './shelf'
import { addTeachingCommands } from './teaching'
import { addTableFlags, writeTable } from './tables'
import type { TableNumbers } from '../core/formats/table-numbers'
import type { Terminal } from './terminal'
import {
  inFile,
  openEnvironment,
  problemLines,
  readBytes,
  readJsonFile,
  readTextFile,
  writeFile,
} from './files'

/**
 * Runs one command line. @returns the exit code: 0 done, 1 a clear error on `err`, 2 wrong usage
 * @param args  the words after the program's name
 */
export async function runCommandLine(args: readonly string[], terminal: Terminal): Promise<number> {
  let code = 0
  const program = buildProgram(terminal, () => (code = 1))
  try {
    await program.parseAsync([...args], { from: 'user' })
    return code
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2
    if (error instanceof ProblemError) {
      terminal.err(problemLines(error) + '\n')
      return error instanceof UsageError ? 2 : 1
    }
    throw error
  }
}

/** @param failed  called when a command did its work and found something wrong */
function buildProgram(terminal: Terminal, failed: () => void): Command {
  const program = new Command('pawn')
    .description(
      'Plan, evaluate and learn on a document (.json), a rulebook (.rules) or a transition list (.csv).',
    )
    .version(PROGRAM, '--version', 'print the version of the program')
    .exitOverride()
    .configureOutput({ writeOut: (text) => terminal.out(text), writeErr: (text) => terminal.err(text) })
  const progress = (text: string) => terminal.err(`${text}\n`)
  const { discount, episodes, seed, cap } = SETTINGS
  const common = (command: Command) =>
    addFlags(
      command
        .argument('<file>', FILE)
        .option('--knob <name=value>', 'turn a knob; may be given several times', gather, [])
        .option('--json', 'print one JSON object'),
      { discount },
    )
      .option('--start <state>', 'start here; default: the starts of the file, the first state of a list')
      .exitOverride()
  const finish = (result: object, json: boolean | undefined) =>
    terminal.out(json ? JSON.stringify(result) + '\n' : readable(result))

  /** Runs a command that comes to numbers: prints its answer, or writes the table that is asked for. */
  const answer = (
    model: Model,
    options: { json?: boolean; to?: string; out?: string },
    run: (keep: Keep) => object,
  ) => {
    let found: TableNumbers | undefined
    const result = run((numbers) => (found = numbers))
    if (!found || !writeTable(options, model, found, terminal)) finish(result, options.json)
  }

  addFlags(
    addTableFlags(
      common(
        program
          .command('plan')
          .description('the optimal values and policy, or what a method of planning computes'),
      ),
    ),
    PLAN_SETTINGS,
  )
    .addOption(new Option('--method <name>', 'default: the quickest for the size').choices(PLAN_METHOD_IDS))
    .option(
      '--policy <policy>',
      `what is evaluated, or what policy iteration begins with: ${POLICY}; default: random`,
    )
    .action((file, options) => {
      const numbers = {
        method: options.method as PlanMethodId | undefined,
        ...readFlags(options, { discount }),
        settings: readFlags(options, PLAN_SETTINGS),
      }
      const opened = openEnvironment(file, openingOf(options))
      const policy =
        options.policy && inFile(options.policy, () => policyFor(opened, options.policy, readJsonFile))
      answer(opened.model, options, (keep) =>
        plan(opened, { ...numbers, ...(policy ? { policy } : {}) }, progress, keep),
      )
    })

  addTableFlags(
    common(program.command('evaluate').description('the value of a policy, exactly or from episodes')),
  )
    .requiredOption('--policy <policy>', POLICY)
    .option('--episodes <count>', 'sample so many episodes instead')
    .option('--seed <seed>', 'of the sampling; default 1')
    .option('--cap <steps>', SETTINGS.cap.flag!.help)
    .action((file, options) => {
      const numbers = readFlags(options, { discount, episodes, seed, cap })
      const opened = openEnvironment(file, openingOf(options))
      const policy = inFile(options.policy, () => policyFor(opened, options.policy, readJsonFile))
      answer(opened.model, options, (keep) => evaluate(opened, policy, numbers, keep))
    })

  const { discount: _, ...flags } = flagged(SETTINGS)
  const { exploration: _exploration, ...plainFlags } = flags
  addFlags(addTableFlags(common(program.command('learn').description('let an agent learn'))), flags)
    .addOption(new Option('--method <name>').choices(LEARN_METHOD_IDS).makeOptionMandatory())
    .addOption(
      new Option(
        '--explore <way>',
        'how it explores, of which --exploration is the number; default epsilon-greedy',
      ).choices(EXPLORATION_WAYS),
    )
    .option('--runs <count>', 'independent runs with this seed; default 1')
    .option('--from <table>', 'begin from a learned table: a .json, .csv or .npy that Learn exports')
    .option('--policy <name>', 'what prediction follows: random, first, one of the rulebook, or a file')
    .option('--settings <file>', 'JSON of settings, as in links; what is said here goes first')
    .action((file, options) => {
      const opened = openEnvironment(file, openingOf(options))
      const settings = {
        method: options.method as LearnMethodId,
        runs: readOption<number>('runs', options.runs, RUNS_SCHEMA),
        from: options.from ? { name: basename(options.from), bytes: readBytes(options.from) } : undefined,
        policy: options.policy
          ? inFile(options.policy, () => policyFor(opened, options.policy, readJsonFile))
          : undefined,
        // What is said by a flag goes first.
        settings: {
          ...(options.settings
            ? inFile(options.settings, () => readChoice(readJsonFile(options.settings)))
            : {}),
          ...readFlags(options, { discount, ...plainFlags }),
          ...explorationFlags(options, learnMethod(options.method)),
        },
      }
      answer(opened.model, options, (keep) => learn(opened, settings, progress, keep))
    })

  const pool = (cores: string | undefined) =>
    terminal.runner?.() ?? runPool(readOption<number>('cores', cores, CORES_SCHEMA))
  const { exploration: _way, ...learnFlags } = flagged(SETTINGS)

  program
    .command('compare')
    .description('the runs of a comparison: which contestant is best, and whether it was luck')
    .argument('<file>', 'a comparison (.json), as Compare exports it; see docs/formats.md')
    .option('--environment <file>', 'what its contestants act in, where the comparison does not say')
    .option('--runs <count>', 'runs of each contestant; default: what the comparison says')
    .option('--score <name>', `what runs are judged by: ${SCORES}; default: what the comparison says`)
    .option('--trials <count>', 'episodes without learning after each run, for scores of those')
    .option('--out <file>', 'also write a line a run as CSV')
    .option('--curves <file>', 'also write the learning curves as CSV')
    .option('--cores <count>', 'threads to work on; default: all cores')
    .option('--json', 'print one JSON object')
    .exitOverride()
    .action(async (file, options) => {
      const document = options.environment ? openEnvironment(options.environment).document : undefined
      const said = inFile(file, () => parseComparison(readTextFile(file), document))
      const comparison = {
        ...said,
        runs: readOption<number>('runs', options.runs, RUNS_SCHEMA) ?? said.runs,
        trials: readOption<number>('trials', options.trials, TRIALS_SCHEMA) ?? said.trials,
        view: { ...said.view, score: scoreOption(options.score) ?? said.view.score },
      }
      const acts = comparison.environment ?? document ?? said.contestants[0]?.environment
      if (!acts) refuse('contestants', 'There is none.', 'Add one in Compare, or by hand.')
      const { result, groups } = await withPool(pool(options.cores), (runner) =>
        compare(comparison, acts, runner, progressBar(terminal)),
      )
      if (options.out) writeFile(options.out, scoresCsv(groups))
      if (options.curves) writeFile(options.curves, curvesCsv(groups))
      terminal.out(options.json ? JSON.stringify(result) + '\n' : comparedLines(result))
    })

  addFlags(
    program
      .command('sweep')
      .description('one or two settings, or knobs, at many values')
      .argument('<file>', FILE)
      .option('--knob <name=value>', 'turn a knob; may be given several times', gather, [])
      .option('--json', 'print one JSON object')
      .exitOverride(),
    flagged(SETTINGS),
  )
    .option(
      '--vary <name=values>',
      'a setting, by the name of its flag, or a knob: learning-rate=0.05..1/8 (evenly), exploration=0,0.1,0.3, or 1/64..1*2 (by a factor); once or twice',
      gather,
      [],
    )
    .addOption(
      new Option('--method <name>', 'default: what the environment suggests').choices(LEARN_METHOD_IDS),
    )
    .addOption(
      new Option('--explore <way>', 'how it explores; default: what the environment suggests').choices(
        EXPLORATION_WAYS,
      ),
    )
    .option('--score <name>', `what runs are judged by: ${SCORES}; default mean`)
    .option('--runs <count>', 'runs of each cell; default 30')
    .option('--trials <count>', 'episodes without learning after each run; default 200')
    .option('--out <file>', 'also write a line a run as CSV')
    .option('--cores <count>', 'threads to work on; default: all cores')
    .action(async (file, options) => {
      if (options.vary.length === 0)
        throw new UsageError([
          {
            place: '--vary',
            cause: 'It is missing.',
            remedy: 'Say what is tried, and at which values: --vary learning-rate=0.05..1/8.',
          },
        ])
      const { document } = openEnvironment(file, { knobs: options.knob })
      const begin = firstChoice(document)
      const base = options.method ? withMethod(begin, options.method as LearnMethodId) : begin
      const choice = {
        ...base,
        ...readFlags(options, learnFlags),
        ...explorationFlags(options, learnMethod(base.method)),
      }
      const { result, groups, varied } = await withPool(pool(options.cores), (runner) =>
        sweep(
          document,
          {
            choice,
            vary: options.vary,
            score: scoreOption(options.score) ?? 'mean',
            runs: readOption<number>('runs', options.runs, RUNS_SCHEMA) ?? 30,
            trials: readOption<number>('trials', options.trials, TRIALS_SCHEMA) ?? 200,
          },
          runner,
          progressBar(terminal),
        ),
      )
      if (options.out) writeFile(options.out, scoresCsv(groups, varied))
      terminal.out(options.json ? JSON.stringify(result) + '\n' : sweptLines(result))
    })

  program
    .command('check')
    .description('what is wrong with it in any state that can be reached, with the shortest way there')
    .argument('<file>', FILE)
    .option('--knob <name=value>', 'turn a knob; may be given several times', gather, [])
    .option('--report <file.md>', 'write a report in Markdown')
    .option('--json', 'print one JSON object')
    .exitOverride()
    .action((file, options) => {
      const report = checkFile(() => openEnvironment(file, openingOf(options)))
      if (options.report) writeFile(options.report, reportMarkdown(file, report))
      terminal.out(options.json ? JSON.stringify(reportData(report)) + '\n' : reportLines(report))
      if (report.findings.some(({ severity }) => severity === 'error')) failed()
    })

  addFlags(
    program
      .command('diagnose')
      .description('why a run does not learn, with evidence and a change that was tried')
      .argument('<file>', FILE)
      .option('--knob <name=value>', 'turn a knob; may be given several times', gather, [])
      .option('--json', 'print one JSON object')
      .exitOverride(),
    flagged(SETTINGS),
  )
    .addOption(
      new Option('--method <name>', 'default: what the environment suggests').choices(LEARN_METHOD_IDS),
    )
    .addOption(
      new Option('--explore <way>', 'how it explores; default: what the environment suggests').choices(
        EXPLORATION_WAYS,
      ),
    )
    .option('--settings <file>', 'JSON of settings, as in links; what is said here goes first')
    .option('--runs <count>', 'runs that are looked at, to tell what is luck; default 30')
    .option('--all', 'tell every finding, not only the first three')
    .action((file, options) => {
      const { document, model } = openEnvironment(file, openingOf(options))
      const said = options.settings
        ? inFile(options.settings, () => readChoice(readJsonFile(options.settings)))
        : {}
      const begin = choiceIn(document, { ...document.learning, ...said })
      const base = options.method ? withMethod(begin, options.method as LearnMethodId) : begin
      const choice = {
        ...base,
        ...readFlags(options, learnFlags),
        ...explorationFlags(options, learnMethod(base.method)),
      }
      const runs = readOption<number>('runs', options.runs, RUNS_SCHEMA) ?? 30
      const report = diagnose({ document, choice, runs: runs - 1 })
      terminal.out(
        options.json
          ? JSON.stringify(diagnosisData(report, model)) + '\n'
          : diagnosisText(report, model, options.all),
      )
    })

  program
    .command('export')
    .description('the environment or its model in an open format')
    .argument('<file>', FILE)
    .option('--knob <name=value>', 'turn a knob; may be given several times', gather, [])
    .addOption(new Option('--to <format>').choices([...EXPORT_IDS, ...LATE_EXPORT_IDS]).makeOptionMandatory())
    .exitOverride()
    .action(async (file, options) => {
      const { document, compiled } = openEnvironment(file, openingOf(options))
      const late = lateExportsOf(document).find(({ id }) => id === options.to)
      if (late) return terminal.out((await late.load())(document, compiled))
      const form = exportForm(document, options.to)
      terminal.out(form.write(document, compiled))
      for (const loss of form.losses?.(document, compiled) ?? []) progress(`note: ${loss}`)
    })

  program
    .command('schema')
    .description('the JSON Schema of a document, for editors and validators')
    .addArgument(new Argument('<document>').choices(SCHEMA_NAMES))
    .exitOverride()
    .action((name: SchemaName) => terminal.out(JSON.stringify(jsonSchema(name), null, 1) + '\n'))

  addTeachingCommands(program, terminal)
  addShelfCommands(program, terminal)
  return program
}

const SCORES = `${SCORE_IDS.join(', ')} or "measure NAME"`
const CORES_SCHEMA = Joi.number().integer().min(1).max(1024)
const TRIALS_SCHEMA = Joi.number().integer().min(1).max(100_000)
const POLICY = 'random, first, a policy of the rulebook, or a JSON file of {"state": "action"}'
const FILE =
  'an environment document (.json), a rulebook (.rules), a transition list (.csv) or the map of a grid (.txt)'

function gather(value: string, before: string[]): string[] {
  return [...before, value]
}

function openingOf(options: { start?: string; knob?: string[] }) {
  return { start: options.start, knobs: options.knob }
}

function scoreOption(name: string | undefined): string | undefined {
  if (name === undefined || SCORE_IDS.includes(name) || name.startsWith('measure ')) return name
  throw new UsageError([
    { place: '--score', cause: `There is no score "${name}".`, remedy: `Use ${SCORES}.` },
  ])
}

/** Lets go of the threads whatever happens. */
async function withPool<T>(runner: ChunkRunner, work: (runner: ChunkRunner) => Promise<T>): Promise<T> {
  try {
    return await work(runner)
  } finally {
    await runner.close()
  }
}

/** What was found in a file; one that does not compile has what is wrong with it as its findings. */
function checkFile(open: () => Parameters<typeof check>[0]): CheckReport {
  try {
    return check(open())
  } catch (error) {
    if (!(error instanceof ProblemError) || error instanceof UsageError) throw error
    return checkProblems(error.problems)
  }
}

/** A result as lines for people: short fields first, long tables cut to the first ten entries. */
function readable(result: object): string {
  const lines: string[] = []
  for (const [key, value] of Object.entries(result)) {
    if (typeof value !== 'object' || value === null) {
      lines.push(`${key}: ${String(value)}`)
      continue
    }
    if (Array.isArray(value)) {
      if (key !== 'states') lines.push(`${key}: ${listNames(value.map(String), 10)}`)
      continue
    }
    const entries = Object.entries(value as Record<string, unknown>).map(
      ([name, entry]): [string, unknown] => [
        name,
        Array.isArray(entry) ? `${entry.slice(-3).join(' … ')} (last 3)` : entry,
      ],
    )
    lines.push(`${key}:`, ...entries.slice(0, 10).map(([name, entry]) => `  ${name}  ${String(entry)}`))
    if (entries.length > 10) lines.push(`  … ${entries.length - 10} more; use --json for all`)
  }
  return lines.join('\n') + '\n'
}
