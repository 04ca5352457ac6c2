import type { RulebookEnvironment } from '../../../core/kinds/rulebook/kind'
import { DependencePicture } from './DependencePicture'

/** What depends on what, on paper. */
export function PrintedDependence({ document }: { document: RulebookEnvironment }) {
  return (
    <section className="printed-view">
      <h2 className="font-title text-[21px] font-semibold">What depends on what</h2>
      <div className="mt-3 break-inside-avoid">
        <DependencePicture text={document.rulebook.text} onPick={null} />
      </div>
    </section>
  )
}
