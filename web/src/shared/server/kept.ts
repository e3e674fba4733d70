// What is typed and saved by itself. It is bound to one record and its version, and to no
// screen: closing one, or the whole page, loses nothing, since what is not saved yet lies
// in the browser. What was typed since is never overwritten by an answer; one write goes
// at a time; a write that found a newer version is put together with it field by field.
import { reactive } from 'vue'
import { NoAnswer, Refusal, wordsOf, type FieldProblem } from './call'
import { copy, merge, put, same, written, type Clash, type Tree } from './merge'

export type KeptState = 'kept' | 'keeping' | 'waiting' | 'refused' | 'clashing'

interface Version<T> {
  version: number
  content: T
}

/** How records of a sort are read and written. */
export interface Sort<T extends Tree> {
  what: 'review' | 'kit' | 'path'
  read: (id: string) => Promise<Version<T>>
  write: (id: string, version: number, content: T) => Promise<Version<T>>
}

export interface Kept<T extends Tree> {
  readonly id: string
  /** What the person sees: what is kept, with what was typed since. */
  now: T
  /** Fields as they are typed, until they are left; those that cannot be read stay until they can. */
  texts: Record<string, string>
  unread: Record<string, true>
  state: KeptState
  /** What is wrong as a whole; empty where nothing is. */
  trouble: string
  problems: FieldProblem[]
  clashes: Clash[]
  /** Changes what is typed; it is saved shortly after. */
  change: (next: T) => void
  /** Holds the text of a field while it is typed, and as long as it cannot be read; null lets it go. */
  hold: (field: string, text: string | null, readable?: boolean) => void
  /** Settles a clash: mine stands, or theirs. */
  settle: (field: string, whose: 'mine' | 'theirs') => void
  /** Saves what is typed without waiting for more. */
  flush: () => Promise<void>
}

const all = new Map<string, { refresh: () => void }>()
const delay = 300
const patience = [1000, 2000, 4000]

/** Reads again what another window has written. */
export function refreshKept(what?: string, id?: string) {
  for (const [name, k] of all) if (what === undefined || name === `${what} ${id}`) k.refresh()
}

