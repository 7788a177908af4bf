import { CORRECTIONS } from '@alluvium/core';
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { DateText, Id, Name, Note, Stored } from './common.js';

/** Where power was taken: at the crank or at the wheels. The two are never converted into one another. */
export const DYNOS = ['engine dyno', 'chassis dyno'] as const;

/** One row of a pull: what was read at a speed. */
export const PullRow = z.object({
  speed: quantitySchema('rotation', { min: 1, max: 500, sentence: 'An engine speed lies between 60 and 30,000 rpm.' }),
  power: quantitySchema('power', { min: 1, max: 2e7, sentence: 'This is no power an engine makes.' })
    .nullable()
    .default(null),
  torque: quantitySchema('torque', { min: 0.01, max: 1e5, sentence: 'This is no torque an engine makes.' })
    .nullable()
    .default(null),
});

/** A pull on the dyno: what was on the engine, the air of the day, and what was read. */
export const Pull = z.object({
  ...Stored,
  buildId: Id,
  /** The head as it was on the engine, where it is one of ours. */
  stageId: Id.nullable().default(null),
  title: Name,
  date: DateText,
  dyno: z.enum(DYNOS).default('engine dyno'),
  /** What its figures are; null where nobody said. */
  correction: z.enum(CORRECTIONS).nullable().default(null),
  pressure: quantitySchema('pressure', {
    min: 5e4,
    max: 1.1e5,
    sentence: 'A barometer stands between 500 and 1,100 mbar (14.8 and 32.5 inHg).',
  })
    .nullable()
    .default(null),
  temperature: quantitySchema('temperature', {
    min: 233,
    max: 333,
    sentence: 'The air of a dyno cell lies between −40 and 60 °C.',
  })
    .nullable()
    .default(null),
  humidity: quantitySchema('percent', { min: 0, max: 1, sentence: 'Relative humidity lies between 0 and 100 %.' })
    .nullable()
    .default(null),
  rows: z.array(PullRow).min(1, 'A pull has at least one row.').max(2000, 'Keep a pull under 2,000 rows.'),
  note: Note,
});
export type Pull = z.infer<typeof Pull>;
