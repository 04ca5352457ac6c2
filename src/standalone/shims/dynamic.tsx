import { lazy, Suspense, type ComponentType, type ReactNode } from 'react'

/** What `next/dynamic` does, for a page without a server: parts are in the page, and made when they are first shown. */
export default function dynamic<P extends object>(
  load: () => Promise<ComponentType<P>>,
  { loading: Loading }: { loading: () => ReactNode },
): ComponentType<P> {
  const Part = lazy(async () => ({ default: await load() }))
  return function Loaded(props: P) {
    return (
      <Suspense fallback={<Loading />}>
        <Part {...props} />
      </Suspense>
    )
  }
}
