import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type {
  EnvironmentRecord,
  EnvironmentSummary,
  SaveReceipt,
  VersionRecord,
  VersionSummary,
} from '../../server/contract/environments'
import { put, send } from './send'

const ROOT = '/api/environments'

export async function listEnvironments(): Promise<EnvironmentSummary[]> {
  return (await send(ROOT)).json()
}

/** @param text a document or a transition list; @param name what to call a list */
export async function createEnvironment(text: string, name = ''): Promise<EnvironmentRecord> {
  return (await send(`${ROOT}?name=${encodeURIComponent(name)}`, { method: 'POST', body: text })).json()
}

export async function saveEnvironment(
  id: string,
  revision: number,
  document: EnvironmentDocument,
): Promise<SaveReceipt> {
  return (await put(`${ROOT}/${id}`, { revision, document })).json()
}

export async function renameEnvironment(id: string, name: string): Promise<void> {
  await send(`${ROOT}/${id}`, { method: 'PATCH', body: JSON.stringify({ name }) })
}

export async function duplicateEnvironment(id: string): Promise<EnvironmentRecord> {
  return (await send(`${ROOT}/${id}/duplicate`, { method: 'POST' })).json()
}

export async function createVariant(id: string, name: string): Promise<EnvironmentRecord> {
  return (await send(`${ROOT}/${id}/variant`, { method: 'POST', body: JSON.stringify({ name }) })).json()
}

/** A small picture, as SVG. @param revision  the state that is to be shown */
export async function readPicture(id: string, revision: number): Promise<string> {
  return (await send(`${ROOT}/${id}/picture?revision=${revision}`)).text()
}

/** What the server has of an environment, to the letter, also where it cannot be read. */
export async function readText(id: string): Promise<string> {
  return (await send(`${ROOT}/${id}/text`)).text()
}

export async function listVersions(id: string): Promise<VersionSummary[]> {
  return (await send(`${ROOT}/${id}/versions`)).json()
}

export async function keepVersion(id: string, name: string): Promise<VersionSummary> {
  return (await send(`${ROOT}/${id}/versions`, { method: 'POST', body: JSON.stringify({ name }) })).json()
}

export async function readVersion(id: string, version: string): Promise<VersionRecord> {
  return (await send(`${ROOT}/${id}/versions/${version}`)).json()
}

export async function deleteEnvironment(id: string): Promise<void> {
  await send(`${ROOT}/${id}`, { method: 'DELETE' })
}

export async function restoreEnvironment(id: string): Promise<void> {
  await send(`${ROOT}/${id}/restore`, { method: 'POST' })
}

export async function readEnvironment(id: string): Promise<EnvironmentRecord> {
  return (await send(`${ROOT}/${id}`)).json()
}

/** @throws ProblemError with what the server found wrong, or that it cannot be reached */
