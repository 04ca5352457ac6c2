import Joi from 'joi'

/** Something that is covered, in terms that hold on every screen. What is under it is not told. */
export type Covered =
  /** What lies on the board at a point: shares of its width and height. */
  | { readonly on: 'board'; readonly across: number; readonly down: number }
  /** A part of the board: shares of its width and height. */
  | {
      readonly on: 'part'
      readonly left: number
      readonly top: number
      readonly width: number
      readonly height: number
    }
  /** A number in a table, by the heads of its row and column; the whole row where there is no column. */
  | { readonly on: 'table'; readonly row: string; readonly column: string | null }

const share = Joi.number().min(-1).max(2).required()
const head = Joi.string().allow('').max(200)
const schemas = {
  board: { on: Joi.valid('board').required(), across: share, down: share },
  part: { on: Joi.valid('part').required(), left: share, top: share, width: share, height: share },
  table: { on: Joi.valid('table').required(), row: head.required(), column: head.allow(null).required() },
} satisfies Record<Covered['on'], object>

/** Covers of one view at the most. */
const MOST = 100

export const coversSchema = Joi.array()
  .items(...Object.values(schemas).map((each) => Joi.object(each)))
  .max(MOST)
