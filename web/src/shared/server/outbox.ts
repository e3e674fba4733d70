// Facts on their way: a reading, a sweep, a standing, an edition. Each gets its key with
// its content, lies in the browser before it is sent, and is sent until the server has
// acknowledged it: once and only once, over reloads, restarts and lost connections. It is
// bound to no screen. What the server refuses, or fails at again and again, is set aside for
// the person to see, mend or discard, and holds nothing else up.
import { openDB, type IDBPDatabase } from 'idb'
import { reactive } from 'vue'
import { askAnew } from './asked'
import { NoAnswer, refusal, Refusal, wordsOf } from './call'
import { newKey } from './key'

/** The line that a fact was typed in, with what was told beside it: what has to be mended goes back there. */
export interface Line {
  kind: string
  box: string
  text: string
  told?: Record<string, string | boolean>
}

export interface Fact {
  /** The key it is written under. */
  id: string
  /** What it is: power, emissions, standing, edition, review, stack, baseline, rule-book. */
  what: string
  /** The review it belongs to; empty for the bench. */
  review: string
  /** What it is called while it waits. */
  label: string
  /** The address is for a key: made when the fact is. */
  path: string
  json?: unknown
  /** A file, or text that is sent as one. */
  file?: Blob | string
  at: number
  line?: Line
  /** The fact that it is about: it goes behind that one, or with it. */
  about?: string
  /** The screen has let go of what was typed: refused, it stays here until a person has seen it. */
  stays?: boolean
}

export interface Waiting extends Fact {
  state: 'sending' | 'waiting' | 'aside'
  why: string
  /** How much of a file has been sent, 0 to 1. */
  sent?: number
  /** It was refused, and would be again as it is; else the server fails at it. */
  refused?: boolean
}

export type Outcome<T> = { ok: true; data: T } | { ok: false; refusal: Refusal }

/** All that is on its way or was set aside, oldest first. */
export const outbox = reactive<{ facts: Waiting[] }>({ facts: [] })

/** What of a review is on its way; what was set aside is not. */
export const underway = (review: string, what?: string) => outbox.facts.filter((f) => f.review === review && f.state !== 'aside' && (what === undefined || f.what === what))

const settled = new Map<string, (o: Outcome<unknown>) => void>()
// A review's facts go in their order, a standing never before its measurement; another
// review's do not wait for them.
const working = new Set<string>()
const failsAtMost = 5 // times that a server fails at a fact before it is set aside

const shelf: Promise<IDBPDatabase | null> = openDB('talloak', 2, {
  upgrade: (db) => {
    if (!db.objectStoreNames.contains('facts')) db.createObjectStore('facts', { keyPath: 'id' })
    if (!db.objectStoreNames.contains('pictures')) db.createObjectStore('pictures')
  },
  blocking: (_old, _new, e) => (e.target as IDBDatabase).close(),
}).catch(() => null)

/** A picture that somebody works at, kept until it is let go. */
export const pictures = {
  get: async (key: string): Promise<unknown> => (await shelf)?.get('pictures', key).catch(() => undefined),
  put: async (key: string, value: unknown) => {
    try {
      const db = await shelf
      await (value === null ? db?.delete('pictures', key) : db?.put('pictures', value, key))
    } catch {
      // A full or closed storage: it is on the screen, but does not outlive the page.
    }
  },
}

// What is small enough is jotted down at once, until the shelf has it: the page may be
// closed in the moment the key is pressed.
const jotted = 'talloak fact '
function jot(f: Fact) {
  try {
    if (!(f.file instanceof Blob)) localStorage.setItem(jotted + f.id, JSON.stringify(plain(f)))
  } catch {
    // As full as the shelf may be.
  }
}
function plain({ id, what, review, label, path, json, file, at, line, about, stays }: Fact): Fact {
  return { id, what, review, label, path, json: json === undefined ? undefined : JSON.parse(JSON.stringify(json)), file, at, line: line && (JSON.parse(JSON.stringify(line)) as Line), about, stays }
}

const shelved = new Map<string, Promise<void>>()
async function store(f: Fact) {
  jot(f)
  try {
    const db = await shelf
    if (!db) return
    await db.put('facts', plain(f))
    localStorage.removeItem(jotted + f.id)
  } catch {
    // A full or closed storage: it is sent all the same, but may not outlive the page.
  }
}
async function drop(id: string) {
  outbox.facts = outbox.facts.filter((f) => f.id !== id)
  localStorage.removeItem(jotted + id)
  shelved.delete(id)
  await (await shelf)?.delete('facts', id)
}

/** Sends a fact under a key of its own, which may be given. It is among what is on its way
 * when this returns; the outcome comes when the server has said it, be that after hours. */
