// What is done elsewhere, told by the server as it happens: two windows stay alike.
import { askAnew, questions } from './asked'
import { refreshKept } from './kept'

interface Event {
  what: string
  id: string
  review: string
}

/** Listens while the window can be seen: a browser keeps few connections to one server, and
 * who cannot be seen asks anew when it is. */
export function listen() {
  let source: EventSource | null = null
  let missed = false

  function open() {
    if (source || document.visibilityState === 'hidden') return
    source = new EventSource('/api/v1/events')
    source.onopen = () => {
      if (missed) void questions.invalidateQueries() // what came meanwhile was not told
      if (missed) refreshKept()
      missed = false
    }
    source.onerror = () => (missed = true)
    source.onmessage = (m: MessageEvent<string>) => tell(JSON.parse(m.data) as Event)
  }
  function close() {
    source?.close()
    source = null
    missed = true
  }
  document.addEventListener('visibilitychange', () => (document.visibilityState === 'hidden' ? close() : open()))
  window.addEventListener('pagehide', close)
  window.addEventListener('pageshow', open)
  open()
}

function tell(e: Event) {
  if (e.review) void askAnew('reviews', e.review)
  else if (e.what === 'rule-book') void askAnew('rule books', 'board', 'ruling', 'states', 'limit')
  else void askAnew('bench', 'staircase', 'baselines', 'ways', 'run sheet', 'bench line')
  if (e.what === 'review' || e.what === 'kit' || e.what === 'path') refreshKept(e.what, e.id)
  if (e.what === 'bench') refreshKept()
}
