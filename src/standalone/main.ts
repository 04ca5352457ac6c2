import { startWorker } from './workers'

declare global {
  interface Window {
    /** The text of this script, as the page unpacked it. */
    handOutScript: string
  }
}

// Page and workers are one script, so that what both need is in the file once. A worker runs nothing of the page: the bundler
// leaves what is imported here unrun until it is asked for.
if (typeof document === 'undefined') startWorker()
else void import('./page').then(({ showLesson }) => showLesson(window.handOutScript))