export function send<T>(fact: Omit<Fact, 'id' | 'at' | 'path' | 'json'> & { id?: string; path: string | ((key: string) => string); json?: (key: string) => unknown }): Promise<Outcome<T>> {
  const id = fact.id ?? newKey()
  // In the order they were made, whatever the clock does: two of one moment too.
  const at = Math.max(Date.now(), ...outbox.facts.map((f) => f.at + 0.001))
  const full: Fact = { ...fact, id, at, path: typeof fact.path === 'string' ? fact.path : fact.path(id), json: fact.json?.(id) }
  outbox.facts.push({ ...full, state: 'sending', why: '' })
  shelved.set(id, store(full))
  const outcome = new Promise<Outcome<T>>((done) => settled.set(id, done as (o: Outcome<unknown>) => void))
  work()
  return outcome
}

/** Lets a fact go that was set aside, and what is about it. */
export async function letGo(id: string) {
  for (const f of outbox.facts.filter((o) => o.id === id || o.about === id)) await drop(f.id)
}

/** Sends a fact again that was set aside. */
export function tryAgain(id: string) {
  for (const f of outbox.facts) if (f.id === id) Object.assign(f, { state: 'waiting', why: '', refused: false })
  work()
}

/** Takes up what was left over from before. */
export async function resume() {
  const db = await shelf
  const left = new Map(((await db?.getAll('facts')) as Fact[] | undefined ?? []).map((f) => [f.id, f]))
  for (const key of Object.keys(localStorage).filter((k) => k.startsWith(jotted))) {
    try {
      const f = JSON.parse(localStorage.getItem(key)!) as Fact
      left.set(f.id, f)
    } catch {
      localStorage.removeItem(key)
    }
  }
  const here = new Set(outbox.facts.map((f) => f.id))
  outbox.facts.unshift(...[...left.values()].filter((f) => !here.has(f.id)).sort((a, b) => a.at - b.at).map((f) => ({ ...f, state: 'waiting' as const, why: '' })))
  work()
}

function work() {
  for (const { review } of outbox.facts) void empty(review)
}

async function empty(review: string) {
  if (working.has(review)) return
  working.add(review)
  let tries = 0
  let fails = 0
  try {
    for (;;) {
      const next = outbox.facts.find((f) => f.review === review && f.state !== 'aside' && !outbox.facts.some((o) => o.id === f.about && o.state === 'aside'))
      if (!next) return
      next.state = 'sending'
      try {
        await shelved.get(next.id)
        const data = await post(next)
        tries = fails = 0
        await drop(next.id)
        void askAnew(...(next.review ? ['reviews', next.review] : next.what === 'rule-book' ? ['rule books', 'board', 'ruling', 'states', 'limit'] : ['bench', 'staircase', 'baselines']))
        settle(next.id, { ok: true, data })
      } catch (e) {
        if (e instanceof NoAnswer) {
          next.why = e.words
          if (e.failed && ++fails === failsAtMost) {
            tries = fails = 0
            next.state = 'aside'
            continue
          }
          next.state = 'waiting'
          await new Promise((go) => setTimeout(go, Math.min(4000, 500 * 2 ** tries++)))
          continue
        }
        const why = e instanceof Refusal ? e : new Refusal(0, 'Not sent', wordsOf(e), [])
        tries = fails = 0
        if (next.stays || !settled.has(next.id)) Object.assign(next, { state: 'aside', refused: true, why: why.stale ? why.message : why.words })
        else await drop(next.id) // the screen that made it says why, and still has what was typed
        settle(next.id, { ok: false, refusal: why })
      }
    }
  } finally {
    working.delete(review)
  }
}

function settle(id: string, o: Outcome<unknown>) {
  settled.get(id)?.(o)
  settled.delete(id)
}

/** Sends a fact; how much of a file has gone is told on the way, which fetch cannot. */
function post(f: Waiting): Promise<unknown> {
  return new Promise((done, failed) => {
    const request = new XMLHttpRequest()
    request.open('POST', f.path)
    request.setRequestHeader('Content-Type', f.file === undefined ? 'application/json' : f.file instanceof Blob && f.file.type.startsWith('image/') ? f.file.type : 'text/csv')
    request.upload.onprogress = (e) => { if (f.file && e.lengthComputable) f.sent = e.loaded / e.total }
    request.onerror = request.onabort = () => failed(new NoAnswer())
    request.onload = () => {
      let body: unknown
      try {
        body = JSON.parse(request.responseText)
      } catch {
        return failed(new NoAnswer())
      }
      if (request.status < 200 || request.status >= 300) return failed(refusal(request.status, body))
      done(body)
    }
    request.send(f.file ?? JSON.stringify(f.json))
  })
}
