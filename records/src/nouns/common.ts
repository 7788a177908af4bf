import { z } from 'zod';
import { custom } from '../refusal.js';

/** Names an article; made by the server unless a file brings its own. */
export const Id = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9_.-]{0,63}$/, 'An id is up to 64 letters, figures, dots and dashes.');

/** What every stored record carries. */
export const Stored = { id: Id, version: z.int32().min(1).default(1) };

/** Neither a database nor a file can hold these: a NUL, half of a pair of code units. */
const UNSTORABLE = /\u0000|\p{Surrogate}/u;
const storable = (text: string) => !UNSTORABLE.test(text);
const CANNOT = 'This holds a character that cannot be stored: type it again.';

export const Name = z
  .string()
  .trim()
  .min(1, 'Give it a name.')
  .max(120, 'Keep the name under 120 letters.')
  .refine(storable, CANNOT);
export const Note = z.string().max(10_000, 'Keep the note under 10,000 letters.').refine(storable, CANNOT).default('');
export const Short = z.string().trim().max(200, 'Keep this under 200 letters.').refine(storable, CANNOT).default('');
/** A day a calendar and the database both know: the year zero is none. */
export const Day = z.iso.date('Write the date as 2026-05-31.').refine((text) => text >= '1000', custom('yearOfDay'));
export const DateText = Day.nullable().default(null);
/** What is owed and will not be done, by its key, with the reason. */
export const Excused = z
  .record(z.string().max(120), z.string().trim().min(1, 'Say why this is excused.').max(200))
  .default({});
export const SideName = z.enum(['intake', 'exhaust']);
