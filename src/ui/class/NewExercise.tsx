'use client'

import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { readEnvironment } from '../../session/api/environments'
import { serverExercises } from '../../session/api/classes'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { Select } from '../parts/Select'

/** Begins an exercise with an environment of the shelf. */
export function NewExercise({
  environments,
  busy,
  change,
}: {
  environments: readonly { readonly id: string; readonly name: string }[]
  busy: boolean
  change(run: () => Promise<void>): void
}) {
  const router = useRouter()
  const [chosen, setChosen] = useState(environments.at(0)?.id ?? '')
  if (!environments.length) return null
  return (
    <div className="flex items-end gap-2 border-b border-rule py-3">
      <div className="min-w-0 grow">
        <Select
          label="Environment of a new exercise"
          value={chosen}
          groups={[{ title: 'On the shelf', options: environments.map(({ id, name }) => [id, name]) }]}
          onChange={setChosen}
        />
      </div>
      <Button
        disabled={busy}
        onClick={() =>
          change(async () => {
            const { newExercise } = await import('../../core/exercise/new-exercise')
            const { document } = await readEnvironment(chosen)
            router.push(`/exercise/${(await serverExercises.create(newExercise(document, randomSeed()))).id}`)
          })
        }
      >
        <Icon name="plus" className="size-4" /> New exercise
      </Button>
    </div>
  )
}

function randomSeed(): number {
  return crypto.getRandomValues(new Uint32Array(1))[0]
}
