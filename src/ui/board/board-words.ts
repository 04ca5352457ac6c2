import { useCallback } from 'react'
import type { BoardWords } from './board-canvas'
import { useTitle } from '../pictures/picture-shelf'
import { pictureScale, ringScale } from './scales'
import type { Layer } from '../../session/study/names'
import type { Overlay } from './overlay'

/** The name and the legends that a board takes along as a file. */
export function useBoardWords(
  { overlay, layers }: { overlay?: Overlay; layers?: ReadonlySet<Layer> },
  actions?: readonly string[],
): () => BoardWords {
  const title = useTitle()
  return useCallback(() => {
    const scale = pictureScale({ overlay, layers })
    const rings = overlay?.preferences ? ringScale({ overlay, layers }) : undefined
    return {
      title,
      legends: [
        ...(scale
          ? [{ title: layers!.has('values') ? (overlay!.title ?? 'value') : 'action values', scale }]
          : []),
        ...(rings ? [{ title: 'preferences', scale: rings }] : []),
        ...(actions && overlay?.policy && layers?.has('policy') ? [{ title: 'policy', actions }] : []),
      ],
    }
  }, [overlay, layers, actions, title])
}
