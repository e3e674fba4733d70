import createClient from 'openapi-fetch'
import type { components, paths } from './schema.gen'

export type Schemas = components['schemas']
export type Review = Schemas['ReviewView']
export type Reading = Schemas['DossierReading']
export type Emissions = Schemas['DossierEmissions']
export type Board = Schemas['DossierBoard']
export type BoardCell = Schemas['DossierBoardCell']
export type Product = Schemas['JudgeProduct']
export type Cell = Schemas['ClaimsCell']
export type Staircase = Schemas['DossierStaircase']
export type Bench = Schemas['BenchView']
export type Verdict = 'pass' | 'fail' | 'inconclusive' | 'not-covered' | 'no-limit' | 'void'

export interface FieldProblem {
  field: string
  detail: string
}

/** What the server refused, with the fields that were wrong. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly fields: FieldProblem[],
  ) {
    super(detail)
  }

  /** The first field's words, which say more than the summary. */
  get words(): string {
    return this.fields[0]?.detail ?? this.message
  }
}

export const api = createClient<paths>({ baseUrl: '/' })

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** Gives the data of an answer, or throws its Refusal. */
export async function ask<T>(answer: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>
  try {
    got = await answer
  } catch {
    throw new Refusal(0, 'No answer', 'The server does not answer. Is it running? What you typed is still here.', [])
  }
  if (got.error !== undefined || got.data === undefined) throw refusal(got.response.status, got.error)
  return got.data
}

export function refusal(status: number, body: unknown): Refusal {
  const p = (body ?? {}) as { title?: string; detail?: string; errors?: FieldProblem[] }
  return new Refusal(status, p.title ?? 'Refused', p.detail ?? 'The server refused this without saying why.', p.errors ?? [])
}

/** Loads a sweep: the CSV goes as it is, so that 64 MiB need no copy in JSON. */
export async function sendSweep(reviewId: string, query: Record<string, string>, file: Blob): Promise<Emissions> {
  const response = await fetch(`/api/v1/reviews/${reviewId}/sweeps?${new URLSearchParams(query)}`, {
    method: 'POST',
    headers: { 'Content-Type': 'text/csv' },
    body: file,
  })
  const body = await response.json()
  if (!response.ok) throw refusal(response.status, body)
  return body as Emissions
}

/** A key for a write, made here so that sending it twice writes once. */
export const newKey = () => crypto.randomUUID()
