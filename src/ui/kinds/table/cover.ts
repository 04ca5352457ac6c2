import type { KindCover } from '../cover'

export const tableCover: KindCover = { what: 'transitions in a sheet', Dialog: null }
