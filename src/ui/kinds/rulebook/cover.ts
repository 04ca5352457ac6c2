import type { KindCover } from '../cover'

export const rulebookCover: KindCover = { what: 'rules to write', Dialog: null }
