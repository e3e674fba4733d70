// The one hallway to the server: asked, kept and outbox. No component talks to the API
// but through it.
import type { components } from './schema.gen'

export { askAnew, questions, useAsked, type Asked } from './asked'
export { api, ask, NoAnswer, Refusal, refusal, wordsOf, type FieldProblem } from './call'
export { newKey } from './key'
export { forgetKept, keep, resumeKept, type Kept, type Sort } from './kept'
export { listen } from './live'
export { copy, same, type Tree } from './merge'
export { letGo, outbox, pictures, resume, send, tryAgain, underway, type Line, type Outcome, type Waiting } from './outbox'

export type Schemas = components['schemas']
export type Review = Schemas['ReviewView']
export type Cell = Schemas['NamedCell']
export type Reading = Schemas['PowerReading']
export type Emissions = Schemas['EmissionsRuling']
export type Board = Schemas['BoardBoard']
export type BoardCell = Schemas['BoardCell']
export type Box = Schemas['MeasureBox']
export type Product = Schemas['JudgeProduct']
export type Staircase = Schemas['WiringStaircase']
export type Bench = Schemas['BenchView']
export type Mode = '' | 'FM' | 'AM' | 'SSB' | 'CW' | 'DIGITAL'

/** What is keyed: a band at a level, in a mode, on a frequency. */
export interface Keyed {
  band: string
  level: string
  mode: Mode
  frequency_hz: number
}