/** The one place where a record is typed, whoever asks for it. */
export function keep<T extends Tree>(sort: Sort<T>, id: string, first?: Version<T>): Kept<T> {
  const name = `${sort.what} ${id}`
  const known = all.get(name) as Kept<T> | undefined
  if (known) return known

  const storage = `talloak kept ${name}`
  let version = first?.version ?? 0
  let base: T = copy(first?.content ?? ({} as T))
  let sent: T[] = [] // of writes whose answers were lost: any of them may have been written
  let timer: ReturnType<typeof setTimeout> | undefined
  let writing: Promise<void> | null = null
  let tries = 0

  function stash() {
    try {
      const texts = Object.fromEntries(Object.entries(k.texts).filter(([f]) => k.unread[f]))
      if (same(base, k.now) && Object.keys(texts).length === 0) localStorage.removeItem(storage)
      else localStorage.setItem(storage, JSON.stringify({ version, base, now: k.now, texts, sent }))
    } catch {
      // A full or closed storage: what is typed is still on the screen, and is saved.
    }
  }

  /** Something is typed that can be written. */
  const open = () => k.clashes.length === 0 && !same(base, k.now)

  function told() {
    if (k.clashes.length) k.state = 'clashing'
    else if (k.problems.length || k.trouble || Object.keys(k.unread).length) k.state = k.state === 'waiting' ? 'waiting' : 'refused'
    else k.state = same(base, k.now) ? 'kept' : 'keeping'
  }

  /** Puts what the server has under what was typed since. */
  function take(theirs: Version<T>, before: T) {
    // What came back may be what was sent before its answer was lost: what was typed since
    // was typed over that, and it is no clash with oneself.
    const own = sent.findLast((s) => written(before, s, theirs.content))
    const clashes: Clash[] = []
    const mine = merge(own ?? before, k.now, theirs.content, clashes) as T
    k.clashes = clashes
    version = theirs.version
    base = copy(theirs.content)
    k.now = mine
    stash()
  }

  async function write() {
    clearTimeout(timer)
    if (!open()) return
    const going = copy(k.now) as T
    if (!sent.some((s) => same(s, going))) sent = [...sent.slice(-20), going]
    k.state = 'keeping'
    stash()
    try {
      const got = await sort.write(id, version, going)
      tries = 0
      k.trouble = ''
      k.problems = []
      take(got, going)
      sent = []
      stash()
      told()
    } catch (e) {
      if (e instanceof Refusal && e.stale) {
        await meet()
        return
      }
      if (e instanceof NoAnswer) {
        k.state = 'waiting'
        k.trouble = e.words
        timer = setTimeout(() => void k.flush(), patience[Math.min(tries++, patience.length - 1)])
        return
      }
      sent = sent.filter((s) => !same(s, going)) // this one was not written
      k.problems = e instanceof Refusal ? e.fields : []
      k.trouble = k.problems.length ? '' : wordsOf(e)
      k.state = 'refused'
      stash()
      return
    }
    if (open()) await write() // typed meanwhile
  }

  /** Somebody else wrote: theirs is read and put together with what is typed here. */
  async function meet() {
    try {
      const theirs = await sort.read(id)
      take(theirs, base)
      k.trouble = ''
      told()
      if (open()) await write()
    } catch (e) {
      k.state = 'waiting'
      k.trouble = wordsOf(e)
      timer = setTimeout(() => void k.flush(), patience[Math.min(tries++, patience.length - 1)])
    }
  }

  const k = reactive({
    id,
    now: copy(base) as Tree,
    texts: {},
    unread: {},
    state: 'kept',
    trouble: '',
    problems: [],
    clashes: [],
    change(next: T) {
      k.now = next as Tree
      k.problems = []
      told()
      stash()
      clearTimeout(timer)
      timer = setTimeout(() => void k.flush(), delay)
    },
    hold(field: string, text: string | null, readable = false) {
      if (text === null) delete k.texts[field]
      else k.texts[field] = text
      if (text === null || readable) delete k.unread[field]
      else k.unread[field] = true
      told()
      stash()
    },
    settle(field: string, whose: 'mine' | 'theirs') {
      const clash = k.clashes.find((c) => c.field === field)
      if (!clash) return
      k.clashes = k.clashes.filter((c) => c !== clash)
      if (whose === 'theirs') k.now = put(k.now as Tree, field, clash.theirs)
      told()
      stash()
      if (!k.clashes.length) void k.flush()
    },
    flush() {
      writing ??= write().finally(() => (writing = null))
      return writing
    },
    refresh() {
      if (writing) return // its own answer, or the clash it meets, brings it
      void sort.read(id).then((theirs) => {
        if (writing || theirs.version <= version) return
        take(theirs, base)
        told()
        if (open()) void k.flush()
      }, () => {})
    },
  }) as unknown as Kept<Tree> & { refresh: () => void }

  // What lay in the browser from before, and what the server has now.
  try {
    const text = localStorage.getItem(storage)
    if (text) {
      const old = JSON.parse(text) as { version: number; base: T; now: T; texts: Record<string, string>; sent: T[] | null }
      const newest = first
      ;({ version, base } = old)
      k.now = old.now
      k.texts = old.texts
      k.unread = Object.fromEntries(Object.keys(old.texts).map((f) => [f, true as const]))
      sent = [old.sent ?? []].flat() as T[]
      if (newest) take(newest, base)
      told()
      if (open()) timer = setTimeout(() => void k.flush(), 0)
    }
  } catch {
    localStorage.removeItem(storage)
  }
  if (!first) void meet()
  all.set(name, k)
  return k as unknown as Kept<T>
}

/** Takes up what was typed and not saved when the page was left, whatever is open now. */
export function resumeKept(sorts: Record<string, () => Promise<Sort<never>>>) {
  for (const key of Object.keys(localStorage)) {
    const [, what, id] = /^talloak kept (\w+) (\S+)$/.exec(key) ?? []
    if (what && id && sorts[what]) void sorts[what]().then((sort) => keep(sort as unknown as Sort<Tree>, id))
  }
}

/** Forgets a record that is no more. */
export function forgetKept(what: string, id: string) {
  all.delete(`${what} ${id}`)
  localStorage.removeItem(`talloak kept ${what} ${id}`)
}
