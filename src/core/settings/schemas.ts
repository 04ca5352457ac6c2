import Joi from 'joi'
import { EXPLORATION_WAYS, EXPLORATIONS } from '../learn/explore/explorations'
import { numberSchema } from './number-schema'
import { scheduleSchema } from './schedule-schema'
import type { KindNumber, OwnSetting, Setting } from './setting'
import { RATE_RANGE, setting, type OwnSettingName, type SettingName } from './settings'

/** What the settings may be that have a form of their own. */
const OWN_SCHEMAS: Readonly<Record<OwnSettingName, Joi.Schema>> = {
  learningRate: scheduleSchema(RATE_RANGE, true),
  criticRate: scheduleSchema(RATE_RANGE, true),
  exploration: Joi.alternatives(
    ...EXPLORATION_WAYS.map((way) =>
      Joi.object({
        way: Joi.valid(way).required(),
        level: scheduleSchema(EXPLORATIONS[way].range, false).required(),
      }),
    ),
  ).messages({
    'alternatives.match': `{{#label}} needs a way (${EXPLORATION_WAYS.join(' or ')}) and a level, which is a schedule`,
  }),
}

/** What a setting may be in a link, a file or a document. */
export function schemaOf(name: SettingName): Joi.Schema {
  const entry = setting(name)
  return entry.type === 'own' ? OWN_SCHEMAS[name as OwnSettingName] : entrySchema(entry)
}

/** What the value of an entry may be. */
function entrySchema(entry: Exclude<Setting, OwnSetting>): Joi.Schema {
  switch (entry.type) {
    case 'number':
      return numberSchema(entry)
    case 'choice':
      return Joi.string().valid(...Object.keys(entry.options))
    case 'kind':
      return Joi.alternatives(
        ...Object.entries(entry.kinds).map(([kind, { numbers }]) =>
          Joi.object({
            kind: Joi.valid(kind).required(),
            ...Object.fromEntries(
              Object.entries<KindNumber>(numbers).map(([key, range]) => [
                key,
                numberSchema(range).required(),
              ]),
            ),
          }),
        ),
      )
  }
}

/** What the flag of a setting may be followed by. */
export function flagSchema(entry: Setting): Joi.Schema {
  return entry.type === 'own' ? numberSchema(entry.fromFlag!.range) : entrySchema(entry)
}
