import type { Comparison } from '../../core/compare/comparison'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { JobChange, JobList, JobResults } from '../../server/contract/jobs'
import { send } from './send'

const ROOT = '/api/jobs'

/** The jobs of the server; tests bring their own. */
export interface JobServer {
  list(): Promise<JobList>
  /** @returns the id of the job */
  submit(environment: string, comparison: Comparison, document: EnvironmentDocument): Promise<string>
  change(id: string, change: JobChange): Promise<void>
  remove(id: string): Promise<void>
  results(id: string, after: number): Promise<JobResults>
}

export const jobServer: JobServer = {
  list: async () => (await send(ROOT)).json(),
  async submit(environment, comparison, document) {
    const body = JSON.stringify({ ...comparison, environment: document })
    const answer = await send(`/api/environments/${environment}/jobs`, { method: 'POST', body })
    return ((await answer.json()) as { id: string }).id
  },
  async change(id, change) {
    await send(`${ROOT}/${id}`, { method: 'PATCH', body: JSON.stringify(change) })
  },
  async remove(id) {
    await send(`${ROOT}/${id}`, { method: 'DELETE' })
  },
  results: async (id, after) => (await send(`${ROOT}/${id}/results?after=${after}`)).json(),
}
