import { answerChunk } from './play-chunk'

// What Piscina calls in its threads; bundled by scripts/workers.mjs.
export default answerChunk
