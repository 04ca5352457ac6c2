import type { Scene } from '../../core/lesson/scene'

/** The part of an address that names what was on the screen. */
export const LINK = 'view'

/** What an address asks for: a scene, or what is wrong with it. */
export type LinkedScene = { readonly scene: Scene } | { readonly problem: string }
