import { createStore, type StoreApi } from 'zustand'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { documentOfView } from '../../core/lesson/lesson'
import type { LessonView } from '../../core/lesson/lesson-document'
import { wireStudy } from '../study/open-study'
import type { Study } from '../study/study'
import { openSandbox } from './sandbox'
import { showScene } from './show-scene'

/** A view of a lesson in a study of its own, which comes to what its scene says as long as somebody holds it. */
export interface OpenedView {
  readonly parts: Study
  /** What no longer fits, in full sentences. */
  readonly lost: StoreApi<readonly string[]>
  /** @returns lets go of it */
  hold(): () => void
}

/**
 * @param lesson  its number
 * @param document  the environment that is shown: as it is now, or as it was
 * @param openStudy  makes the study
 */
export function openView(
  lesson: string,
  { scene, environment }: LessonView,
  document: EnvironmentDocument,
  openStudy: typeof openSandbox = openSandbox,
): OpenedView {
  const now = documentOfView(scene, document)
  const parts = openStudy(`lesson ${lesson} ${environment}`, now.document, scene)
  const lost = createStore<readonly string[]>()(() =>
    now.lost.map((name) => `The knob ${name} is gone, or does not go so far any more.`),
  )
  const start = () => {
    const unwire = wireStudy(parts)
    const { stop } = showScene(parts, scene, (words) =>
      lost.setState([...new Set([...lost.getState(), words])], true),
    )
    // The one comparison that is there.
    if (scene.compare)
      void parts.compare.open('1').then(() => {
        if (holders > 0) void parts.compare.start(parts.study.getState().document)
      })
    return () => {
      stop()
      unwire()
    }
  }
  let holders = 0
  let stop = () => {}
  return {
    parts,
    lost,
    hold() {
      if (holders++ === 0) stop = start()
      let held = true
      return () => {
        if (!held) return
        held = false
        if (--holders === 0) stop()
      }
    },
  }
}

/** A view that was opened before it is shown. */
interface Ready {
  readonly view: LessonView
  readonly document: EnvironmentDocument
  readonly opened: OpenedView
}

/** The view that comes next, opened while the one before is shown: what it computes is there when it is turned to. */
export class NextView {
  private ready: Ready | null = null

  constructor(private readonly open: (view: LessonView, document: EnvironmentDocument) => OpenedView) {}

  /** Opens it now. @returns lets go of it, a little later: whoever shows it holds it by then */
  prepare(view: LessonView, document: EnvironmentDocument): () => void {
    const ready = { view, document, opened: this.open(view, document) }
    this.ready = ready
    const letGo = ready.opened.hold()
    return () =>
      void setTimeout(() => {
        letGo()
        if (this.ready === ready) this.ready = null
      }, GRACE)
  }

  /** The view as it was prepared, once; else it is opened. */
  take(view: LessonView, document: EnvironmentDocument): OpenedView {
    const { ready } = this
    if (ready?.view !== view || ready.document !== document) return this.open(view, document)
    this.ready = null
    return ready.opened
  }
}

/** Time from when a view is turned to until it is shown, at the most, in milliseconds. */
const GRACE = 2000
