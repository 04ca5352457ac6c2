import type { Metadata } from 'next'
import { database } from '../../server/db/database'
import { listClasses } from '../../server/repositories/classes'
import { listExercises } from '../../server/repositories/exercises'
import { listEnvironments } from '../../server/repositories/shelf-list'
import { ClassesPage } from '../../ui/class/ClassesPage'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Classes' }

/** Environments that an exercise can begin with. */
const OFFERED = 500

export default async function Classes() {
  const db = await database()
  const [classes, exercises, environments] = await Promise.all([
    listClasses(db),
    listExercises(db),
    listEnvironments(db, { find: '', limit: OFFERED }),
  ])
  const offered = environments.flatMap(({ id, name, damage }) => (damage === null ? [{ id, name }] : []))
  return <ClassesPage classes={classes} exercises={exercises} environments={offered} />
}
