import { expect, it } from 'vitest'
import { DiagnoseHost } from '../../hosts/diagnose-host'
import { holds, inProcess } from '../../hosts/testing/in-process'
import { firstChoice } from '../../core/settings/first-choice'
import { gridDocument } from '../../core/testing/models'
import { createDiagnosisSession } from './diagnosis-session'

const DOCUMENT = gridDocument(
  ['......'],
  {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'F1', reward: 10, name: '' }],
    stepReward: 0,
  },
  3,
)
const ASK = { document: DOCUMENT, choice: { ...firstChoice(DOCUMENT), episodes: 50 } }

it('tells what is wrong with a run, and forgets it when the run is another one', async () => {
  const session = createDiagnosisSession(inProcess(DiagnoseHost.create))
  session.setOthers(2)
  session.start(ASK)
  expect(session.store.getState().progress).not.toBeNull()
  const { report, ask } = await holds(session.store, (state) => state.report !== null)
  expect(report!.findings[0].rule).toBe('cap')
  expect(report!.runs).toBe(2)
  expect(ask).toMatchObject({ runs: 2 })
  session.point(0)
  expect(session.store.getState().pointed).toBe(0)
  session.clear()
  expect(session.store.getState()).toMatchObject({ report: null, ask: null, pointed: null, others: 2 })
})

it('drops what comes after it was stopped, and tells what fails', async () => {
  const session = createDiagnosisSession(inProcess(DiagnoseHost.create))
  session.start(ASK)
  session.stop()
  expect(session.store.getState()).toMatchObject({ report: null, progress: null })
  session.start({ ...ASK, choice: { ...ASK.choice, method: 'td-lambda' } })
  const { failure } = await holds(session.store, (state) => state.failure !== null)
  expect(failure).toContain('looks for no policy')
})
