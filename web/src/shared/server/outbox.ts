// Facts on their way: a reading, a sweep, a standing, an edition. Each gets its key with
// its content, lies in the browser before it is sent, and is sent until the server has
// acknowledged it: once and only once, over reloads, restarts and lost connections. It is
// bound to no screen.
import { openDB, type IDBPDatabase } from 'idb'
import { reactive } from 'vue'
import { askAnew } from './asked'
import { NoAnswer, refusal, Refusal, wordsOf } from './call'
import { newKey } from './key'

export interface Fact {
  /** The key it is written under. */
  id: string
  /** What it is: power, emissions, standing, edition, review, stack, baseline, rule-book. */
  what: string
  /** The review it belongs to; empty for the bench. */
  review: string
  /** What it is called while it waits. */
  label: string
  path: string
  json?: unknown
  file?: Blob
  /** The address is for a key: made when the fact is. */
  at: number
}

export interface Waiting extends Fact {
  state: 'sending' | 'waiting' | 'refused'
  why: string
  /** How much of a file has been sent, 0 to 1. */
  sent?: number
}

export type Outcome<T> = { ok: true; data: T } | { ok: false; refusal: Refusal }

/** All that is on its way or was refused while nobody looked, oldest first. */
export const outbox = reactive<{ facts: Waiting[] }>({ facts: [] })

const settled = new Map<string, (o: Outcome<unknown>) => void>()
// A review's facts go in their order, a standing never before its measurement; another
// review's do not wait for them.
const working = new Set<string>()

const shelf: Promise<IDBPDatabase | null> = openDB('talloak', 1, { upgrade: (db) => void db.createObjectStore('facts', { keyPath: 'id' }) }).catch(() => null)

async function store(f: Fact) {
  const db = await shelf
  const { id, what, review, label, path, json, file, at } = f
  const plain = { id, what, review, label, path, json: json === undefined ? undefined : JSON.parse(JSON.stringify(json)), file, at }
  try {
    await db?.put('facts', plain)
  } catch {
    // A full or closed storage: it is sent all the same, but does not outlive the page.
  }
}
async function drop(id: string) {
  outbox.facts = outbox.facts.filter((f) => f.id !== id)
  await (await shelf)?.delete('facts', id)
}

/** Sends a fact under a key of its own. The outcome comes when the server has said it, be
 * that after hours; the fact is safe before. */
export async function send<T>(fact: Omit<Fact, 'id' | 'at' | 'path' | 'json'> & { path: string | ((key: string) => string); json?: (key: string) => unknown }): Promise<Outcome<T>> {
  const id = newKey()
  const full: Fact = { ...fact, id, at: Date.now(), path: typeof fact.path === 'string' ? fact.path : fact.path(id), json: fact.json?.(id) }
  await store(full)
  outbox.facts.push({ ...full, state: 'sending', why: '' })
  const outcome = new Promise<Outcome<T>>((done) => settled.set(id, done as (o: Outcome<unknown>) => void))
  work()
  return outcome
}

/** Lets a refused fact go. */
export const letGo = (id: string) => drop(id)

/** Takes up what was left over from before. */
export async function resume() {
  const db = await shelf
  const left = ((await db?.getAll('facts')) ?? []) as Fact[]
  const here = new Set(outbox.facts.map((f) => f.id))
  outbox.facts.unshift(...left.filter((f) => !here.has(f.id)).sort((a, b) => a.at - b.at).map((f) => ({ ...f, state: 'waiting' as const, why: '' })))
  work()
}

function work() {
  for (const { review } of outbox.facts) void empty(review)
}

async function empty(review: string) {
  if (working.has(review)) return
  working.add(review)
  let tries = 0
  try {
    for (;;) {
      const next = outbox.facts.find((f) => f.review === review && f.state !== 'refused')
      if (!next) return
      next.state = 'sending'
      try {
        const data = await post(next)
        tries = 0
        await drop(next.id)
        void askAnew(...(next.review ? ['reviews', next.review] : next.what === 'rule-book' ? ['rule books', 'board', 'ruling', 'states', 'limit'] : ['bench', 'staircase', 'baselines']))
        settle(next.id, { ok: true, data })
      } catch (e) {
        if (e instanceof NoAnswer) {
          next.state = 'waiting'
          next.why = e.words
          await new Promise((go) => setTimeout(go, Math.min(4000, 500 * 2 ** tries++)))
          continue
        }
        const why = e instanceof Refusal ? e : new Refusal(0, 'Not sent', wordsOf(e), [])
        tries = 0
        if (settled.has(next.id)) {
          // The screen that made it says why, and still has what was typed.
          await drop(next.id)
          settle(next.id, { ok: false, refusal: why })
        } else {
          next.state = 'refused'
          next.why = why.words
        }
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
    request.setRequestHeader('Content-Type', f.file ? (f.file.type.startsWith('image/') ? f.file.type : 'text/csv') : 'application/json')
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
