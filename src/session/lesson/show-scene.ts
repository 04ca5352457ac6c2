import { knobsOf } from '../../core/environment/knobs'
import { significantNumber } from '../../core/formats/number'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { heldFromNames } from '../../core/plan/held-names'
import { rowOf, type Model } from '../../core/model/model'
import type { CheckSession } from '../check/check-session'
import { placeOfLink } from '../check/finding-link'
import type { PolicySource } from '../plan/policy-source'
import { startSeeds } from '../learn/start-seeds'
import { cursorOf } from '../study/cursor'
import type { HandScene, PlanScene, Scene } from '../../core/lesson/scene'
import type { Source } from '../follow'
import type { Study } from '../study/study'

/** A store that can be asked. */
interface Asked<T> extends Source {
  getState(): T
}

/**
 * Puts on the screen of a study what a scene says; parts that need their time follow as soon as they can.
 * @param lose  told what no longer fits, as a full sentence
 */
export function showScene(
  parts: Study,
  scene: Scene,
  lose: (words: string) => void,
): { readonly stop: () => void } {
  const { study, plan, learn, check, model } = parts
  const { stage, view, layers, spread, planned, tabs, folds } = scene
  if (scene.plan) choosePlan(parts, scene.plan)
  if (scene.learn) {
    learn.setWindow(scene.learn.window)
    learn.choose(scene.learn.choice)
  }
  study.setState({ view, layers: new Set(layers), spread, planned, tabs, folds })
  study.getState().show(stage)
  const stops = new Set<() => void>()
  /** Does something once what it needs is there. */
  const when = <T, R>(
    source: Asked<T>,
    read: (state: T) => R | null | undefined | false,
    run: (found: R) => void,
  ) => {
    const waiting = { stop: () => {} }
    const look = () => {
      const found = read(source.getState())
      if (found === null || found === undefined || found === false) return false
      waiting.stop()
      stops.delete(waiting.stop)
      run(found)
      return true
    }
    if (look()) return
    waiting.stop = source.subscribe(() => void look())
    stops.add(waiting.stop)
  }
  when(
    model.store,
    ({ compiled }) => compiled,
    (compiled) => {
      if (scene.selected === null) return
      const state = compiled.model.labels.indexOf(scene.selected)
      if (state < 0) lose(`The state ${scene.selected}, which was selected, is no longer there.`)
      else study.getState().select(cursorOf(compiled, state))
    },
  )
  if (scene.plan) {
    const { finished, sweep, done, backups } = scene.plan
    when(
      plan.store,
      ({ frame }) => frame,
      () => {
        if (finished) parts.drive.finish()
        else if (backups > 0) {
          parts.drive.match(backups)
          parts.drive.go(sweep)
          if (done !== null) plan.go(sweep, done)
          // What was written by hand says sweeps alone.
        } else for (let i = 0; i < sweep; i++) parts.drive.step('on', 'sweep')
      },
    )
  }
  if (scene.learn) {
    const { steps, reached, episodeStep, seeds } = scene.learn
    when(
      learn.store,
      ({ frame }) => frame,
      () => {
        if (reached > 0) learn.reach(reached, steps)
        if (episodeStep !== null) learn.askEpisode()
        // Those of before are shown again by themselves.
        if (seeds > 0 && !parts.seeds.store.getState().runs.length) startSeeds(parts, seeds)
      },
    )
    if (episodeStep !== null)
      when(
        learn.store,
        ({ episode, frame }) => frame?.steps === steps && episode,
        () => learn.showEpisodeStep(episodeStep),
      )
  }
  const { finding = null, hand = null, at = 0 } = scene.check ?? {}
  if (hand)
    when(
      check.store,
      ({ played }) => played && model.store.getState().compiled,
      (compiled) => {
        playByHand(check, compiled.model, hand, lose)
        if (finding === null) check.go(at)
      },
    )
  if (finding !== null)
    when(
      check.store,
      ({ report }) => report,
      (report) => {
        if (placeOfLink(report, finding) === null) lose(`The finding ${finding} of Check is no longer there.`)
        else {
          check.follow(finding)
          check.go(at)
        }
      },
    )
  return { stop: () => stops.forEach((stop) => stop()) }
}

/** Takes the steps of an episode by hand, up to the first that is not possible. */
function playByHand(
  check: CheckSession,
  model: Model,
  { seed, episode, start, moves }: HandScene,
  lose: (words: string) => void,
): void {
  const from = start === null ? null : model.labels.indexOf(start)
  check.deal({ seed })
  check.deal({ episode })
  if (from !== null && (from < 0 || model.ending[from])) {
    lose(`The episode by hand began in ${start}, which is no longer there.`)
    return
  }
  check.begin(from)
  for (const [i, { action, forced }] of moves.entries()) {
    const number = model.actions.indexOf(action)
    const { at, over } = check.store.getState().played!
    const row = number < 0 || over ? -1 : rowOf(model, at, number)
    if (row < 0) {
      lose(`Step ${i + 1} of the episode by hand, ${action}, is no longer possible.`)
      return
    }
    check.act(number, forced === null ? null : model.outcomeStart[row] + forced)
  }
}

/** Knobs that stand elsewhere than in a scene, as sentences: on the shelf a link turns none. */
export function turnedElsewhere(document: EnvironmentDocument, { knobs }: Pick<Scene, 'knobs'>): string[] {
  return knobsOf(document).flatMap(({ name, value }) =>
    Object.hasOwn(knobs, name) && knobs[name] !== value
      ? [
          `The link was made with ${name} at ${significantNumber(knobs[name], 6)}; it is turned to ${significantNumber(value, 6)} now.`,
        ]
      : [],
  )
}

function choosePlan(
  { plan }: Study,
  { unit, held, beside, finished: _f, sweep: _s, done: _d, backups: _b, ...choice }: PlanScene,
): void {
  plan.setUnit(unit)
  if (held) plan.hold(heldFromNames(held))
  plan.choose({ ...choice, source: choice.source as PolicySource })
  plan.setBeside(beside)
}
