// One question to the server and its answer, or why there is none.
import createClient from 'openapi-fetch'
import type { paths } from './schema.gen'

export interface FieldProblem {
  field: string
  detail: string
}

/** What the server refused, with the fields that were wrong. Nothing of it was written. */
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
    return this.fields[0]?.detail || this.message
  }
  /** It was about something that has changed since. */
  get stale(): boolean {
    return this.status === 409
  }
}

/** The server did not answer, or not in its right mind: what was sent may have been written or not. */
export class NoAnswer extends Error {
  constructor(
    detail = 'The server does not answer. What you typed is kept here, and is sent until it does.',
    /** It is what was sent that the server fails at, not its being away. */
    readonly failed = false,
  ) {
    super(detail)
  }
  get words(): string {
    return this.message
  }
}

export const api = createClient<paths>({ baseUrl: '/' })

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** Gives the data of an answer, or throws its Refusal or NoAnswer. */
export async function ask<T>(answer: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>
  try {
    got = await answer
  } catch {
    throw new NoAnswer()
  }
  if (!got.response.ok) throw refusal(got.response.status, got.error)
  return got.data as T
}

export function refusal(status: number, body: unknown): Refusal | NoAnswer {
  const p = (body && typeof body === 'object' ? body : {}) as { title?: string; detail?: string; errors?: FieldProblem[] }
  if (status === 401) return new NoAnswer('Log in again at this address, in another tab: what you typed is kept here, and is sent then.')
  if (status >= 500) return new NoAnswer(p.detail, ![502, 503, 504].includes(status))
  return new Refusal(status, p.title ?? 'Refused', p.detail ?? 'The server refused this without saying why.', p.errors ?? [])
}

/** What to say of anything that went wrong; never nothing. */
export function wordsOf(e: unknown): string {
  if (e instanceof Refusal || e instanceof NoAnswer) return e.words
  return e instanceof Error && e.message ? e.message : 'Something went wrong in this page.'
}
