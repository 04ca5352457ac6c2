'use client'

import { useRouter } from 'next/navigation'
import { createEnvironment, restoreEnvironment } from '../../session/api/environments'
import { Button } from '../parts/Button'
import { useParts, useStudy } from './study-context'

/** Says when the document could not be saved, and offers the ways out. */
export function SaveNotice() {
  const router = useRouter()
  const { study } = useParts()
  const saving = useStudy((state) => state.saving)
  if (saving.state !== 'failed' && saving.state !== 'stale' && saving.state !== 'gone') return null
  const keepCopy = async () => {
    const { document } = study.getState()
    const name = `${document.name.slice(0, 110)} (mine)`
    const copy = await createEnvironment(JSON.stringify({ ...document, name }))
    router.push(`/environment/${copy.id}/build`)
  }
  const bringBack = async () => {
    await restoreEnvironment(study.getState().id)
    await study.getState().resume()
  }
  return (
    <div role="alert" className="flex items-center gap-3 border-b border-alert bg-alert/10 px-4 py-1.5">
      <span className="flex-1">
        {saving.state === 'gone' ? 'It was deleted elsewhere, and lies in the bin.' : saving.message}
      </span>
      {saving.state === 'failed' ? (
        <Button onClick={() => void study.getState().save()}>Try again</Button>
      ) : (
        <>
          {saving.state === 'gone' ? (
            <Button onClick={() => void bringBack()}>Bring it back</Button>
          ) : (
            <Button onClick={() => window.location.reload()}>Reload</Button>
          )}
          <Button onClick={() => void keepCopy()}>Keep mine as a copy</Button>
        </>
      )}
    </div>
  )
}
