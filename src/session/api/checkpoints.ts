import type { Checkpoint } from '../../core/learn/checkpoint'
import type { CheckpointSummary } from '../../server/contract/checkpoints'
import { send } from './send'

const ROOT = '/api/checkpoints'

export async function listCheckpoints(): Promise<CheckpointSummary[]> {
  return (await send(ROOT)).json()
}

export async function keepCheckpoint(
  environment: string,
  checkpoint: Checkpoint,
): Promise<CheckpointSummary> {
  const body = JSON.stringify(checkpoint)
  return (await send(`/api/environments/${environment}/checkpoints`, { method: 'POST', body })).json()
}

export async function readCheckpointOf(id: string): Promise<Checkpoint> {
  const answer = await send(`${ROOT}/${id}`)
  // What checks tables is loaded when it is needed.
  const { checkCheckpoint } = await import('../../core/learn/read-checkpoint')
  return checkCheckpoint(await answer.json())
}

export async function deleteCheckpoint(id: string): Promise<void> {
  await send(`${ROOT}/${id}`, { method: 'DELETE' })
}
