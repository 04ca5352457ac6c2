import { PageHeader } from '../parts/PageHeader'
import { JoinForm } from './JoinForm'

/** Where the code of a class on the projector leads to. */
export function JoinPage({ code }: { code: string }) {
  return (
    <div className="min-h-dvh">
      <PageHeader title="Enter your class" back={null}>
        Your instructor shows the code.
      </PageHeader>
      <main className="max-w-md px-4 pt-8 pb-16 sm:px-8">
        <JoinForm code={code} />
      </main>
    </div>
  )
}
