import type { KindCover } from '../cover'

export const banditCover: KindCover = { what: 'arms that pay', Dialog: null }
